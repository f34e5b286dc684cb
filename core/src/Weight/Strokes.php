<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/**
 * Strokes of a brush in the order they were made. There may be thousands of dabs, so whatever asks what a map depends on
 * goes by a fingerprint that is found once: of each stroke with all before it.
 */
final readonly class Strokes implements \Countable, \JsonSerializable
{
    /** @var list<string> by stroke: what all up to it amount to depends on this */
    public array $fingerprints;

    /** @param  list<array{how: string, size: float, strength: float, mirror: string, dabs: list<list<float>>}>  $all */
    public function __construct(public array $all)
    {
        $chain = '';
        $out = [];
        foreach ($all as $stroke) {
            $packed = '';
            foreach ($stroke['dabs'] as $dab) {
                $packed .= pack('e6', ...$dab);
            }
            $out[] = $chain = hash('xxh128', $chain.' '.$stroke['how'].' '.$stroke['mirror'].' '.pack('e2', $stroke['size'], $stroke['strength']).$packed);
        }
        $this->fingerprints = $out;
    }

    public function count(): int
    {
        return count($this->all);
    }

    /** Of all of them; empty where there is none. */
    public function fingerprint(): string
    {
        return $this->fingerprints[count($this->fingerprints) - 1] ?? '';
    }

    /** @return array{strokes: string} all that a key needs */
    public function __serialize(): array
    {
        return ['strokes' => $this->fingerprint()];
    }

    /** @return array{strokes: string} */
    public function jsonSerialize(): array
    {
        return $this->__serialize();
    }
}
