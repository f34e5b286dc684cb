<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use FontLib\WOFF\File;
use YardBreak\Core\Problem;

/** A font that is unpacked into a file that goes away with it: the library it is read by would leave one behind for each. */
final class FontFile extends File
{
    /**
     * @param  bool  $allow_memory
     * @return resource
     */
    public static function getTempFile($allow_memory = true)
    {
        return tmpfile() ?: throw Problem::notWritten(sys_get_temp_dir());
    }

    /** The library finds its own classes by what the first part of a name would say. */
    public function getFontType(): string
    {
        return 'WOFF';
    }
}
