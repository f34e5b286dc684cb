<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\ForceFigures;
use YardBreak\Core\Check\SiteCheck;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\Bake\Trials;

/** What is said of forces before anything is baked; figures by closed form. */
final class ForceChecksTest extends TestCase
{
    /** A cube of 0.3 m and 40 kg/m³ shows 1½·s² on average (Cauchy): vₜ = √(2mgₑ/ρA), gₑ = g(1 − ρ/ρ_c); μ = 0.6 lets it slide from √0.6 of that. */
    public function test_words_say_what_a_wind_does_by_what_a_piece_weighs_and_shows(): void
    {
        $terminal = sqrt(2.0 * 40.0 * 0.3 * 9.80665 * (1.0 - 1.225 / 40.0) / 1.225 / 1.5);
        self::assertEqualsWithDelta(11.14, $terminal, 0.01);
        $said = self::figures(['wind' => ['speed' => 10.0]]);
        self::assertSame(['Air at 10 m/s does not carry it off; on the ground it pushes it along.', 'Let fall, it reaches 11.1 m/s at most.'], $said->words);
        self::assertEqualsWithDelta(1.3 * $terminal, $said->fastest, 1e-6);
        self::assertEquals([0.0, 1.0], [$said->strip[30], $said->strip[31]], '30 and 31 of 40 steps to 1.3 of it lie on either side');
        self::assertSame('Air at 12 m/s carries it off; on the ground it pushes it along.', self::figures(['wind' => ['speed' => 12.0]])->words[0]);
        self::assertStringContainsString('upwards: it floats', self::figures(['still-air' => ['of' => 'water']])->words[0]);
        self::assertSame(['Pulled by 19.6 m/s² on average, 2 times its weight.'], self::figures(['pull' => ['at' => [0.0, 0.15, 9.0], 'strength' => 19.6133, 'law' => 'even']])->words);
        self::assertSame(['Loses half of its speed in 0.347 s.'], self::figures(['drag' => ['share' => 2.0]])->words);
        // 40 N·s/m² at 1 m on 0.135 m² and 1.08 kg: 5 m/s straight up, v²/2g high.
        self::assertSame(['Blast throws it at 5 m/s, 1.27 m high.'], self::figures(['blast' => ['at' => [0.0, -0.85, 0.0]]])->words);
        self::assertSame(['No force acts on Box.'], self::figures([])->words);
        self::assertStringContainsString('5.57 m/s', self::figures(['still-air' => []], 4.0)->words[0], 'four times as much drag, half as fast');
    }

    public function test_forces_that_do_nothing_are_told_with_their_place(): void
    {
        $found = static fn (array $forces): array => array_map(static fn (array $f): array => [$f['path'], $f['message']], array_values(array_filter(self::check($forces), static fn (array $f): bool => str_starts_with($f['path'], 'forces'))));
        self::assertSame([], $found([self::force('wind')]));
        self::assertSame([['forces[0].on', 'Wind: it acts on nothing that physics moves.']], $found([['on' => ['slab']] + self::force('wind')]));
        self::assertSame([['forces[1].amount', 'Swirl: there is none of it at any frame.']], $found([self::force('wind'), ['amount' => 0] + self::force('swirl')]));
        self::assertSame([['forces[0].values.density', 'Still-air: it has no density, so nothing is slowed or borne by it.']], $found([self::force('still-air', ['of' => 'own', 'density' => 0])]));
    }

    /** @return array<string, array{list<array<string, mixed>>, string}> */
    public static function wrong(): array
    {
        return [
            'one that is not there' => [[self::force('storm')], 'forces[0].kind'],
            'a value out of range' => [[self::force('wind'), self::force('turbulence', ['size' => 0])], 'forces[1].values.size'],
            'a prop that is not there' => [[['on' => ['box', 'gone']] + self::force('wind')], 'forces[0].on'],
            'a map that is not there' => [[['map' => 'gone'] + self::force('wind')], 'forces[0].map'],
            'two of one name' => [[self::force('wind'), ['id' => 'other'] + self::force('wind')], 'forces[1].name'],
            'an amount above all of it' => [[['amount' => 2] + self::force('wind')], 'forces[0].amount'],
        ];
    }

    /** @param  list<array<string, mixed>>  $forces */
    #[DataProvider('wrong')]
    public function test_what_is_wrong_with_a_force_is_said_with_its_place(array $forces, string $path): void
    {
        try {
            self::shot($forces);
            self::fail('it was taken');
        } catch (Problem $e) {
            self::assertSame($path, $e->path);
        }
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private static function force(string $kind, array $values = []): array
    {
        return ['id' => $kind, 'name' => ucfirst($kind), 'kind' => $kind, 'values' => (object) $values];
    }

    /** @param  list<array<string, mixed>>  $forces */
    private static function shot(array $forces, float $drag = 1.0): ShotSpec
    {
        $box = Trials::box('box', [0, 0, 0], ['motion' => ['kind' => 'free', 'values' => ['drag' => $drag], 'release' => ['on' => 'frame', 'frame' => 0]]]);
        $box['material']['density'] = 40;

        return ShotSpec::fromJson((string) json_encode(Trials::document([$box, Trials::box('slab', [5, 0, 0])], [
            'version' => 5, 'world' => ['gravity' => [0, -9.80665, 0], 'ground' => ['kind' => 'flat', 'values' => (object) []], 'friction' => 0.6, 'bounce' => 0.05], 'forces' => $forces,
        ])));
    }

    /** @param  array<string, array<string, mixed>>  $forces */
    private static function figures(array $forces, float $drag = 1.0): ForceFigures
    {
        $shot = self::shot(array_map(self::force(...), array_keys($forces), array_values($forces)), $drag);
        $solids = Solid::free((self::maker())->shards($shot->props[0], new \YardBreak\Core\SilentProgress));

        return ForceFigures::of($shot, $shot->props[0], $solids, 0.0, static fn (): array => []);
    }

    /**
     * @param  list<array<string, mixed>>  $forces
     * @return list<array<string, mixed>>
     */
    private static function check(array $forces): array
    {
        return (new SiteCheck(self::maker()))->of(self::shot($forces));
    }

    private static function maker(): PropMaker
    {
        return new PropMaker(new class implements AssetSource
        {
            public function path(string $asset): string
            {
                throw new \LogicException($asset);
            }
        });
    }
}
