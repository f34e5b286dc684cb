<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Storage\YardFiles;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Format\OutlineReader;
use YardBreak\Core\Problem;

/** Reads the outlines in an SVG drawing or a PNG picture, sent as the bare body of a request; nothing is kept. */
final class OutlineController
{
    private const MOST_BYTES = 16 * 1024 * 1024;

    public function __invoke(Request $request): JsonResponse
    {
        $name = basename((string) $request->query('name'));
        $bytes = $request->getContent();
        if (strlen($bytes) > self::MOST_BYTES) {
            throw Problem::inFile(mb_substr($name, -60).' is larger than 16 MB.', 'Make it smaller first.');
        }
        $path = YardFiles::path('assets/outline-'.bin2hex(random_bytes(6)));
        file_put_contents($path, $bytes);
        try {
            return response()->json(OutlineReader::read($path, $name)->toArray());
        } catch (Problem $e) {
            throw new Problem($e->kind, str_replace(basename($path), $name, $e->getMessage()), $e->path, $e->remedy);
        } finally {
            @unlink($path);
        }
    }
}
