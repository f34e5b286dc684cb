<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Http\Request;
use YardBreak\Core\Format\Text;

/** A file that a request brings as its bare body. */
final class Upload
{
    /** What is brought in where, and what to do where it is too large. */
    private const REMEDIES = [
        'api/assets' => 'Reduce the mesh, or save it in a binary format.',
        'api/pictures' => 'Save the picture at fewer pixels, or as JPEG.',
        'api/plates/film' => 'Save the film at fewer pixels, or cut it shorter.',
        'api/shots/import' => 'Bring its meshes in one by one.',
    ];

    /**
     * @param  string  $name  empty where none is given
     * @param  resource  $stream
     * @param  int|null  $announced  bytes the sender announced
     * @param  string  $remedy  where it is too large
     */
    public function __construct(public readonly string $name, public $stream, public readonly ?int $announced = null, public readonly string $remedy = '')
    {
    }

    public static function of(Request $request): self
    {
        return new self(self::name($request), $request->getContent(true), self::announced($request), self::remedy($request) ?? '');
    }

    /** What to do where a request brings a file that is too large; null where it brings none. */
    public static function remedy(Request $request): ?string
    {
        return self::REMEDIES[$request->path()] ?? null;
    }

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
