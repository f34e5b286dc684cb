<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** How a weight map shows a prop: piece by piece, each growing, or its surface cut along the line where the map is at a level. */
final readonly class Appears
{
    /**
     * @param  string  $map  id
     * @param  'pieces'|'grow'|'surface'  $how
     * @param  float  $level  from which weight on it is seen; growing pieces go from none to full by the weight itself
     * @param  bool  $invert  whether it goes as the map comes
     */
    private function __construct(public string $map, public string $how, public float $level, public bool $invert)
    {
    }

    /** @param  array<string, mixed>|null  $d  already of the schema's form */
    public static function of(?array $d): ?self
    {
        return $d === null ? null : new self($d['map'], $d['how'], (float) ($d['level'] ?? 0.5), $d['invert'] ?? false);
    }

    /** Whether each piece is seen or not as a whole. */
    public function byPiece(): bool
    {
        return $this->how !== 'surface';
    }

    /**
     * What a weight is worth here: a share of the full size of a piece, or, of a point of the surface, how far above ½ it is seen.
     *
     * @return float 0…1
     */
    public function share(float $weight): float
    {
        $w = $this->invert ? 1.0 - $weight : $weight;

        return match ($this->how) {
            'grow' => $w,
            // Where the map gives its level in full, all is seen: the last bit too.
            'pieces' => $this->isPast($w) ? 1.0 : 0.0,
            'surface' => max(0.0, min(1.0, 0.5 + $w - ($this->invert ? 1.0 - $this->level : $this->level))),
        };
    }

    private function isPast(float $w): bool
    {
        return $this->invert ? $w > 1.0 - $this->level : $w >= $this->level;
    }

    /** @return list<mixed> all it depends on but the weights */
    public function key(): array
    {
        return [$this->how, $this->level, $this->invert];
    }
}
