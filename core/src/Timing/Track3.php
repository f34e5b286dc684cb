<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;

/** Three numbers over frames, an axis each. */
final readonly class Track3
{
    public function __construct(public Track $x, public Track $y, public Track $z)
    {
    }

    /**
     * @param  mixed  $value  three values in time
     *
     * @throws Problem with the path of what is wrong within it
     */
    public static function of(mixed $value, Cues $cues = new Cues): self
    {
        if (! is_array($value) || count($value) !== 3 || ! array_is_list($value)) {
            throw Problem::inValue('', 'This must be three values: x, y and z.', 'Give three numbers.');
        }
        $axes = [];
        foreach ($value as $k => $v) {
            try {
                $axes[] = Track::of($v, $cues);
            } catch (Problem $e) {
                throw $e->about('['.$k.']'.($e->path === '' ? '' : '.'.$e->path));
            }
        }

        return new self(...$axes);
    }

    public static function constant(Vec3 $v): self
    {
        return new self(Track::constant($v->x), Track::constant($v->y), Track::constant($v->z));
    }

    public function at(float $frame): Vec3
    {
        return new Vec3($this->x->at($frame), $this->y->at($frame), $this->z->at($frame));
    }

    /** How fast it changes, a frame. */
    public function slope(float $frame): Vec3
    {
        return new Vec3($this->x->slope($frame), $this->y->slope($frame), $this->z->slope($frame));
    }

    /** @return list<string> ids of the cues its keys are tied to */
    public function ties(): array
    {
        return [...$this->x->ties(), ...$this->y->ties(), ...$this->z->ties()];
    }

    public function isConstant(): bool
    {
        return $this->x->isConstant() && $this->y->isConstant() && $this->z->isConstant();
    }

    public function waits(): bool
    {
        return $this->x->waits() || $this->y->waits() || $this->z->waits();
    }

    public function acts(Acts $acts, string $name): void
    {
        foreach (['x' => $this->x, 'y' => $this->y, 'z' => $this->z] as $axis => $track) {
            $acts->values($name.' '.$axis, $track);
        }
    }

    /** @return list<Track> */
    public function axes(): array
    {
        return [$this->x, $this->y, $this->z];
    }
}
