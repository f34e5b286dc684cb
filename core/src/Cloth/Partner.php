<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Body;

/**
 * Something free that cloth touches, as part of its solve: its six speeds are unknowns beside those of the points, which go with it where
 * they touch. So neither waits for the other, however light it is and however stiff the cloth.
 */
final class Partner
{
    private const SPEEDS = 6;

    /** @var list<Contact> of the sub-step */
    private array $touch = [];

    /** @var list<float> kg and kg·m², six rows of six: its mass in the solve */
    private array $mass = [];

    /** @var list<float> lower half of what its speeds resist with, decomposed (Cholesky), six rows of six */
    private array $root = [];

    /** @var list<float> N·s and N·m·s that are left */
    private array $left = [];

    /** @var list<float> m/s and rad/s that it has gained, times how much of the sub-step counts */
    private array $gained = [];

    /** @var list<float> */
    private array $way = [];

    /** @var list<float> */
    private array $next = [];

    /** Times by which speeds in the solve are those of the body. */
    private float $times = 1.0;

    /** @var array{float, float, float, float, float, float} kg·m² in the scene: xx, yy, zz, xy, yz, zx */
    private readonly array $inertia;

    /** @param  Vec3  $falls  m/s that it gains in the sub-step by its weight */
    public function __construct(private readonly Body $body, private readonly Vec3 $falls)
    {
        $columns = array_map($body->turn->turn(...), [new Vec3(1.0, 0.0, 0.0), new Vec3(0.0, 1.0, 0.0), new Vec3(0.0, 0.0, 1.0)]);
        [$xx, $yy, $zz, $xy, $yz, $zx] = $body->inertia;
        $own = [[$xx, $xy, $zx], [$xy, $yy, $yz], [$zx, $yz, $zz]];
        $rows = array_map(static fn (Vec3 $c): array => $c->toArray(), $columns);
        $at = static function (int $a, int $b) use ($own, $rows): float {
            $sum = 0.0;
            foreach ([0, 1, 2] as $i) {
                foreach ([0, 1, 2] as $j) {
                    $sum += $rows[$i][$a] * $own[$i][$j] * $rows[$j][$b];
                }
            }

            return $sum;
        };
        $this->inertia = [$at(0, 0), $at(1, 1), $at(2, 2), $at(0, 1), $at(1, 2), $at(2, 0)];
    }

    /** The speed of a place on it at the end of the sub-step: without cloth before the solve, with it after. */
    public function speedAt(Vec3 $place): Vec3
    {
        $arm = $place->minus($this->body->at);
        $speed = $this->body->velocityAt($place)->plus($this->falls);
        if ($this->gained === []) {
            return $speed;
        }
        [$x, $y, $z, $u, $v, $w] = array_map(fn (float $g): float => $g / $this->times, $this->gained);

        return $speed->plus(new Vec3($x, $y, $z))->plus((new Vec3($u, $v, $w))->cross($arm));
    }

    /** A contact of the solve is one with it. */
    public function join(Contact $contact, Vec3 $place): void
    {
        $contact->partner = $this;
        $contact->arm = $place->minus($this->body->at);
        $this->touch[] = $contact;
    }

    /**
     * Begins the solve.
     *
     * @param  float  $times  by which speeds in it are those of the body
     * @param  list<int>  $pairs  of the matrix, between points that touch something
     */
    public function begin(Matrix $matrix, Contacts $contacts, float $times, array $pairs): void
    {
        $this->times = $times;
        $this->way = $this->next = array_fill(0, self::SPEEDS, 0.0);
        $this->gained = $this->gained === [] ? $this->way : $this->gained;
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->inertia;
        $k = 1.0 / ($times * $times);
        $m = $this->body->mass * $k;
        $this->mass = [
            $m, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, $m, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, $m, 0.0, 0.0, 0.0,
            0.0, 0.0, 0.0, $k * $xx, $k * $xy, $k * $zx, 0.0, 0.0, 0.0, $k * $xy, $k * $yy, $k * $yz, 0.0, 0.0, 0.0, $k * $zx, $k * $yz, $k * $zz,
        ];
        $this->left = array_map(static fn (float $p): float => -$p, $this->timesMass($this->gained));
        $resists = $this->mass;
        $axes = [new Vec3(1.0, 0.0, 0.0), new Vec3(0.0, 1.0, 0.0), new Vec3(0.0, 0.0, 1.0)];
        $columns = array_map(fn (int $d): array => $contacts->moved($this, $d < 3 ? $axes[$d] : Vec3::zero(), $d < 3 ? Vec3::zero() : $axes[$d - 3]), range(0, self::SPEEDS - 1));
        foreach ($columns as $d => $column) {
            $force = $matrix->among($column, $pairs);
            foreach ($columns as $c => $other) {
                foreach ($other as $i => [$x, $y, $z]) {
                    $resists[self::SPEEDS * $c + $d] += $x * $force[$i][0] + $y * $force[$i][1] + $z * $force[$i][2];
                }
            }
        }
        $this->root = self::decomposed($resists);
        foreach ($this->touch as $contact) {
            if ($contact->arm !== null) {
                $this->feel($contact->arm, $contact->rubbed->x, $contact->rubbed->y, $contact->rubbed->z);
            }
        }
    }

    /** @return array{Vec3, Vec3} N·s and N·m·s that it has got in the solve */
    public function got(): array
    {
        if ($this->gained === []) {
            return [Vec3::zero(), Vec3::zero()];
        }
        // As momentum of the body: its mass in the solve is less by the square of what its speeds there are more.
        [$a, $b, $c, $u, $v, $w] = array_map(fn (float $p): float => $p * $this->times, $this->timesMass($this->gained));

        return [new Vec3($a, $b, $c), new Vec3($u, $v, $w)];
    }

    public function middle(): Vec3
    {
        return $this->body->at;
    }

    /** Something is left at a contact of it. */
    public function feel(Vec3 $arm, float $x, float $y, float $z): void
    {
        $this->left[0] += $x;
        $this->left[1] += $y;
        $this->left[2] += $z;
        $this->left[3] += $arm->y * $z - $arm->z * $y;
        $this->left[4] += $arm->z * $x - $arm->x * $z;
        $this->left[5] += $arm->x * $y - $arm->y * $x;
    }

    /** @return float what is left, by how it would go for that */
    public function look(): float
    {
        $this->next = $this->solvedFor($this->left);

        return array_sum(array_map(static fn (float $a, float $b): float => $a * $b, $this->left, $this->next));
    }

    /** m/s by which a place on it turns from its last way to the next. */
    public function next(Vec3 $arm): Vec3
    {
        [$a, $b, $c, $u, $v, $w] = $this->next;

        return new Vec3($a + $v * $arm->z - $w * $arm->y, $b + $w * $arm->x - $u * $arm->z, $c + $u * $arm->y - $v * $arm->x);
    }

    /**
     * Turns to its next way.
     *
     * @param  float  $beta  share of the last way that it keeps
     */
    public function turn(float $beta): void
    {
        foreach ($this->way as $k => $was) {
            $this->way[$k] = $this->next[$k] + $beta * $was;
        }
    }

    /** @return float how it resists its way */
    public function resists(): float
    {
        return array_sum(array_map(static fn (float $a, float $b): float => $a * $b, $this->way, $this->timesMass($this->way)));
    }

    public function go(float $step): void
    {
        foreach ($this->timesMass($this->way) as $k => $resists) {
            $this->left[$k] -= $step * $resists;
            $this->gained[$k] += $step * $this->way[$k];
        }
    }

    /**
     * @param  list<float>  $speeds
     * @return list<float>
     */
    private function timesMass(array $speeds): array
    {
        $out = [];
        for ($r = 0; $r < self::SPEEDS; $r++) {
            $sum = 0.0;
            for ($c = 0; $c < self::SPEEDS; $c++) {
                $sum += $this->mass[self::SPEEDS * $r + $c] * $speeds[$c];
            }
            $out[] = $sum;
        }

        return $out;
    }

    /**
     * @param  list<float>  $matrix  six rows of six
     * @return list<float>
     */
    private static function decomposed(array $matrix): array
    {
        $n = self::SPEEDS;
        for ($r = 0; $r < $n; $r++) {
            for ($c = 0; $c <= $r; $c++) {
                $sum = $matrix[$n * $r + $c];
                for ($k = 0; $k < $c; $k++) {
                    $sum -= $matrix[$n * $r + $k] * $matrix[$n * $c + $k];
                }
                $matrix[$n * $r + $c] = $r === $c ? sqrt(max(1e-300, $sum)) : $sum / $matrix[$n * $c + $c];
            }
        }

        return $matrix;
    }

    /**
     * @param  list<float>  $left
     * @return list<float>
     */
    private function solvedFor(array $left): array
    {
        $n = self::SPEEDS;
        for ($r = 0; $r < $n; $r++) {
            for ($c = 0; $c < $r; $c++) {
                $left[$r] -= $this->root[$n * $r + $c] * $left[$c];
            }
            $left[$r] /= $this->root[$n * $r + $r];
        }
        for ($r = $n - 1; $r >= 0; $r--) {
            for ($c = $r + 1; $c < $n; $c++) {
                $left[$r] -= $this->root[$n * $c + $r] * $left[$c];
            }
            $left[$r] /= $this->root[$n * $r + $r];
        }

        return $left;
    }
}
