<?php

declare(strict_types=1);

namespace App\Yard;

use JsonException;
use Swaggest\JsonDiff\JsonPatch;
use Throwable;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\Ties;

/** A JSON Patch (RFC 6902) as somebody sent it: nothing about it can be taken for granted. */
final readonly class Patch
{
    private const MOST_STEPS = 5000;

    /** @var list<\stdClass> */
    private array $steps;

    /**
     * @param  array<mixed>  $steps
     *
     * @throws Problem where it is no patch
     */
    public function __construct(array $steps)
    {
        if (count($steps) > self::MOST_STEPS) {
            throw Problem::inValue('patch', 'A change may have at most '.number_format(self::MOST_STEPS).' steps.', 'Make it in parts.');
        }
        $this->steps = array_values(array_map(self::step(...), $steps));
    }

    /** @return string JSON */
    public function kept(): string
    {
        return (string) json_encode($this->steps);
    }

    /**
     * The document after it; the one given stays as it is.
     *
     * @throws Problem where it does not fit or would leave no valid shot
     */
    public function on(\stdClass $document): \stdClass
    {
        $after = self::plain($document);
        try {
            foreach ($this->runs() as $steps) {
                JsonPatch::import(self::plain($steps))->apply($after);
                // A copy must not stay tied to what it was copied from.
                $after = self::plain($after);
            }
        } catch (JsonException) {
            throw self::unfit('It would be nested too deeply.');
        } catch (Problem $e) {
            throw $e;
        } catch (Throwable $e) {
            throw self::unfit(mb_substr(mb_scrub($e->getMessage()), 0, 200));
        }
        if (! $after instanceof \stdClass) {
            throw self::unfit('It would leave no shot.');
        }
        ShotSpec::fromObject($after);

        return $after;
    }

    /**
     * The same with what has to follow it where numbers are tied to each other.
     *
     * @throws Problem where it does not fit or would leave no valid shot
     */
    public function followed(\stdClass $document): self
    {
        if (($document->ties ?? []) === [] && ! str_contains($this->kept(), '"\/ties')) {
            return $this;
        }
        $more = Ties::steps(self::nested($document), self::nested($this->on($document)));

        return $more === [] ? $this : new self([...$this->steps, ...self::plain($more)]);
    }

    /** @return array<string, mixed> */
    private static function nested(\stdClass $document): array
    {
        return json_decode((string) json_encode($document), true, ShotSpec::DEEPEST, JSON_THROW_ON_ERROR);
    }

    /**
     * A copy in which a number has one form: 1.0 is written 1, so that equal values are equal; and what has names is an object.
     *
     * @return ($value is array<mixed> ? array<mixed> : mixed)
     *
     * @throws JsonException where it is nested too deeply
     */
    public static function plain(mixed $value): mixed
    {
        return json_decode(json_encode($value, JSON_THROW_ON_ERROR, ShotSpec::DEEPEST), false, ShotSpec::DEEPEST, JSON_THROW_ON_ERROR);
    }

    /** @return list<list<\stdClass>> steps that can be taken together */
    private function runs(): array
    {
        $runs = [[]];
        foreach ($this->steps as $step) {
            $runs[count($runs) - 1][] = $step;
            if ($step->op === 'copy') {
                $runs[] = [];
            }
        }

        return array_values(array_filter($runs));
    }

    private static function step(mixed $step): \stdClass
    {
        if (! $step instanceof \stdClass || ! is_string($step->op ?? null) || ! self::isPointer($step->path ?? null)) {
            throw self::unfit('A step of it has no op or no path.');
        }
        if (in_array($step->op, ['copy', 'move'], true)) {
            if (! self::isPointer($step->from ?? null)) {
                throw self::unfit('A step of it does not say where from.');
            }
            if ($step->path === $step->from || str_starts_with($step->path, $step->from.'/')) {
                throw self::unfit('Nothing can be put into itself.');
            }
        }

        return $step;
    }

    private static function isPointer(mixed $path): bool
    {
        return is_string($path) && ! str_contains($path, "\0") && ($path === '' || $path[0] === '/');
    }

    private static function unfit(string $why): Problem
    {
        return Problem::inValue('', 'This change does not fit the shot: '.$why, 'Reload the page.');
    }
}
