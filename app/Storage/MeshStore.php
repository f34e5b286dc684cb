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
        $path = YardFiles::path(self::name($key).'.mesh');
        $bytes = is_file($path) ? (string) file_get_contents($path) : '';
        if ($bytes !== '') {
            return self::decoded($bytes);
        }
        $mesh = $make();
        YardFiles::write(self::name($key).'.mesh', self::encoded($mesh));

        return $mesh;
    }

    public function fitness(string $key, Closure $find): Fitness
    {
        $path = YardFiles::path(self::name($key).'.fitness');
        $kept = is_file($path) ? @unserialize((string) file_get_contents($path), ['allowed_classes' => [Fitness::class, Aabb::class, Vec3::class]]) : null;
        if ($kept instanceof Fitness) {
            return $kept;
        }
        $fitness = $find();
        YardFiles::write(self::name($key).'.fitness', serialize($fitness));

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
