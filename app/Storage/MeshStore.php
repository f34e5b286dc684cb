<?php

declare(strict_types=1);

namespace App\Storage;

use Closure;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Shot\PreparedMeshes;

/** Prepared meshes on the disk, to the last bit: a break must not depend on whether its mesh was kept. */
final class MeshStore implements PreparedMeshes
{
    /** Field of a mesh by how its numbers are packed. */
    private const FIELDS = ['x' => 'e', 'y' => 'e', 'z' => 'e', 'faces' => 'V', 'normals' => 'e', 'sides' => 'V', 'uvs' => 'e', 'rim' => 'e'];

    public function mesh(string $key, Closure $make): Mesh
    {
        $kept = YardFiles::kept(self::name($key).'.mesh');
        if ($kept !== null) {
            return self::decoded($kept);
        }
        $mesh = $make();
        YardFiles::keep(self::name($key).'.mesh', self::encoded($mesh));

        return $mesh;
    }

    public function fitness(string $key, Closure $find): Fitness
    {
        $bytes = YardFiles::kept(self::name($key).'.fitness-2');
        $kept = $bytes === null ? null : @unserialize($bytes, ['allowed_classes' => [Fitness::class, Aabb::class, Vec3::class]]);
        if ($kept instanceof Fitness) {
            return $kept;
        }
        $fitness = $find();
        YardFiles::keep(self::name($key).'.fitness-2', serialize($fitness));

        return $fitness;
    }

    private static function name(string $key): string
    {
        return 'meshes/'.substr($key, 0, 2).'/'.$key;
    }

    private static function encoded(Mesh $mesh): string
    {
        $out = '';
        foreach (self::FIELDS as $field => $code) {
            $values = $mesh->{$field};
            $out .= pack('l', $values === null ? -1 : count($values)).($values === null || $values === [] ? '' : pack($code.'*', ...$values));
        }

        return $out;
    }

    private static function decoded(string $bytes): Mesh
    {
        $at = 0;
        $fields = [];
        foreach (self::FIELDS as $field => $code) {
            $count = (unpack('l', $bytes, $at) ?: [1 => -1])[1];
            $at += 4;
            $fields[$field] = $count < 0 ? null : ($count === 0 ? [] : array_values(unpack($code.$count, $bytes, $at) ?: []));
            $at += max(0, $count) * ($code === 'V' ? 4 : 8);
        }

        return new Mesh(...$fields);
    }
}
