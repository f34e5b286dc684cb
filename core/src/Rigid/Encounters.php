<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/** Which bodies do not meet although they are near. */
final class Encounters
{
    /** @var array<int, true> bodies that do not meet their own group yet */
    public array $unarmed = [];

    /** @var array<int, true> bodies that meet nothing any more */
    public array $gone = [];

    /** @var array<int, true> groups whose bodies do not meet each other */
    private array $apart = [];

    /** @var array<int, true> groups that meet only what stands or is driven */
    private array $alone = [];

    /** @var array<int, true> pairs of groups that pass through each other */
    private array $passing = [];

    /** Bodies of a group do not meet each other. */
    public function keepApart(int $group): void
    {
        $this->apart[$group] = true;
    }

    /** A group meets only what stands or is driven. */
    public function leaveAlone(int $group): void
    {
        $this->alone[$group] = true;
    }

    /** Two groups pass through each other. */
    public function letPass(int $one, int $other): void
    {
        $this->passing[min($one, $other) << 24 | max($one, $other)] = true;
    }

    /**
     * @param  list<int>  $pairs  of colliders, flat
     * @return list<int> those of them that meet
     */
    public function among(World $w, array $pairs): array
    {
        if ($this->unarmed === [] && $this->gone === [] && $this->apart === [] && $this->alone === [] && $this->passing === []) {
            return $pairs;
        }
        $bodies = $w->colliders->body;
        $groups = $w->colliders->group;
        $out = [];
        for ($i = 0, $n = count($pairs); $i < $n; $i += 2) {
            [$c, $d] = [$pairs[$i], $pairs[$i + 1]];
            [$a, $b] = [$bodies[$c], $bodies[$d]];
            [$g, $h] = [$groups[$c], $groups[$d]];
            if (isset($this->gone[$a]) || isset($this->gone[$b])) {
                continue;
            }
            if ($g === $h ? isset($this->apart[$g]) || isset($this->unarmed[$a]) || isset($this->unarmed[$b]) : isset($this->passing[min($g, $h) << 24 | max($g, $h)])) {
                continue;
            }
            if (isset($this->alone[$g]) && self::isLoose($w->state[$b]) || isset($this->alone[$h]) && self::isLoose($w->state[$a])) {
                continue;
            }
            $out[] = $c;
            $out[] = $d;
        }

        return $out;
    }

    private static function isLoose(int $state): bool
    {
        return $state === World::MOVING || $state === World::RESTING;
    }
}
