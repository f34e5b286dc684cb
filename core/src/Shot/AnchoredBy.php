<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Timing\Acts;

/** What anchors pieces of a prop beside those that are named. */
final readonly class AnchoredBy
{
    /**
     * @param  string  $map  id of a map of the prop: pieces at which it is no less than the level at the first frame are anchored; empty for none
     * @param  list<string>  $touching  ids of props, or `Standing::GROUND`: pieces that touch one of them at the first frame are
     */
    public function __construct(public string $map, public float $level, public array $touching)
    {
    }

    /** @param  array<string, mixed>|null  $d  already of the schema's form */
    public static function of(?array $d): self
    {
        return new self($d['map'] ?? '', (float) ($d['level'] ?? 0.5), $d['touching'] ?? []);
    }

    public function acts(Acts $acts): void
    {
        $acts->always('anchored by', [$this->map, $this->level, $this->touching]);
        if ($this->map !== '') {
            $acts->map($this->map, true);
        }
    }
}
