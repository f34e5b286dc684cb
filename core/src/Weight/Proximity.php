<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\MeshKind;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** By the distance to another prop, as it stands at the moment. */
final readonly class Proximity implements Measured
{
    private function __construct(private string $to, private string $measured, private bool $depth, private Reach $reach)
    {
    }

    public static function label(): string
    {
        return 'Proximity';
    }

    public static function meaning(): string
    {
        return 'Near another prop';
    }

    public static function options(): array
    {
        return [
            new Option('to', 'To', 'The prop whose nearness counts.', MeshKind::class, ''),
            new Option(
                'measured',
                'Measured to',
                'Its surface, its points, the middles of its pieces, or its origin.',
                Choice::class,
                'surface',
                choices: ['surface', 'points', 'pieces', 'origin'],
            ),
            new Option(
                'inside',
                'Inside it',
                'Counts as no distance at all, or by its depth below the surface.',
                Choice::class,
                'zero',
                choices: ['zero', 'depth'],
                with: 'measured=surface',
            ),
            ...Reach::options(0.05, 0.25, share: 0.15),
        ];
    }

    public static function of(array $values): self
    {
        if ($values['to'] === '' || ! is_string($values['to'])) {
            throw Problem::inValue('to', 'The proximity is measured to no prop yet.', 'Choose the prop it is measured to.');
        }

        return new self($values['to'], $values['measured'], $values['inside'] === 'depth', Reach::of($values));
    }

    public function reads(): array
    {
        return [$this->to];
    }

    public function inWorld(): bool
    {
        return true;
    }

    public function drifts(): bool
    {
        return false;
    }

    public function reach(): Reach
    {
        return $this->reach;
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        return $this->reach->over($this->distances($on, $scene, $memory, $this->reach->farthest()));
    }

    public function distances(Points $on, Scene $scene, Memory $memory, float $limit): array
    {
        $bodies = $scene->bodies($this->to, $this->measured);
        $own = $scene->place($on->prop);
        if (count($bodies) === 1) {
            return $this->toOne($on, $own, $bodies[0], $memory, $limit);
        }
        $best = array_fill(0, $on->count(), INF);
        $box = Aabb::around((new Mesh($on->x, $on->y, $on->z, []))->placed($own));
        foreach ($bodies as $body) {
            if (self::apart($box, $body) > $limit) {
                continue;
            }
            foreach ($this->toOne($on, $own, $body, new Memory, $limit) as $i => $distance) {
                if ($distance < $best[$i]) {
                    $best[$i] = $distance;
                }
            }
        }

        return $best;
    }

    /** Metres between the box round the points and the ball round a body, at least. */
    private static function apart(Aabb $box, Body $body): float
    {
        [$middle, $radius] = $body->tree->ball();
        $at = $body->place->point($middle);
        $off = new Vec3(
            max($box->low->x - $at->x, 0.0, $at->x - $box->high->x),
            max($box->low->y - $at->y, 0.0, $at->y - $box->high->y),
            max($box->low->z - $at->z, 0.0, $at->z - $box->high->z),
        );

        return $off->length() - $radius * $body->place->size;
    }

    /**
     * What did not come near enough since it was measured to make a difference need not be measured again.
     *
     * @return list<float>
     */
    private function toOne(Points $on, Placement $own, Body $body, Memory $memory, float $limit): array
    {
        $size = $body->place->size;
        if ($size <= 0.0) {
            return array_fill(0, $on->count(), INF);
        }
        $local = (new Mesh($on->x, $on->y, $on->z, []))->placed($body->place->inverse()->after($own));
        // In the body's own metres.
        $far = $limit / $size;
        $sure = $limit < INF ? $this->reach->nearest() / $size : -INF;
        $x = $local->x;
        $y = $local->y;
        $z = $local->z;
        $n = count($x);
        if (count($memory->distance) !== $n || $memory->limit < $limit) {
            $memory->distance = [];
            $memory->limit = 1.1 * $limit;
        }
        $distance = $memory->distance;
        $which = [];
        if ($distance === []) {
            $which = array_keys($x);
        } else {
            [$ox, $oy, $oz] = [$memory->x, $memory->y, $memory->z];
            for ($i = 0; $i < $n; $i++) {
                $dx = $x[$i] - $ox[$i];
                $dy = $y[$i] - $oy[$i];
                $dz = $z[$i] - $oz[$i];
                $moved = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
                if ($moved > 0.0 && $far > $distance[$i] - $moved && $sure < $distance[$i] + $moved || $distance[$i] === INF) {
                    $which[] = $i;
                }
            }
        }
        // What lies a little farther is found too, so that it need not be looked for again at the next frame; all of it as far as
        // the memory says that distances are known.
        $beyond = $memory->limit / $size;
        if (count($which) === $n) {
            $memory->distance = $this->found($body, $x, $y, $z, $beyond);
            [$memory->x, $memory->y, $memory->z] = [$x, $y, $z];
        } elseif ($which !== []) {
            [$sx, $sy, $sz] = [[], [], []];
            foreach ($which as $i) {
                $sx[] = $x[$i];
                $sy[] = $y[$i];
                $sz[] = $z[$i];
            }
            $found = $this->found($body, $sx, $sy, $sz, $beyond);
            foreach ($which as $k => $i) {
                $memory->distance[$i] = $found[$k];
                $memory->x[$i] = $sx[$k];
                $memory->y[$i] = $sy[$k];
                $memory->z[$i] = $sz[$k];
            }
        }
        if ($size === 1.0) {
            return $memory->distance;
        }

        return array_map(static fn (float $d): float => $d * $size, $memory->distance);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<float>
     */
    private function found(Body $body, array $x, array $y, array $z, float $reach): array
    {
        $places = $body->tree->nearest($x, $y, $z, $reach);
        $out = $places->distance;
        if ($this->measured === 'surface' && ! $this->depth && $body->closed) {
            $out = array_map(static fn (float $d): float => max(0.0, $d), $body->tree->signed($x, $y, $z, $places));
        }
        // What was looked for and not found is farther than that, which is worth knowing.
        foreach ($out as $i => $d) {
            if ($d === INF && $reach < INF) {
                $out[$i] = $reach;
            }
        }

        return $out;
    }
}
