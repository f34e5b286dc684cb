<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\MeshKind;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\PointInTime;

/** By the angle between the surface and a direction, or the way to another prop. */
final readonly class Facing implements Measured
{
    private function __construct(private Vec3 $direction, private string $to, private Reach $reach)
    {
    }

    public static function label(): string
    {
        return 'Facing';
    }

    public static function meaning(): string
    {
        return 'Where the surface looks one way';
    }

    public static function options(): array
    {
        return [
            new Option('direction', 'Direction', 'Where the surface is to look.', PointInTime::class, [0.0, 1.0, 0.0], -1, 1),
            new Option('to', 'Or to', 'A prop to be looked at, instead of a direction.', MeshKind::class, ''),
            ...Reach::options(20.0, 70.0, 0.0, 180.0, '°'),
        ];
    }

    public static function of(array $values): self
    {
        $direction = Vec3::of($values['direction']);
        if ($values['to'] === '' && $direction->length() < 1e-6) {
            throw Problem::inValue('direction', 'The direction has no length.', 'Give it a direction, such as 0,1,0.');
        }

        return new self($direction->unit(), (string) $values['to'], Reach::of($values));
    }

    public function reads(): array
    {
        return $this->to === '' ? [] : [$this->to];
    }

    public function inWorld(): bool
    {
        return $this->to !== '';
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
        return $this->reach->over($this->distances($on, $scene, $memory, INF));
    }

    public function distances(Points $on, Scene $scene, Memory $memory, float $limit): array
    {
        $there = $this->to === '' ? null : $scene->place($this->to)->position;
        [$nx, $ny, $nz] = $on->normals();
        [$dx, $dy, $dz] = $this->direction->toArray();
        $out = [];
        foreach ($nx as $i => $a) {
            if ($there !== null) {
                [$dx, $dy, $dz] = $there->minus(new Vec3($on->x[$i], $on->y[$i], $on->z[$i]))->unit()->toArray();
            }
            // A piece has no side it looks to.
            $out[] = $on->arePieces() ? 180.0 : rad2deg(acos(max(-1.0, min(1.0, $a * $dx + $ny[$i] * $dy + $nz[$i] * $dz))));
        }

        return $out;
    }
}
