<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Format\MeshFile;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Problem;

/** Takes mesh files into the yard and tells what is in them. */
final class MeshIntake
{
    public function __construct(private readonly AssetStore $store)
    {
    }

    /**
     * @param  array{string, string, int}  $received  as the store receives it
     * @return array{asset: string, file: string, groups: list<string>, materials: list<string>, colour: string|null, fitness: array<string, mixed>}
     *
     * @throws Problem where it is no mesh that can be read; then nothing of it stays
     */
    public function take(array $received, string $name): array
    {
        $names = ['groups' => [], 'materials' => []];
        $said = [];
        $asset = $this->store->keep($received, $name, static function (string $path) use ($name, &$names, &$said): void {
            $file = MeshReader::read($path, $name);
            $names = self::namesIn($file);
            $said = ['colour' => $file->webColour(), 'fitness' => Fitness::of($file->mesh)->toArray()];
        });

        return ['asset' => $asset->hash, 'file' => $name, ...$this->keep($asset->hash, $names), ...$said];
    }

    /**
     * What faces of a file that was taken in can be named by.
     *
     * @return array{groups: list<string>, materials: list<string>}
     *
     * @throws Problem where it cannot be read any more
     */
    public function names(string $asset, string $name): array
    {
        $known = @file_get_contents(YardFiles::path(self::namesName($asset)));

        return $known === false ? $this->keep($asset, self::namesIn(MeshReader::read($this->store->path($asset), $name))) : json_decode($known, true);
    }

    /** @return array{groups: list<string>, materials: list<string>} */
    private static function namesIn(MeshFile $file): array
    {
        return ['groups' => $file->names(NamedFaces::Group), 'materials' => $file->names(NamedFaces::Material)];
    }

    /**
     * @param  array{groups: list<string>, materials: list<string>}  $names
     * @return array{groups: list<string>, materials: list<string>}
     */
    private function keep(string $asset, array $names): array
    {
        YardFiles::write(self::namesName($asset), (string) json_encode($names));

        return $names;
    }

    private static function namesName(string $asset): string
    {
        return 'asset-names/'.basename($asset).'.json';
    }
}
