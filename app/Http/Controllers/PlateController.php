<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Upload;
use App\Jobs\ReadFilm;
use App\Storage\AssetStore;
use App\Storage\Film;
use App\Storage\Reading;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\PlateMaker;

/** Footage behind a shot: numbered pictures that were brought in, or a film. */
final class PlateController
{
    public function pictures(Request $request, AssetStore $store): JsonResponse
    {
        $files = [];
        foreach (is_array($request->input('files')) ? $request->input('files') : [] as $file) {
            $asset = is_array($file) ? $file['asset'] ?? null : null;
            $name = is_array($file) ? $file['name'] ?? null : null;
            if (! is_string($asset) || preg_match('/^[0-9a-f]{64}$/', $asset) !== 1 || ! is_string($name)) {
                throw Problem::inValue('files', 'Each picture needs a name, and the asset it was kept as.');
            }
            $files[] = ['name' => $name, 'asset' => $asset];
        }

        return response()->json(PlateMaker::of($files, $store->located(...)));
    }

    public function film(Request $request, AssetStore $store): JsonResponse
    {
        $name = Upload::name($request);
        if (! Film::canBeRead()) {
            throw Film::missing();
        }
        $reading = new Reading(basename($store->receive(Upload::of($request))[0]));
        if (Film::container($reading->path()) === null) {
            $reading->callOff();
            throw Film::unreadable($name);
        }
        ReadFilm::dispatch($reading->key, $name);

        return response()->json(['reading' => $reading->key], 202);
    }
}
