<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Problem;

/**
 * A number over frames: one value, or keys with eases between them. Before the first key and after the last it holds,
 * repeats, or swings to and fro. A key may stand at a frame, or some frames from a named cue; as long as that cue is not
 * anchored the key is not there yet; once it is, the value goes on from where it was at that moment.
 */
final readonly class Track
{
    /** What it does outside its keys. */
    public const OUTSIDE = ['hold', 'repeat', 'swing'];

    public const MOST_KEYS = 10000;

    /**
     * @param  list<float>  $frames  of the keys, rising
     * @param  list<float>  $values  at the keys, at least one
     * @param  list<Ease>  $eases  from each key to the next
     * @param  'hold'|'repeat'|'swing'  $before
     * @param  'hold'|'repeat'|'swing'  $after
     * @param  bool  $waits  whether keys of it are tied to cues that are not anchored yet
     * @param  float  $most  the largest value of any key, also of those whose cue is not anchored yet
     * @param  self|null  $earlier  what it was before its last cue was anchored
     * @param  float  $from  the frame from which on that is over
     * @param  list<string>  $ties  ids of the cues its keys are tied to
     */
    private function __construct(
        public array $frames,
        public array $values,
        private array $eases,
        private string $before,
        private string $after,
        private float $most,
        private bool $waits = false,
        private ?self $earlier = null,
        private float $from = -INF,
        private array $ties = [],
    ) {
    }

    public static function constant(float $value): self
    {
        return new self([], [$value], [], 'hold', 'hold', $value);
    }

    /**
     * One that counts its keys, from 0.
     *
     * @param  list<float>  $frames  rising, two at least
     * @param  list<Ease>  $eases
     * @param  'hold'|'repeat'|'swing'  $before
     * @param  'hold'|'repeat'|'swing'  $after
     */
    public static function counting(array $frames, array $eases, string $before, string $after): self
    {
        return new self($frames, array_map(floatval(...), array_keys($frames)), $eases, $before, $after, count($frames) - 1.0);
    }

    /**
     * @param  mixed  $value  a number, or `{keys: [{frame, value, ease}, …], before, after}`, a key's `frame` replaced by `cue` and `offset` where it is tied
     *
     * @throws Problem with the path of what is wrong within the value
     */
    public static function of(mixed $value, Cues $cues = new Cues): self
    {
        if (is_int($value) || is_float($value)) {
            return self::constant((float) self::finite($value, ''));
        }
        $value = $value instanceof \stdClass ? (array) $value : $value;
        if (! is_array($value) || ! is_array($value['keys'] ?? null) || ! array_is_list($value['keys'])) {
            throw Problem::inValue('', 'This must be a number, or keys with a frame and a value each.', 'Give a number.');
        }
        if ($value['keys'] === []) {
            throw Problem::inValue('keys', 'There are no keys here.', 'Give a number instead.');
        }
        if (count($value['keys']) > self::MOST_KEYS) {
            throw Problem::inValue('keys', 'A value may have at most '.self::MOST_KEYS.' keys.', 'Thin them out.');
        }
        if (($other = array_diff(array_keys($value), ['keys', 'before', 'after'])) !== []) {
            throw Problem::inValue((string) reset($other), 'There is no such setting of a value in time: '.mb_substr((string) reset($other), 0, 40).'.');
        }
        $keys = $late = $tied = [];
        $waits = false;
        $most = -INF;
        foreach ($value['keys'] as $k => $key) {
            $key = $key instanceof \stdClass ? (array) $key : $key;
            $at = 'keys['.$k.']';
            if (! is_array($key) || ! array_key_exists('value', $key)) {
                throw Problem::inValue($at, 'A key needs a frame and a value.', 'Give both.');
            }
            if (($other = array_diff(array_keys($key), ['frame', 'cue', 'offset', 'value', 'ease'])) !== []) {
                throw Problem::inValue($at.'.'.reset($other), 'There is no such setting of a key: '.mb_substr((string) reset($other), 0, 40).'.');
            }
            $number = self::finite($key['value'], $at.'.value');
            $most = max($most, $number);
            try {
                $ease = Ease::of($key['ease'] ?? 'linear');
            } catch (Problem $e) {
                throw $e->at($at.'.ease');
            }
            if (isset($key['cue'])) {
                $cue = is_string($key['cue']) ? $key['cue'] : '';
                if (! $cues->has($cue)) {
                    throw Problem::inValue($at.'.cue', 'This key is tied to a cue that is not there.', 'Tie it to a frame, or to another cue.');
                }
                $offset = self::finite($key['offset'] ?? 0, $at.'.offset');
                $tied[$cue] = true;
                $anchor = $cues->frame($cue);
                if ($anchor === null) {
                    $waits = true;

                    continue;
                }
                $frame = $anchor + $offset;
                if ($cues->isLate($cue)) {
                    $late[$cue] = $anchor;
                }
            } else {
                $frame = self::finite($key['frame'] ?? null, $at.'.frame');
            }
            // Of two keys on one frame the last counts.
            $keys[(string) $frame] = [$frame, $number, $ease, count($keys)];
        }
        uasort($keys, static fn (array $a, array $b): int => $a[0] <=> $b[0] ?: $a[3] <=> $b[3]);
        $keys = array_values($keys);
        $ties = array_map(strval(...), array_keys($tied));
        $outside = [];
        foreach (['before', 'after'] as $side) {
            $outside[] = $how = $value[$side] ?? 'hold';
            if (! in_array($how, self::OUTSIDE, true)) {
                throw Problem::inValue($side, 'Outside its keys a value holds, repeats or swings.', 'Choose one of: '.implode(', ', self::OUTSIDE).'.');
            }
        }
        if ($late !== []) {
            asort($late);
            $from = end($late);
            $earlier = self::of($value, $cues->before((string) array_key_last($late)));
            $keys = array_values(array_filter($keys, static fn (array $key): bool => $key[0] >= $from));
            if ($keys === [] || $keys[0][0] > $from) {
                array_unshift($keys, [$from, $earlier->at($from), Ease::linear(), 0]);
            }

            return new self(array_column($keys, 0), array_column($keys, 1), array_column($keys, 2), 'hold', $outside[1], $most, $waits, $earlier, $from, $ties);
        }
        if ($keys === []) {
            // Nothing is known of it yet; it stands as it will begin.
            $first = (array) $value['keys'][0];

            return new self([], [(float) $first['value']], [], 'hold', 'hold', $most, $waits, ties: $ties);
        }

        return new self(array_column($keys, 0), array_column($keys, 1), array_column($keys, 2), $outside[0], $outside[1], $most, $waits, ties: $ties);
    }

    /** @return list<string> ids of the cues its keys are tied to, wherever those stand */
    public function ties(): array
    {
        return $this->ties;
    }

    public function isConstant(): bool
    {
        return count($this->frames) < 2 && ! $this->waits && $this->earlier === null;
    }

    /** Whether it waits for cues to be anchored. */
    public function waits(): bool
    {
        return $this->waits;
    }

    public function at(float $frame): float
    {
        if ($frame < $this->from && $this->earlier !== null) {
            return $this->earlier->at($frame);
        }
        if (count($this->frames) < 2) {
            return $this->values[0];
        }
        [$k, $share] = $this->progress($frame);
        $a = $this->values[$k];

        // Exactly the key's value at the key.
        return $share === 1.0 ? $this->values[$k + 1] : $a + $share * ($this->values[$k + 1] - $a);
    }

    /**
     * How far it has got from one key to the next, where it has two at least.
     *
     * @return array{int, float} number of the key it comes from, and the share of the change that is done: beyond 0…1 where an ease overshoots
     */
    public function progress(float $frame): array
    {
        $frames = $this->frames;
        $last = count($frames) - 1;
        if ($frame < $frames[0] || $frame > $frames[$last]) {
            $how = $frame < $frames[0] ? $this->before : $this->after;
            if ($how === 'hold') {
                return $frame < $frames[0] ? [0, 0.0] : [$last - 1, 1.0];
            }
            $frame = $this->within($frame, $how)[0];
        }
        $k = $this->segment($frame);
        $share = ($frame - $frames[$k]) / ($frames[$k + 1] - $frames[$k]);
        $ease = $this->eases[$k];

        return [$k, $share >= 1.0 ? 1.0 : ($ease->kind === Ease::LINEAR ? $share : $ease->at($share))];
    }

    /** @return list<array{float, Ease}> the frame of each key, and how it leads on from there; what is over by a cue that came with them */
    public function knots(): array
    {
        $out = array_values(array_filter($this->earlier?->knots() ?? [], fn (array $knot): bool => $knot[0] < $this->from));
        foreach ($this->frames as $k => $frame) {
            $out[] = [$frame, $this->eases[$k]];
        }

        return $out;
    }

    /** @return array{'hold'|'repeat'|'swing', 'hold'|'repeat'|'swing'} what it does before its first key and after its last */
    public function outside(): array
    {
        return [$this->earlier?->outside()[0] ?? $this->before, $this->after];
    }

    /** How fast it changes, a frame; at a key, what comes after it. */
    public function slope(float $frame): float
    {
        if ($frame < $this->from && $this->earlier !== null) {
            return $this->earlier->slope($frame);
        }
        $frames = $this->frames;
        $n = count($frames);
        if ($n < 2) {
            return 0.0;
        }
        $sign = 1.0;
        if ($frame < $frames[0] || $frame >= $frames[$n - 1]) {
            $how = $frame < $frames[0] ? $this->before : $this->after;
            if ($how === 'hold') {
                return 0.0;
            }
            [$frame, $sign] = $this->within($frame, $how);
        }
        $k = $this->segment($frame);
        $span = $frames[$k + 1] - $frames[$k];

        return $sign * ($this->values[$k + 1] - $this->values[$k]) / $span * $this->eases[$k]->slope(($frame - $frames[$k]) / $span);
    }

    /** The largest of its keys, also of those that are not there yet. */
    public function largest(): float
    {
        return $this->most;
    }

    /**
     * What decides its values, piece by piece: a change of any of it can first be seen after that frame.
     *
     * @return list<array{float, string}> frame after which it acts, and what it is; −INF for what acts always
     */
    public function acts(): array
    {
        $out = array_values(array_filter($this->earlier?->acts() ?? [], fn (array $act): bool => $act[0] < $this->from));
        $out[] = [$this->justBefore($this->from), self::exact($this->values[0])];

        return count($this->frames) < 2 ? $out : [...$out, ...$this->actsBy(array_map(self::exact(...), $this->values))];
    }

    /**
     * What leads from key to key, of two at least.
     *
     * @param  list<string>  $values  what its keys stand for; where two that follow each other are the same, it stands still
     * @return list<array{float, string}>
     */
    public function actsBy(array $values): array
    {
        $out = [];
        $last = count($this->frames) - 1;
        $whole = $this->before === 'hold' && $this->after === 'hold'
            ? ''
            : (string) json_encode([
                $this->frames,
                $values,
                array_map(static fn (Ease $e): array => [$e->kind, $e->handles], $this->eases),
                $this->before,
                $this->after,
            ]);
        if ($this->before !== 'hold') {
            $out[] = [-INF, $whole];
        }
        for ($k = 0; $k < $last; $k++) {
            $ease = $this->eases[$k];
            $next = $this->frames[$k + 1];
            if ($values[$k] === $values[$k + 1]) {
                // Standing still needs no telling.
                continue;
            }
            $out[] = $ease->kind === Ease::HOLD
                ? [$this->justBefore($next), self::exact($next).' '.$values[$k + 1]]
                : [
                    $this->frames[$k],
                    implode(
                        ' ',
                        [
                            self::exact($this->frames[$k]),
                            $values[$k],
                            self::exact($next),
                            $values[$k + 1],
                            $ease->kind,
                            ...$ease->kind === Ease::CURVE ? array_map(self::exact(...), $ease->handles) : [],
                        ],
                    ),
                ];
        }
        if ($this->after !== 'hold') {
            $out[] = [$this->frames[$last], $whole];
        }

        return $out;
    }

    /** All digits of a number. */
    private static function exact(float $value): string
    {
        return (string) json_encode($value, JSON_THROW_ON_ERROR);
    }

    /** What jumps at a frame acts on that frame already. */
    private function justBefore(float $frame): float
    {
        return $frame - 1e-6;
    }

    /** The number of the key before a frame between the first and the last. */
    private function segment(float $frame): int
    {
        $frames = $this->frames;
        $low = 0;
        $high = count($frames) - 1;
        while ($high - $low > 1) {
            $middle = ($low + $high) >> 1;
            if ($frames[$middle] <= $frame) {
                $low = $middle;
            } else {
                $high = $middle;
            }
        }

        return $low;
    }

    /** @return array{float, float} the frame within the keys that stands for one outside, and which way time runs there */
    private function within(float $frame, string $how): array
    {
        $first = $this->frames[0];
        $span = $this->frames[count($this->frames) - 1] - $first;
        $turns = floor(($frame - $first) / $span);
        $rest = $frame - $first - $turns * $span;

        return $how === 'swing' && fmod($turns, 2.0) !== 0.0 ? [$first + $span - $rest, -1.0] : [$first + $rest, 1.0];
    }

    private static function finite(mixed $value, string $path): float
    {
        if (! is_int($value) && ! is_float($value) || ! is_finite((float) $value)) {
            throw Problem::inValue($path, 'This must be a number.', 'Give a number.');
        }

        return (float) $value;
    }
}
