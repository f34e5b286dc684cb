<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

/** Text from bytes of whatever origin. */
final class Text
{
    public const BYTE_ORDER_MARK = "\xEF\xBB\xBF";

    /** What is no UTF-8 is taken to be Windows-1252, which gives every byte a letter or a place. */
    public static function of(string $bytes): string
    {
        return mb_check_encoding($bytes, 'UTF-8') ? $bytes : mb_scrub((string) mb_convert_encoding($bytes, 'UTF-8', 'Windows-1252'));
    }

    /** The last part of a name of a file, without what no name may hold. */
    public static function fileName(string $bytes): string
    {
        return mb_substr((string) preg_replace('/[\x00-\x1f\x7f]+/', '', basename(str_replace('\\', '/', self::of($bytes)))), -200);
    }
}
