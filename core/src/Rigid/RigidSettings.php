<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Settings;
use YardBreak\Core\Rigid\Debris\Debris;
use YardBreak\Core\Rigid\Mortar\Mortar;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Track3;

/** How pieces of a prop go as rigid bodies. */
final readonly class RigidSettings implements Settings
{
    /**
     * @param  bool  $whole  whether they move as one until they are let go
     * @param  string  $shape  what they collide as: one of `Solid::SHAPES`
     * @param  int  $clump  about how many hang together once they are let go
     * @param  float  $firm  m/s, the blow from which what hangs together comes apart where it is hit
     * @param  int  $seed  of which pieces do
     * @param  float  $drag  drag coefficient: what air presses on it, as a share of ½ρu² times the area it shows
     * @param  Track3  $velocity  m/s, what they are pushed with as they are let go
     * @param  Track3  $spin  °/s
     * @param  Mortar|null  $mortar  what holds them together once they are let go
     * @param  Debris  $debris  what they do beside falling
     */
    public function __construct(
        public bool $whole,
        private string $shape,
        public int $clump,
        public float $firm,
        public int $seed,
        public float $drag,
        private Track3 $velocity,
        private Track3 $spin,
        public ?Mortar $mortar,
        public Debris $debris,
    ) {
    }

    /** m/s, of what is let go at a moment. */
    public function push(float $frame): Vec3
    {
        return $this->velocity->at($frame);
    }

    /** rad/s, likewise. */
    public function spin(float $frame): Vec3
    {
        return $this->spin->at($frame)->times(M_PI / 180.0);
    }

    public function acts(Acts $acts, array $moments, bool $atAnyTime): void
    {
        $acts->always('until released', $this->whole);
        $acts->always('collides as', $this->shape);
        $acts->always('air drag', $this->drag);
        $acts->always('clumps', $this->clump > 1 && $this->mortar === null ? [$this->clump, $this->firm, $this->seed] : 1);
        $this->mortar?->acts($acts);
        $this->debris->acts($acts);
        foreach ($moments as [$moment, $key, $words]) {
            $frame = $acts->frameOf($moment);
            $acts->at($frame, 'sent off by '.$key, [$this->velocity->at($frame)->toArray(), $this->spin->at($frame)->toArray()], $words);
        }
        // What is let go at a moment is pushed then; otherwise a push may act at any time.
        if ($atAnyTime || $this->whole) {
            $this->velocity->acts($acts, 'velocity');
            $this->spin->acts($acts, 'spin');
        }
    }

    public function shape(): string
    {
        return $this->shape;
    }

    public function ball(): float
    {
        return $this->shape === Solid::BALL ? $this->debris->ball : 0.0;
    }

    public function movesHeld(): bool
    {
        return $this->whole;
    }

    public function maps(): array
    {
        return array_filter(['mortarMap' => $this->mortar->map ?? '', 'goneMap' => $this->debris->goneMap], static fn (string $map): bool => $map !== '');
    }
}
