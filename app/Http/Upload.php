<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Http\Request;
use YardBreak\Core\Format\Text;

/** What a request says of the file it brings as its bare body. */
final class Upload
{
    /** The file's name, empty where none is given. */
    public static function name(Request $request): string
    {
        $name = $request->query('name');

        return Text::fileName(is_string($name) ? $name : '');
    }

    /** Bytes the sender announced, or null where it did not. */
    public static function announced(Request $request): ?int
    {
        $announced = $request->header('Content-Length');

        return is_numeric($announced) ? (int) $announced : null;
    }
}
