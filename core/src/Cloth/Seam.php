<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Values;
use YardBreak\Core\Weight\MapKind;

/**
 * What holds the pieces of cloth together until it tears. Strengths are values from memory: seams of clothes bear 80 to 200 N over 5 cm
 * (ISO 13935-1), paper 2 to 4 kN/m (ISO 1924-2), of which a perforation leaves some twentieth; basting and glue are common practice.
 */
final readonly class Seam
{
    public const NONE = 'none';

    public const OWN = 'own';

    private const PART = 'Seams';

    /** @var array<string, float> N/m */
    private const BEARS = ['perforated' => 150.0, 'basted' => 400.0, 'glued' => 1500.0, 'stitched' => 3000.0];

    /**
     * @param  float  $bears  N on each metre of seam
     * @param  Track  $amount  times that strength, over frames
     * @param  string  $map  id of the map that says how much of it there is where; empty for all of it
     * @param  float  $uneven  share by which places of a seam differ, at random
     */
    private function __construct(private float $bears, private Track $amount, public string $map, private float $uneven, private int $seed)
    {
    }

    /** @return list<Option> */
    public static function options(): array
    {
        $any = 'seams='.implode('|seams=', [...array_keys(self::BEARS), self::OWN]);

        return [
            new Option('seams', 'Seams', 'What holds its pieces together when they are let go, until it tears.', Choice::class, self::NONE, choices: [self::NONE, ...array_keys(self::BEARS), self::OWN], ofPieces: true, part: self::PART),
            new Option('tears', 'Tears at', 'Force on each metre of seam: perforated paper 150, basted 400, glued 1,500, stitched 3,000.', Number::class, 400.0, 0.0, 1e6, 'N/m', with: 'seams='.self::OWN, ofPieces: true, part: self::PART),
            new Option('seamAmount', 'Of its strength', 'How much of its strength there is: key it down, and it comes apart.', NumberInTime::class, 1.0, 0.0, 100.0, with: $any, ofPieces: true, part: self::PART),
            new Option('seamMap', 'Strong where', 'Where this map is 0 nothing holds, where it is 1 all of it.', MapKind::class, '', with: $any, ofPieces: true, part: self::PART),
            new Option('seamUneven', 'Differs by', 'Share by which one place of a seam is stronger or weaker than another, at random.', Number::class, 0.2, 0.0, 1.0, with: $any, ofPieces: true, part: self::PART),
            new Option('seamSeed', 'Seed', 'Of which places are.', Whole::class, 1, 0, 999999, with: $any, ofPieces: true, part: self::PART),
        ];
    }

    /** What of settings says; null where its pieces are loose. */
    public static function of(Values $values): ?self
    {
        $v = $values->still();

        return $v['seams'] === self::NONE ? null : new self(self::BEARS[$v['seams']] ?? $v['tears'], $values->number('seamAmount'), $v['seamMap'], $v['seamUneven'], $v['seamSeed']);
    }

    /** @return list<float> what each of so many stitches has of the strength of all */
    public function differences(int $stitches): array
    {
        return SeededRandom::aboutOne($this->seed, $this->uneven, $stitches);
    }

    /**
     * What each stitch bears.
     *
     * @param  list<float>  $differences  as of `differences`
     * @param  list<float>|null  $weights  of its map, by point; null where it goes by none
     * @return list<float> N
     */
    public function bears(Weave $weave, array $differences, float $frame, ?array $weights): array
    {
        $all = $this->bears * $this->amount->at($frame);
        $out = [];
        foreach ($weave->stitches as $s => $pair) {
            $here = $weights === null ? 1.0 : 0.5 * ($weights[$weave->pairs[2 * $pair]] + $weights[$weave->pairs[2 * $pair + 1]]);
            $out[] = $all * $here * $differences[$s] * $weave->sewn[$s];
        }

        return $out;
    }
}
