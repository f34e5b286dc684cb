<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Timing\Acts;

/** How pieces follow those beside them that were let go. */
final readonly class Follow
{
    /**
     * @param  float|null  $after  seconds until the neighbours go too; null where they stay
     * @param  bool  $unsupported  whether what hangs on nothing that is held goes too
     * @param  float  $wait  seconds more at most, each a random while
     */
    public function __construct(public ?float $after, public bool $unsupported, public float $wait, public int $seed)
    {
    }

    /** @param  array<string, mixed>|null  $d */
    public static function of(?array $d): ?self
    {
        return $d === null
            ? null
            : new self(isset($d['after']) ? (float) $d['after'] : null, $d['unsupported'] ?? false, (float) ($d['wait'] ?? 0.0), $d['seed'] ?? 1);
    }

    public function acts(Acts $acts): void
    {
        $acts->always('what follows', [$this->after, $this->unsupported, $this->wait, $this->seed]);
    }
}
