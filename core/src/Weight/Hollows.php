<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Cell;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\NumberInTime;

/**
 * By how sunk a place is: how much of the surface close to it stands above its own plane. Each of a fair sample of the points
 * within a distance counts by the sine of its height as seen from there.
 */
final readonly class Hollows implements Source
{
    use Still;

    /** Points looked at round each, about, at most. */
    private const LOOKED_AT = 60;

    private function __construct(private float $size, private float $full, private float $none)
    {
    }

    public static function label(): string
    {
        return 'Hollows';
    }

    public static function meaning(): string
    {
        return 'Crevices; inverted, edges and bumps';
    }

    public static function options(): array
    {
        return [
            new Option('size', 'Size', 'How wide the hollows are that count.', NumberInTime::class, 0.05, 0.0001, 1000, 'm', share: 0.1),
            new Option('full', 'Full from', 'As sunk as this, the weight is 1: 0 is flat, 1 the bottom of a hole.', NumberInTime::class, 0.3, -1, 1),
            new Option('none', 'None up to', 'The weight is 0 up to here; below 0 are edges and bumps.', NumberInTime::class, 0.02, -1, 1),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['size'], $values['full'], $values['none']);
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        if ($on->arePieces()) {
            $mesh = $scene->points($on->prop);

            return Carried::over($this->over($mesh, $scene, new Memory), $on, $scene->surface($on->prop));
        }
        $span = $this->full - $this->none;

        return array_map(
            fn (float $sunk): float => $span === 0.0 ? ($sunk >= $this->full ? 1.0 : 0.0) : max(0.0, min(1.0, ($sunk - $this->none) / $span)),
            $this->sunk($on),
        );
    }

    /** @return list<float> −1 (the top of a spike) … 1 (the bottom of a hole) */
    private function sunk(Points $on): array
    {
        $k = 1.0 / $this->size;
        $sample = self::sample($on, $this->size);
        $cells = [];
        foreach ($sample as $i) {
            $cells[Cell::of($on->x[$i] * $k, $on->y[$i] * $k, $on->z[$i] * $k)][] = $i;
        }
        [$nx, $ny, $nz] = $on->normals();
        $out = [];
        foreach ($on->x as $i => $x) {
            $y = $on->y[$i];
            $z = $on->z[$i];
            $sum = 0.0;
            $count = 0;
            $cell = Cell::of($x * $k, $y * $k, $z * $k);
            foreach (Cell::beside() as $step) {
                foreach ($cells[$cell + $step] ?? [] as $j) {
                    $dx = $on->x[$j] - $x;
                    $dy = $on->y[$j] - $y;
                    $dz = $on->z[$j] - $z;
                    $d = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
                    if ($d > 0.0 && $d <= $this->size) {
                        $sum += ($dx * $nx[$i] + $dy * $ny[$i] + $dz * $nz[$i]) / $d;
                        $count++;
                    }
                }
            }
            $out[] = $count === 0 ? 0.0 : $sum / $count;
        }

        return $out;
    }

    /** @return list<int> points, thinned out where there are more than enough within the distance */
    private static function sample(Points $on, float $size): array
    {
        $n = $on->count();
        $area = $on->mesh === null ? 0.0 : array_sum(\YardBreak\Core\Geometry\FaceNormals::areas($on->mesh));
        $within = $area > 0.0 ? $n * M_PI * $size * $size / $area : 0.0;
        if ($within <= self::LOOKED_AT) {
            return array_keys($on->x);
        }
        $random = new SeededRandom(1);
        $share = self::LOOKED_AT / $within;

        return array_values(array_filter(array_keys($on->x), static fn (int $i): bool => $random->share() < $share));
    }
}
