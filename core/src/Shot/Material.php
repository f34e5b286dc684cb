<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;

/** What a prop is made of. */
final readonly class Material
{
    /**
     * @param  float  $density  kg/m³
     * @param  Track|null  $roughness  of the outside over frames; null for the usual one
     * @param  Track  $tint  share of the tint colour mixed into the outside
     * @param  string|null  $tintColour  as `#rrggbb`
     */
    public function __construct(
        public Surface $outer,
        public Surface $inner,
        public float $density,
        public Track $friction,
        public Track $bounce,
        public ?Track $roughness,
        public Track $tint,
        public ?string $tintColour,
        public ?SecondSurface $second = null,
    ) {
    }

    /** @param  array<string, mixed>  $m  already of the schema's form */
    public static function of(array $m, Cues $cues, string $path): self
    {
        $inner = $m['innerPicture'] ?? null;
        $roughness = isset($m['roughness']) ? Reading::number($m['roughness'], $cues, $path.'.roughness') : null;

        return new self(
            new Surface($m['colour'], $roughness?->values[0], $m['picture']['asset'] ?? null),
            new Surface(
                $m['inner'],
                isset($m['innerRoughness']) ? (float) $m['innerRoughness'] : null,
                $inner['asset'] ?? null,
                (float) ($inner['metres'] ?? 1.0),
            ),
            (float) $m['density'],
            Reading::number($m['friction'], $cues, $path.'.friction'),
            Reading::number($m['bounce'], $cues, $path.'.bounce'),
            $roughness,
            Reading::number($m['tint'] ?? 0.0, $cues, $path.'.tint'),
            $m['tintColour'] ?? null,
            SecondSurface::of($m['second'] ?? null),
        );
    }

    public function acts(Acts $acts): void
    {
        $acts->always('density', $this->density);
        $acts->values('friction', $this->friction);
        $acts->values('bounce', $this->bounce);
        $acts->always('own roughness', $this->roughness !== null, 'roughness');
        if ($this->roughness !== null) {
            $acts->values('roughness', $this->roughness);
        }
        $acts->values('tint', $this->tint);
    }
}
