<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Storage\AssetStore;
use App\Storage\YardFiles;
use App\Yard\NewShot;
use App\Yard\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Format\UniqueNames;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\Upgrade;
use ZipArchive;

/** A whole shot as one file: its document and the meshes and pictures it uses, in a zip. */
final class ShotPackageController
{
    public function export(Shot $shot, AssetStore $assets): BinaryFileResponse
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'shot');
        $zip = new ZipArchive;
        $zip->open($path, ZipArchive::OVERWRITE);
        $zip->addFromString('shot.json', (string) json_encode($shot->decoded(), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));
        foreach (array_keys($shot->spec()->assets) as $asset) {
            $zip->addFile($assets->path($asset), 'assets/'.$asset);
        }
        if (! $zip->close()) {
            throw Problem::full();
        }

        return response()->download($path, UniqueNames::plain($shot->name).'.shot.zip')->deleteFileAfterSend();
    }

    public function import(Request $request, NewShot $new, AssetStore $assets): JsonResponse
    {
        $path = YardFiles::path('assets/import-'.bin2hex(random_bytes(6)));
        file_put_contents($path, $request->getContent(true));
        try {
            $zip = new ZipArchive;
            if ($zip->open($path, ZipArchive::RDONLY) !== true || ($text = $zip->getFromName('shot.json')) === false) {
                throw Problem::inFile('This is no packed shot: it holds no shot document.', 'Choose a file that was made with "Export shot".');
            }
            $spec = ShotSpec::fromJson($text);
            foreach ($spec->props as $prop) {
                foreach ($prop->assets() as $asset => $file) {
                    $in = $zip->getStream('assets/'.$asset);
                    if ($in === false || $assets->take($in, $file, null)->hash !== $asset) {
                        throw Problem::inFile('The packed shot lacks a file of '.$prop->name.', or it is damaged.', 'Export the shot again.');
                    }
                }
            }
            $document = Upgrade::of(json_decode($text));
            $document->name = $new->freeName($document->name);

            return response()->json(ShotView::of($new->keep($document)), 201);
        } finally {
            @unlink($path);
        }
    }
}
