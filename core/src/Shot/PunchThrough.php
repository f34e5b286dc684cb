<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\Plan\Basis;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;

/**
 * One punch through several layers: the same hole, in the same place of the scene, put into each prop's own
 * coordinates. Every layer tears its own way.
 */
final class PunchThrough
{
    /** How much narrower the hole is in each further layer. */
    private const NARROWER = 0.9;

    public function __construct(private readonly PropMaker $maker)
    {
    }

    /**
     * @param  string  $from  id of the prop that is punched already
     * @param  list<string>  $others  ids of the layers behind it, in their order
     * @return list<array{op: string, path: string, value: mixed}> JSON Patch
     *
     * @throws Problem where there is no such punch or prop
     */
    public function patch(\stdClass $document, array $others, string $from): array
    {
        $spec = ShotSpec::fromObject($document);
        $props = $index = [];
        foreach ($spec->props as $prop) {
            $props[$prop->id] = $prop;
        }
        foreach ($document->props as $i => $prop) {
            $index[$prop->id] = $i;
        }
        $first = $props[$from] ?? null;
        if ($first === null || ($first->break['pattern'] ?? '') !== 'punch') {
            throw Problem::inValue('from', 'This prop is not punched.', 'Choose the pattern Punch for it first.');
        }
        $values = $first->break['values'];
        $box = Aabb::around($this->maker->mesh($first));
        $turn = $first->place->at($spec->first)->turn;
        $at = $turn->turn(Vec3::orNull($values['point'] ?? null) ?? $box->centre())->plus($first->place->at($spec->first)->position);
        $axis = $turn->turn(Vec3::orNull($values['axis'] ?? null) ?? Basis::thinnest($box->size())->times(-1.0));
        $patch = [];
        foreach ($others as $k => $id) {
            $prop = $props[$id]
                ?? throw Problem::inValue('others', 'There is no prop "'.mb_substr($id, 0, 40).'" to punch.', 'Choose among the props of the shot.');
            $place = $prop->place->at($spec->first);
            $back = $place->turn->inverse();
            $patch[] = ['op' => 'add', 'path' => '/props/'.$index[$id].'/break', 'value' => ['pattern' => 'punch', 'values' => [
                ...$values,
                'point' => self::rounded($back->turn($at->minus($place->position))),
                'axis' => self::rounded($back->turn($axis)),
                'radius' => round(($values['radius'] ?? 0.2) * self::NARROWER ** ($k + 1), 4),
                'seed' => (($values['seed'] ?? 1) + 101 * ($k + 1)) % 1000000,
            ]]];
        }

        return $patch;
    }

    /** @return list<float> */
    private static function rounded(Vec3 $v): array
    {
        return array_map(static fn (float $c): float => round($c, 6) + 0.0, $v->toArray());
    }
}
