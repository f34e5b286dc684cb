<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Storage\AssetStore;
use App\Storage\YardFiles;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\Text;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Problem;

/** Takes in mesh files and pictures, sent as the bare body of a request. */
final class AssetController
{
    private const MOST_PIXELS = 8192;

    public function store(Request $request, AssetStore $store): JsonResponse
    {
        $name = self::name($request);
        if (! isset(MeshReader::KINDS[strtolower(pathinfo($name, PATHINFO_EXTENSION))])) {
            throw Problem::inFile('"'.mb_substr($name, -60).'" is not a kind of file that can be brought in.', 'Use OBJ, STL, PLY or GLB.');
        }
        $announced = $request->header('Content-Length');
        $said = [];
        $groups = [];
        $asset = $store->take($request->getContent(true), $name, is_numeric($announced) ? (int) $announced : null, static function (string $path) use ($name, &$said, &$groups): void {
            $file = MeshReader::read($path, $name);
            $groups = $file->groups();
            $said = ['groups' => $groups, 'colour' => $file->webColour(), 'fitness' => Fitness::of($file->mesh)->toArray()];
        });
        $this->keepGroups($asset->hash, $groups);

        return response()->json(['asset' => $asset->hash, 'file' => $name, ...$said], 201);
    }

    public function storePicture(Request $request, AssetStore $store): JsonResponse
    {
        $name = self::name($request);
        $announced = $request->header('Content-Length');
        $asset = $store->take($request->getContent(true), $name, is_numeric($announced) ? (int) $announced : null, static function (string $path) use ($name): void {
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

    /** The groups of faces in a mesh file, by name. */
    public function groups(string $asset, string $name, AssetStore $store): JsonResponse
    {
        $name = Text::fileName($name);
        $known = @file_get_contents(YardFiles::path(self::groupsName($asset)));
        $groups = $known === false ? $this->keepGroups($asset, MeshReader::read($store->path($asset), $name)->groups()) : json_decode($known);

        return response()->json(['groups' => $groups]);
    }

    /**
     * @param  list<string>  $groups
     * @return list<string>
     */
    private function keepGroups(string $asset, array $groups): array
    {
        YardFiles::write(self::groupsName($asset), (string) json_encode($groups));

        return $groups;
    }

    private static function name(Request $request): string
    {
        $name = $request->query('name');

        return Text::fileName(is_string($name) ? $name : '');
    }

    private static function groupsName(string $asset): string
    {
        return 'asset-groups/'.basename($asset).'.json';
    }
}
