<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Upload;
use App\Storage\AssetStore;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Format\OutlineReader;
use YardBreak\Core\Problem;

/** Reads the outlines in an SVG drawing or a PNG picture, sent as the bare body of a request; nothing is kept. */
final class OutlineController
{
    public function __invoke(Request $request): JsonResponse
    {
        $name = Upload::name($request);
        $bytes = $request->getContent();
        $path = AssetStore::incoming();
        try {
            if (@file_put_contents($path, $bytes) !== strlen($bytes)) {
                throw Problem::notWritten($path);
            }

            return response()->json(OutlineReader::read($path, $name)->toArray());
        } catch (Problem $e) {
            throw new Problem($e->kind, str_replace(basename($path), $name, $e->getMessage()), $e->path, $e->remedy);
        } finally {
            @unlink($path);
        }
    }
}
