<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Problem;

/** Takes mesh files into the yard and tells what is in them. */
final class MeshIntake
{
    public function __construct(private readonly AssetStore $store)
    {
    }

    /**
     * @param  array{string, string, int}  $received  as the store receives it
     * @return array{asset: string, file: string, groups: list<string>, colour: string|null, fitness: array<string, mixed>}
     *
     * @throws Problem where it is no mesh that can be read; then nothing of it stays
     */
    public function take(array $received, string $name): array
    {
        $groups = [];
        $said = [];
        $asset = $this->store->keep($received, $name, static function (string $path) use ($name, &$groups, &$said): void {
            $file = MeshReader::read($path, $name);
            $groups = $file->groups();
            $said = ['colour' => $file->webColour(), 'fitness' => Fitness::of($file->mesh)->toArray()];
        });

        return ['asset' => $asset->hash, 'file' => $name, 'groups' => $this->keepGroups($asset->hash, $groups), ...$said];
    }

    /** @return list<string>|null names of the groups of faces in a file, where they are kept */
    public function groups(string $asset): ?array
    {
        $known = @file_get_contents(YardFiles::path(self::groupsName($asset)));

        return $known === false ? null : json_decode($known);
    }

    /**
     * @param  list<string>  $groups
     * @return list<string>
     */
    public function keepGroups(string $asset, array $groups): array
    {
        YardFiles::write(self::groupsName($asset), (string) json_encode($groups));

        return $groups;
    }

    private static function groupsName(string $asset): string
    {
        return 'asset-groups/'.basename($asset).'.json';
    }
}
