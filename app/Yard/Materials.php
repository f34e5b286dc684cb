<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Shot;
use App\Models\UsualMaterial;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\MaterialCatalogue;

/** What things of each material begin as: as given, or as somebody keeps it in this yard. */
final class Materials
{
    /** @return array<string, array<string, mixed>> by name: how it is called, what it begins as, and, where that is the yard's own, `own` */
    public static function all(): array
    {
        $out = MaterialCatalogue::MATERIALS;
        foreach (UsualMaterial::query()->get() as $usual) {
            if (isset($out[$usual->name])) {
                $out[$usual->name] = ['label' => $out[$usual->name]['label'], 'own' => true] + json_decode($usual->material, true) + $out[$usual->name];
            }
        }

        return $out;
    }

    /**
     * Keeps what a prop is made of as what everything of its material begins as. What is keyed, or goes by a map, is the prop's alone.
     *
     * @throws Problem where it is of no material that is given
     */
    public static function keep(Shot $shot, string $prop): void
    {
        $material = (array) PasteProp::prop($shot, $prop)->material;
        $name = (string) $material['name'];
        if (! isset(MaterialCatalogue::MATERIALS[$name])) {
            throw Problem::inValue('prop', 'There is no usual '.$name.': it is a material of its own.', 'Choose one of those that are given first.');
        }
        $plain = array_filter($material, static fn (mixed $value): bool => ! $value instanceof \stdClass || ! isset($value->keys) && ! isset($value->map));
        unset($plain['name']);
        UsualMaterial::query()->updateOrCreate(['name' => $name], ['material' => json_encode($plain, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE)]);
    }

    /** What is made of it begins as given again. */
    public static function forget(string $name): void
    {
        UsualMaterial::query()->whereKey($name)->delete();
    }
}
