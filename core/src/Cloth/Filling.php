<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/** What closed parts of a cloth are filled with: air of a set amount, or something that keeps its volume. */
final readonly class Filling
{
    public const PRESSURE = 'pressure';

    public const AIR = 'air';

    public const VOLUME = 'volume';

    public const KINDS = [self::PRESSURE, self::AIR, self::VOLUME];

    /** Pa, of the air around (ISO 2533, sea level). */
    private const AROUND = 101325.0;

    /** Pa by which what keeps its volume pushes back for as much of it as there is. */
    private const KEEPS = 50000.0;

    /**
     * @param  string  $kind  AIR or VOLUME
     * @param  float  $pressure  Pa, over that of the air around, in the volume as made
     * @param  float  $times  as large as made, what keeps its volume
     */
    public function __construct(private string $kind, private float $pressure, private float $times)
    {
    }

    /**
     * @param  float  $made  m³, its volume as made
     * @return array{float, float} Pa outwards at a volume, and by how much that falls a m³ it grows
     */
    public function at(float $volume, float $made): array
    {
        if ($this->kind === self::VOLUME) {
            return [$this->pressure - self::KEEPS * ($volume / ($this->times * $made) - 1.0), self::KEEPS / ($this->times * $made)];
        }
        // p·V stays: that of a gas whose temperature does (Boyle).
        $amount = (self::AROUND + $this->pressure) * $made;
        $least = max($volume, 1e-3 * $made);

        return [$amount / $least - self::AROUND, $amount / ($least * $least)];
    }

    /**
     * What parts enclose.
     *
     * @param  list<int>  $parts  by point
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>, list<float>} m³ by part, of those that enclose nothing too; and m² by point: by how much that grows as it goes
     */
    public static function volumes(Weave $weave, array $parts, array $x, array $y, array $z): array
    {
        $volumes = array_fill(0, $parts === [] ? 0 : max($parts) + 1, 0.0);
        $gx = $gy = $gz = array_fill(0, $weave->count(), 0.0);
        $faces = $weave->faces;
        for ($t = 0, $n = count($faces); $t < $n; $t += 3) {
            $a = $faces[$t];
            $b = $faces[$t + 1];
            $c = $faces[$t + 2];
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $wx = $x[$c] - $x[$a];
            $wy = $y[$c] - $y[$a];
            $wz = $z[$c] - $z[$a];
            $nx = ($uy * $wz - $uz * $wy) / 6.0;
            $ny = ($uz * $wx - $ux * $wz) / 6.0;
            $nz = ($ux * $wy - $uy * $wx) / 6.0;
            $volumes[$parts[$a]] += $x[$a] * $nx + $y[$a] * $ny + $z[$a] * $nz;
            foreach ([$a, $b, $c] as $p) {
                $gx[$p] += $nx;
                $gy[$p] += $ny;
                $gz[$p] += $nz;
            }
        }

        return [$volumes, $gx, $gy, $gz];
    }
}
