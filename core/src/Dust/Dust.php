<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Dust\Born\FromPoint;
use YardBreak\Core\Kinds\Course;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Values;

/** One kind of dust a prop gives off. */
final readonly class Dust
{
    /** @param  class-string<Source>  $source */
    private function __construct(public string $id, public string $name, public string $source, private Values $values)
    {
    }

    /**
     * @param  array<string, mixed>  $d  already of the schema's form
     *
     * @throws Problem with the path of what is wrong in it
     */
    public static function of(array $d, Cues $cues): self
    {
        $source = DustCatalogue::SOURCES[$d['from']]
            ?? throw Problem::inValue('from', 'Dust cannot come from "'.$d['from'].'".', 'Choose one of: '.implode(', ', array_keys(DustCatalogue::SOURCES)).'.');
        try {
            return new self($d['id'], $d['name'], $source, Values::of(DustCatalogue::options($source), $d['values'], $cues));
        } catch (Problem $e) {
            throw $e->at('values');
        }
    }

    /** The id of the map it goes by; empty where it goes by none. */
    public function map(): string
    {
        return $this->values->still()['map'] ?? '';
    }

    public function grain(float $frame): Grain
    {
        return Grain::of($this->values->at($frame));
    }

    /** How much of its size a grain has at an age, 0…1. */
    public function sizeAt(float $age): float
    {
        return Course::at($this->values->still()['sizes'], $age);
    }

    /** @return array{string, float} the colour a grain turns to, or empty, and how much of it it has at an age, 0…1 */
    public function turnedAt(float $age): array
    {
        $still = $this->values->still();

        return [$still['turns'], Course::at($still['turning'], $age)];
    }

    /** Whether hits on its prop are to be told. */
    public function hearsHits(): bool
    {
        return $this->from(0.0)->hearsHits();
    }

    public function from(float $frame): Source
    {
        return $this->source::of($this->values->at($frame));
    }

    /**
     * Grains a second that it pours, over a while.
     *
     * @return list<float> by frame; none where it does not pour by the second
     */
    public function rates(int $first, int $last): array
    {
        if ($this->source !== FromPoint::class) {
            return [];
        }

        return array_map(fn (int $frame): float => (float) $this->values->at((float) $frame)['rate'], range($first, $last));
    }

    public function acts(Acts $acts): void
    {
        $acts->always('dust '.$this->id, [$this->source, $this->id]);
        $this->values->acts($acts, 'dust '.$this->id);
        if ($this->map() !== '') {
            $acts->map($this->map(), true);
        }
    }
}
