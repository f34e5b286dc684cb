<?php

declare(strict_types=1);

namespace App\Yard;

use YardBreak\Core\Bake\History;
use YardBreak\Core\Shot\ShotSpec;

/** Where answers about a prop are kept that hang on all that moves its shot. */
final class KeptAnswers
{
    /** @return string the file: another, once anything that moves the shot is another */
    public static function name(string $folder, ShotSpec $shot, string $prop): string
    {
        $chain = History::of($shot)->chain();

        return 'maps/'.$folder.'/'.bin2hex($chain[count($chain) - 1]).'-'.substr(hash('sha256', $prop), 0, 16).'.json';
    }
}
