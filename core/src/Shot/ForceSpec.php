<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Force\Effect;
use YardBreak\Core\Force\Force;
use YardBreak\Core\Force\ForceCatalogue;
use YardBreak\Core\Force\Instant;
use YardBreak\Core\Force\LetsGo;
use YardBreak\Core\Force\StillAir;
use YardBreak\Core\Geometry\MeshKind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Values;

/** One force of a shot: what it is, how much of it there is when, and on what it acts. */
final readonly class ForceSpec
{
    /**
     * @param  class-string<Force>  $class
     * @param  Track  $amount  how much of it, over frames: 0 for none, 1 for all
     * @param  list<string>|null  $on  ids of the props it acts on; null for all
     * @param  string  $map  id of the weight map that says how much of it the pieces of its prop get; empty for all of it
     */
    private function __construct(public string $id, public string $name, public string $class, private Values $values, private Track $amount, private ?array $on, public string $map)
    {
    }

    /**
     * @param  array<string, mixed>  $f  already of the schema's form
     *
     * @throws Problem with the path of what is wrong in it
     */
    public static function of(array $f, Cues $cues): self
    {
        $class = ForceCatalogue::FORCES[$f['kind']]
            ?? throw Problem::inValue('kind', 'There is no force called "'.$f['kind'].'".', 'Choose one of: '.implode(', ', array_keys(ForceCatalogue::FORCES)).'.');
        try {
            $values = Values::of($class::options(), $f['values'], $cues);
        } catch (Problem $e) {
            throw $e->at('values');
        }

        return new self($f['id'], $f['name'], $class, $values, Reading::number($f['amount'] ?? 1.0, $cues, 'amount'), $f['on'] ?? null, $f['map'] ?? '');
    }

    public function actsOn(string $prop): bool
    {
        return $this->on === null || in_array($prop, $this->on, true);
    }

    /** @return list<string> ids of the props it names */
    public function named(): array
    {
        return $this->on ?? [];
    }

    /**
     * Adds what it does at a moment.
     *
     * @param  list<float>|null  $shares  how much of it each of the places gets; null for all of it
     */
    public function on(Effect $effect, Instant $at, ?array $shares = null): void
    {
        $amount = $this->amount->at($at->frame);
        if ($amount !== 0.0) {
            $this->class::of($this->values->at($at->frame))->on($effect, $at, array_map(static fn (float $s): float => $amount * $s, $shares ?? array_fill(0, count($effect->x), 1.0)));
        }
    }

    /** Whether it lets pieces go. */
    public function letsGo(): bool
    {
        return is_subclass_of($this->class, LetsGo::class) && ($this->values->still()['frees'] ?? 0.0) > 0.0;
    }

    /**
     * Places whose pieces, held so far, it lets go.
     *
     * @param  list<float>  $x  metres
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<int>
     */
    public function frees(Instant $at, array $x, array $y, array $z): array
    {
        $force = $this->class::of($this->values->at($at->frame));

        return $force instanceof LetsGo && $this->amount->at($at->frame) !== 0.0 ? $force->frees($at, $x, $y, $z) : [];
    }

    /** @return list<string> ids of the props it looks at */
    public function looksAt(): array
    {
        $still = $this->values->still();
        $props = array_filter($this->class::options(), static fn (Option $o): bool => $o->kind === MeshKind::class);

        return array_values(array_filter(array_map(static fn (Option $o): string => (string) ($still[$o->name] ?? ''), $props), static fn (string $id): bool => $id !== ''));
    }

    /** Whether there is none of it at any frame. */
    public function isNever(): bool
    {
        return $this->amount->isConstant() && $this->amount->at(0.0) === 0.0;
    }

    /** Whether it is what everything is in, but weighs nothing. */
    public function isOfNoDensity(): bool
    {
        $still = $this->values->still();

        return $this->class === StillAir::class && $still['of'] === 'own' && ($still['density'] ?? 1.0) <= 0.0;
    }

    public function acts(Acts $acts): void
    {
        $acts->of('force '.$this->id, $this->name)->always('force', [$this->class, $this->on, $this->map]);
        $acts->values('amount', $this->amount);
        $this->values->acts($acts, 'force');
        if ($this->map !== '') {
            $acts->map($this->map, true);
        }
    }
}
