<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Upload;
use App\Models\Shot;
use App\Storage\AssetStore;
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
    private const DOCUMENT = 'shot.json';

    /** Props, each with a mesh and some pictures. */
    private const MOST_FILES = 1000;

    public function export(Shot $shot, AssetStore $assets): BinaryFileResponse
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'shot');
        $zip = new ZipArchive;
        $zip->open($path, ZipArchive::OVERWRITE);
        $zip->addFromString(self::DOCUMENT, (string) json_encode($shot->decoded(), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));
        foreach (array_keys($shot->spec()->assets) as $asset) {
            $zip->addFile($assets->path($asset), 'assets/'.$asset);
        }
        if (! $zip->close()) {
            throw Problem::notWritten($path);
        }

        return response()->download($path, UniqueNames::plain($shot->name).'.shot.zip')->deleteFileAfterSend();
    }

    public function import(Request $request, NewShot $new, AssetStore $assets): JsonResponse
    {
        $path = AssetStore::incoming();
        $taken = [];
        try {
            if (@file_put_contents($path, $request->getContent(true)) === false) {
                throw Problem::notWritten($path);
            }
            $zip = self::opened($path);
            $text = (string) $zip->getFromName(self::DOCUMENT);
            $spec = ShotSpec::fromJson($text);
            foreach ($spec->assets as $asset => $file) {
                $in = $zip->getStream('assets/'.$asset);
                if ($in === false) {
                    throw self::damaged($file);
                }
                $taken[] = $assets->take(new Upload($file, $in), static fn (string $part, string $hash) => $hash === $asset ? null : throw self::damaged($file));
            }
            $document = Upgrade::of(json_decode($text));
            $document->name = $new->freeName($document->name);
            $shot = $new->keep($document);
            $taken = [];

            return response()->json(ShotView::of($shot), 201);
        } finally {
            @unlink($path);
            foreach ($taken as $asset) {
                if ($asset->wasRecentlyCreated) {
                    $assets->drop($asset);
                }
            }
        }
    }

    /** What a package says it unpacks to is looked at before any of it is. */
    private static function opened(string $path): ZipArchive
    {
        $zip = new ZipArchive;
        $document = $zip->open($path, ZipArchive::RDONLY) === true ? $zip->statName(self::DOCUMENT) : false;
        if ($document === false) {
            throw Problem::inFile('This is no packed shot: it holds no shot document.', 'Choose a file that was made with "Export shot".');
        }
        $all = 0;
        for ($i = 0; $i < $zip->numFiles && $i < self::MOST_FILES; $i++) {
            $all += (int) ($zip->statIndex($i)['size'] ?? 0);
        }
        if ($document['size'] > (int) config('yard.largest_change') || $zip->numFiles > self::MOST_FILES || $all > 2 * (int) config('yard.largest_upload')) {
            throw Problem::inFile('This packed shot would unpack to more than can be taken in.', 'Choose a file that was made with "Export shot", or bring its meshes in one by one.');
        }

        return $zip;
    }

    private static function damaged(string $file): Problem
    {
        return Problem::inFile('The packed shot lacks the file '.$file.', or it is damaged.', 'Export the shot again.');
    }
}
