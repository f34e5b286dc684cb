<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\Vec3;

/** What all forces together do at some places: how the air goes there, and how whatever is there is pulled. */
final class Effect
{
    /** kg/m³, of dry air at 15 °C and sea level (ISO 2533:1975). */
    public const AIR = 1.225;

    /** @var list<float> velocity of the air, m/s */
    public array $ux;

    /** @var list<float> */
    public array $uy;

    /** @var list<float> */
    public array $uz;

    /** @var list<float> acceleration, m/s² */
    public array $ax;

    /** @var list<float> */
    public array $ay;

    /** @var list<float> */
    public array $az;

    /** @var list<float> shares of its speed that whatever is there loses a second */
    public array $slowing;

    /** @var list<float> kg/m³ of what is there; none as long as nothing says that there is air */
    public array $density;

    /** @var array<int, Vec3> by place: N·s for each m² turned that way, where something strikes */
    public array $strikes = [];

    /**
     * @param  list<float>  $x  metres
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    public function __construct(public readonly array $x, public readonly array $y, public readonly array $z)
    {
        $this->ux = $this->uy = $this->uz = $this->ax = $this->ay = $this->az = $this->slowing = $this->density = array_fill(0, count($x), 0.0);
    }

    /** There is air, where nothing has said what there is. */
    public function airy(): void
    {
        foreach ($this->density as $i => $density) {
            if ($density === 0.0) {
                $this->density[$i] = self::AIR;
            }
        }
    }

    /** @param  Vec3  $by  N·s for each m² turned that way */
    public function strike(int $place, Vec3 $by): void
    {
        $this->strikes[$place] = isset($this->strikes[$place]) ? $this->strikes[$place]->plus($by) : $by;
    }
}
