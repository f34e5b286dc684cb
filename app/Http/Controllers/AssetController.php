<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Upload;
use App\Jobs\ReadMesh;
use App\Storage\AssetStore;
use App\Storage\MeshIntake;
use App\Storage\Reading;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Problem;

/** Takes in mesh files and pictures, sent as the bare body of a request. */
final class AssetController
{
    private const MOST_PIXELS = 8192;

    /** A small mesh is read at once, a large one in the background: whoever brought it in asks how that went. */
    public function store(Request $request, AssetStore $store, MeshIntake $intake): JsonResponse
    {
        $name = Upload::name($request);
        if (! isset(MeshReader::KINDS[strtolower(pathinfo($name, PATHINFO_EXTENSION))])) {
            throw Problem::inFile('"'.mb_substr($name, -60).'" is not a kind of file that can be brought in.', 'Use OBJ, STL, PLY or GLB.');
        }
        $received = $store->receive(Upload::of($request));
        if ($received[2] <= (int) config('yard.read_at_once')) {
            return response()->json($intake->take($received, $name), 201);
        }
        $key = basename($received[0]);
        ReadMesh::dispatch($key, $received[1], $received[2], $name);

        return response()->json(['reading' => $key], 202);
    }

    /** How reading a large mesh went, or that it still goes on. */
    public function reading(string $key): JsonResponse
    {
        $reading = new Reading($key);
        $result = $reading->result();
        abort_if($result === null && ! $reading->isWanted(), 404);

        return $result === null ? response()->json(['reading' => $key] + ($reading->told() ?? []), 202) : response()->json($result, 201);
    }

    /** What is still being read is not wanted any more. */
    public function callOff(string $key): Response
    {
        (new Reading($key))->callOff();

        return response()->noContent();
    }

    public function storePicture(Request $request, AssetStore $store): JsonResponse
    {
        $name = Upload::name($request);
        $asset = $store->take(Upload::of($request), static function (string $path) use ($name): void {
            $size = @getimagesize($path);
            if ($size === false || ! in_array($size[2], [IMAGETYPE_PNG, IMAGETYPE_JPEG], true) || max($size[0], $size[1]) > self::MOST_PIXELS) {
                throw Problem::inFile('"'.mb_substr($name, -60).'" is no picture that can be shown.', 'Use PNG or JPEG, at most '.self::MOST_PIXELS.' pixels a side.');
            }
        });

        return response()->json(['asset' => $asset->hash, 'file' => $name], 201);
    }

    public function picture(string $asset, AssetStore $store): BinaryFileResponse
    {
        $path = $store->path($asset);
        $size = @getimagesize($path);
        abort_if($size === false, 404);

        // What an asset holds never changes; another picture has another name.
        return response()->file($path, ['Content-Type' => $size['mime'], 'Cache-Control' => 'public, max-age=31536000, immutable']);
    }

    /** The groups and materials of faces in a mesh file, by name. */
    public function names(Request $request, string $asset, MeshIntake $intake): JsonResponse
    {
        return response()->json($intake->names($asset, Upload::name($request)));
    }
}
