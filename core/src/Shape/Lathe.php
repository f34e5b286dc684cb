<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Profile;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A profile of (radius, height) points turned about the y axis. */
final class Lathe implements Shape
{
    public static function label(): string
    {
        return 'Lathe';
    }

    public static function options(): array
    {
        return [
            new Option(
                'profile',
                'Profile',
                'Points as radius and height, from the foot up the outside and back down the inside.',
                Profile::class,
                [],
                0,
                1000,
                'm',
            ),
            new Option('rounding', 'Rounding', 'Points put between every two of the profile, along a smooth curve through all.', Whole::class, 0, 0, 12),
            new Option('segments', 'Segments', 'Faces round the axis.', Whole::class, 64, 3, 2048),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        $profile = $values['profile'];

        return self::turned($values['rounding'] > 0 ? self::rounded($profile, (int) $values['rounding']) : $profile, (int) $values['segments']);
    }

    /**
     * Points along a centripetal Catmull–Rom curve through the profile, which neither loops nor overshoots
     * between neighbours (Yuksel, Schaefer & Keyser 2011, "Parameterization and applications of Catmull–Rom curves").
     *
     * @param  list<array{float, float}>  $profile
     * @return list<array{float, float}>
     */
    public static function rounded(array $profile, int $between): array
    {
        $n = count($profile);
        $out = [];
        for ($i = 0; $i < $n - 1; $i++) {
            $p1 = $profile[$i];
            $p2 = $profile[$i + 1];
            $p0 = $profile[$i - 1] ?? [2 * $p1[0] - $p2[0], 2 * $p1[1] - $p2[1]];
            $p3 = $profile[$i + 2] ?? [2 * $p2[0] - $p1[0], 2 * $p2[1] - $p1[1]];
            $out[] = $p1;
            $t1 = self::knot($p0, $p1);
            $t2 = $t1 + self::knot($p1, $p2);
            $t3 = $t2 + self::knot($p2, $p3);
            for ($k = 1; $k <= $between && $t2 > $t1; $k++) {
                $t = $t1 + ($t2 - $t1) * $k / ($between + 1);
                $point = [];
                foreach ([0, 1] as $a) {
                    $a1 = self::mix($p0[$a], $p1[$a], 0.0, $t1, $t);
                    $a2 = self::mix($p1[$a], $p2[$a], $t1, $t2, $t);
                    $a3 = self::mix($p2[$a], $p3[$a], $t2, $t3, $t);
                    $point[] = self::mix(self::mix($a1, $a2, 0.0, $t2, $t), self::mix($a2, $a3, $t1, $t3, $t), $t1, $t2, $t);
                }
                $out[] = [max(1e-6, $point[0]), $point[1]];
            }
        }
        $out[] = $profile[$n - 1];

        return $out;
    }

    /**
     * @param  array{float, float}  $a
     * @param  array{float, float}  $b
     */
    private static function knot(array $a, array $b): float
    {
        return (($b[0] - $a[0]) ** 2 + ($b[1] - $a[1]) ** 2) ** 0.25;
    }

    private static function mix(float $a, float $b, float $from, float $to, float $t): float
    {
        return $to > $from ? ($a * ($to - $t) + $b * ($t - $from)) / ($to - $from) : $a;
    }

    /**
     * @param  list<array{float, float}>  $profile  radius, height; from axis to axis, or a loop clear of the axis
     *
     * @throws Problem where the profile encloses nothing
     */
    public static function turned(array $profile, int $segments): Mesh
    {
        $n = count($profile);
        if ($n < 3) {
            throw Problem::inValue('profile', 'A profile needs at least three points.', 'Add points to the outline.');
        }
        $open = $profile[0][0] === 0.0 && $profile[$n - 1][0] === 0.0;
        $x = $y = $z = [];
        $row = [];
        foreach ($profile as $k => [$r, $h]) {
            $row[$k] = [];
            for ($s = 0; $s < $segments; $s++) {
                if ($r === 0.0 && $s > 0) {
                    $row[$k][] = $row[$k][0];

                    continue;
                }
                $a = 2.0 * M_PI * $s / $segments;
                $row[$k][] = count($x);
                $x[] = $r * cos($a);
                $y[] = $h;
                $z[] = $r * sin($a);
            }
        }
        [$coming, $leaving] = self::profileNormals($profile, $open);
        $faces = $normals = [];
        for ($k = 0, $last = $open ? $n - 1 : $n; $k < $last; $k++) {
            $l = ($k + 1) % $n;
            for ($s = 0; $s < $segments; $s++) {
                $t = ($s + 1) % $segments;
                $a = $row[$k][$s];
                $b = $row[$l][$s];
                $c = $row[$l][$t];
                $d = $row[$k][$t];
                if ($a !== $b && $b !== $c && $a !== $c) {
                    array_push($faces, $a, $b, $c);
                    array_push(
                        $normals,
                        ...self::around($leaving[$k], $s, $segments),
                        ...self::around($coming[$l], $s, $segments),
                        ...self::around($coming[$l], $s + 1, $segments),
                    );
                }
                if ($a !== $c && $c !== $d && $a !== $d) {
                    array_push($faces, $a, $c, $d);
                    array_push(
                        $normals,
                        ...self::around($leaving[$k], $s, $segments),
                        ...self::around($coming[$l], $s + 1, $segments),
                        ...self::around($leaving[$k], $s + 1, $segments),
                    );
                }
            }
        }
        $volume = MassProperties::ofFaces($x, $y, $z, $faces)->volume;
        if (abs($volume) < 1e-15) {
            throw Problem::inValue('profile', 'The profile encloses no volume.', 'Give it a width and a height.');
        }
        if ($volume < 0) {
            for ($i = 0, $m = count($faces); $i < $m; $i += 3) {
                [$faces[$i + 1], $faces[$i + 2]] = [$faces[$i + 2], $faces[$i + 1]];
                for ($a = 3 * $i + 3; $a < 3 * $i + 6; $a++) {
                    [$normals[$a], $normals[$a + 3]] = [$normals[$a + 3], $normals[$a]];
                }
            }
            $normals = array_map(static fn (float $v): float => -$v, $normals);
        }

        return new Mesh($x, $y, $z, $faces, $normals);
    }

    /**
     * Normals of the curve a profile stands for, where it comes to each of its points and where it leaves it: the same
     * in both unless there is a crease. They are those of the circle through a point and its neighbours, to the right
     * of the way.
     *
     * @param  list<array{float, float}>  $profile
     * @return array{list<array{float, float}>, list<array{float, float}>}
     */
    private static function profileNormals(array $profile, bool $open): array
    {
        $n = count($profile);
        $coming = $leaving = [];
        for ($k = 0; $k < $n; $k++) {
            [$ax, $ay, $al] = self::way($profile[($k + $n - 1) % $n], $profile[$k]);
            [$bx, $by, $bl] = self::way($profile[$k], $profile[($k + 1) % $n]);
            // On the axis the curve goes on into its own mirror image.
            if ($open && $k === 0) {
                [$ax, $ay, $al] = [$bx, -$by, $bl];
            } elseif ($open && $k === $n - 1) {
                [$bx, $by, $bl] = [$ax, -$ay, $al];
            }
            if ($ax * $bx + $ay * $by >= cos(FaceNormals::CREASE)) {
                $tx = $ax * $bl + $bx * $al;
                $ty = $ay * $bl + $by * $al;
                $t = hypot($tx, $ty);
                $coming[] = $leaving[] = $t > 0.0 ? [$ty / $t, -$tx / $t] : [0.0, 0.0];
            } else {
                $coming[] = [$ay, -$ax];
                $leaving[] = [$by, -$bx];
            }
        }

        return [$coming, $leaving];
    }

    /**
     * @param  array{float, float}  $from
     * @param  array{float, float}  $to
     * @return array{float, float, float} direction, and distance
     */
    private static function way(array $from, array $to): array
    {
        $l = hypot($to[0] - $from[0], $to[1] - $from[1]);

        return $l > 0.0 ? [($to[0] - $from[0]) / $l, ($to[1] - $from[1]) / $l, $l] : [0.0, 0.0, 0.0];
    }

    /**
     * @param  array{float, float}  $normal
     * @return array{float, float, float} turned about the axis by so many segments of a full turn
     */
    private static function around(array $normal, int $segment, int $segments): array
    {
        $a = 2.0 * M_PI * $segment / $segments;

        return [$normal[0] * cos($a), $normal[1], $normal[0] * sin($a)];
    }
}
