<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Geometry\ConstrainedTriangulation;

/** How a solid is divided seen along an axis: a map of the plane, levels across it, and what belongs together. */
final readonly class Plan
{
    /**
     * @param  list<float>  $levels  rising; one layer more than levels
     * @param  (\Closure(float, float, float, float): array{float, float})|null  $bend  see PrismCells
     * @param  array{Seams, array<int, int>}|null  $seams  told which pieces meet across which line, by the line of each fixed edge of the map
     * @param  list<int>|null  $sides  by layer times triangles plus triangle: the side its surface is on, 0 for that it had
     * @param  list<int>|null  $groups  by layer times triangles plus triangle: the piece it is part of, −1 to leave it out; null where the map's fixed
     *   edges decide
     */
    public function __construct(
        public ConstrainedTriangulation $map,
        public array $levels = [],
        private ?array $groups = null,
        public ?\Closure $bend = null,
        public ?array $sides = null,
        private ?array $seams = null,
    ) {
    }

    /**
     * Where the fixed edges decide, what hangs together within the solid without crossing one is a piece.
     *
     * @param  list<array{int, int}>  $meeting  cells that share a wall within the solid
     * @return list<int> the piece of each cell
     */
    public function groups(array $meeting): array
    {
        if ($this->groups !== null) {
            return $this->groups;
        }
        $count = $this->map->triangleCount();
        $root = range(0, (count($this->levels) + 1) * $count - 1);
        foreach ($meeting as [$one, $other]) {
            if (intdiv($one, $count) === intdiv($other, $count) && $this->isOpen($one % $count, $other % $count)) {
                while ($root[$one] !== $one) {
                    $one = $root[$one] = $root[$root[$one]];
                }
                while ($root[$other] !== $other) {
                    $other = $root[$other] = $root[$root[$other]];
                }
                $root[max($one, $other)] = min($one, $other);
            }
        }
        $number = $groups = [];
        foreach ($root as $cell => $at) {
            while ($root[$at] !== $at) {
                $at = $root[$at];
            }
            $groups[$cell] = $number[$at] ??= count($number);
        }
        $this->tellSeams($meeting, $groups, $count);

        return $groups;
    }

    /**
     * @param  list<array{int, int}>  $meeting
     * @param  list<int>  $groups
     */
    private function tellSeams(array $meeting, array $groups, int $count): void
    {
        if ($this->seams === null) {
            return;
        }
        [$seams, $lineOf] = $this->seams;
        foreach ($meeting as [$one, $other]) {
            $t = $one % $count;
            for ($slot = 3 * $t; $groups[$one] !== $groups[$other] && $slot < 3 * $t + 3; $slot++) {
                if ($this->map->across[$slot] === $other % $count) {
                    $p = $this->map->corner[$slot];
                    $q = $this->map->corner[$slot % 3 === 2 ? $slot - 2 : $slot + 1];
                    $seams->add($groups[$one], $groups[$other], $lineOf[min($p, $q) << 31 | max($p, $q)] ?? 0);
                }
            }
        }
    }

    private function isOpen(int $t, int $o): bool
    {
        for ($slot = 3 * $t; $slot < 3 * $t + 3; $slot++) {
            if ($this->map->across[$slot] === $o) {
                return ! $this->map->fixed[$slot];
            }
        }

        return false;
    }
}
