<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Piece after piece: the smallest first, those nearest to a point, or in no order. */
final readonly class ByPiece implements Source
{
    use Still;

    private function __construct(private string $order, private Vec3 $from, private float $share, private float $soft, private int $seed)
    {
    }

    public static function label(): string
    {
        return 'Pieces';
    }

    public static function meaning(): string
    {
        return 'Piece after piece, by size, place or chance';
    }

    public static function options(): array
    {
        return [
            new Option(
                'order',
                'Order',
                'Which come first: the small, the large, those nearest to a point, or any.',
                Choice::class,
                'random',
                choices: ['small', 'large', 'near', 'random'],
            ),
            new Option('from', 'From', 'The point the order is counted from.', PointInTime::class, [0.0, 0.0, 0.0], -1000, 1000, 'm', with: 'order=near'),
            new Option('share', 'Share', 'How many of them have come, from none (0) to all (1).', NumberInTime::class, 0.5, 0, 1),
            new Option('soft', 'Soft edge', 'How many are on their way at a time, as a share of all.', NumberInTime::class, 0.1, 0, 1),
            new Option('seed', 'Seed', 'Another number gives another order.', Whole::class, 1, 0, 999999, with: 'order=random'),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['order'], Vec3::of($values['from']), $values['share'], $values['soft'], $values['seed']);
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        if (! $on->arePieces()) {
            $pieces = $scene->pieces($on->prop);
            $each = $this->over($pieces, $scene, new Memory);

            return array_map(static fn (int $piece): float => $each[$piece] ?? 0.0, $on->pieceOf());
        }
        $n = $on->count();
        $random = new SeededRandom($this->seed);
        $keys = [];
        for ($i = 0; $i < $n; $i++) {
            $keys[] = match ($this->order) {
                'small' => $on->volumes[$i],
                'large' => -$on->volumes[$i],
                'near' => (new Vec3($on->x[$i], $on->y[$i], $on->z[$i]))->minus($this->from)->length(),
                default => $random->share(),
            };
        }
        asort($keys);
        // The last one is full when the share is 1, and the first still empty when it is 0.
        $lead = $this->share * (1.0 + $this->soft);
        $out = array_fill(0, $n, 0.0);
        foreach (array_keys($keys) as $rank => $i) {
            $at = ($rank + 0.5) / $n;
            $out[$i] = $this->soft > 0.0 ? max(0.0, min(1.0, ($lead - $at) / $this->soft)) : ($at <= $this->share ? 1.0 : 0.0);
        }

        return $out;
    }
}
