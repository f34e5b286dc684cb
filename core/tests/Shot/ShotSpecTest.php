<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotSpec;

final class ShotSpecTest extends TestCase
{
    public function test_a_document_becomes_typed_values_in_the_units_of_the_core(): void
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $d['props'][0]['place'] = ['position' => [1, 2, 3], 'turn' => [0, 90, 0], 'size' => 2];
            $d['props'][0]['motion'] = ['kind' => 'free', 'held' => 'whole', 'release' => ['on' => 'touch', 'reach' => 0.3], 'velocity' => [1, 0, 0], 'spin' => [0, 180, 0]];

            return $d;
        }));
        self::assertSame([0, 96, 24.0, 'normal'], [$shot->first, $shot->last, $shot->rate, $shot->quality]);
        $prop = $shot->props[0];
        self::assertSame([1.0, 2.0, 3.0], $prop->place->position->toArray());
        // A quarter turn about y takes x to −z.
        $x = $prop->place->turn->turn(new \YardBreak\Core\Geometry\Vec3(1, 0, 0));
        self::assertEqualsWithDelta([0.0, 0.0, -1.0], $x->toArray(), 1e-12);
        self::assertSame(['free', 'whole', 'touch', 0.3], [$prop->motion, $prop->held, $prop->releaseOn, $prop->reach]);
        self::assertEqualsWithDelta(M_PI, $prop->spin->y, 1e-12, 'degrees a second become radians');
    }

    /** @return array<string, array{\Closure(array<string, mixed>): array<string, mixed>, string, string}> the change, the path named, words of the message */
    public static function wrong(): array
    {
        $set = static fn (string $path, mixed $value): \Closure => static function (array $d) use ($path, $value): array {
            $at = &$d;
            foreach (explode('/', $path) as $key) {
                $at = &$at[is_numeric($key) ? (int) $key : $key];
            }
            $at = $value;

            return $d;
        };

        return [
            'an unknown field' => [$set('colour', 'red'), '', 'no such setting: colour'],
            'an unknown field of a prop' => [$set('props/0/weight', 3), 'props[0]', 'no such setting: weight'],
            'a word for a number' => [$set('frames/first', 'zero'), 'frames.first', 'of the kind: integer'],
            'a number for a word' => [$set('name', 7), 'name', 'of the kind: string'],
            'two coordinates' => [$set('props/0/place/position', [1, 2]), 'props[0].place.position', ''],
            'no size at all' => [$set('props/0/place/size', 0), 'props[0].place.size', ''],
            'a colour that is none' => [$set('props/0/material/colour', 'reddish'), 'props[0].material.colour', ''],
            'a newer version' => [$set('version', 9), 'version', 'newer version'],
            'frames that run backwards' => [$set('frames/last', -1), 'frames.last', ''],
            'more frames than are baked' => [$set('frames/last', 100_000), 'frames.last', ''],
            'two props of one id' => [static function (array $d): array {
                $d['props'][] = $d['props'][0];

                return $d;
            }, 'props[1].id', ''],
            'an unknown pattern' => [$set('props/0/break', ['pattern' => 'shredder', 'values' => []]), 'props[0].break', 'no pattern called "shredder"'],
            'no pieces' => [$set('props/0/break', ['pattern' => 'cells', 'values' => ['count' => 0]]), 'props[0].break.values.count', 'between 1 and'],
            'a million pieces' => [$set('props/0/break', ['pattern' => 'cells', 'values' => ['count' => 1_000_000]]), 'props[0].break.values.count', 'between 1 and'],
            'a negative count' => [$set('props/0/break', ['pattern' => 'cells', 'values' => ['count' => -4]]), 'props[0].break.values.count', 'between 1 and'],
            'half a piece' => [$set('props/0/break', ['pattern' => 'cells', 'values' => ['count' => 2.5]]), 'props[0].break.values.count', 'whole number'],
            'an unknown value of a pattern' => [$set('props/0/break', ['pattern' => 'cells', 'values' => ['cuont' => 3]]), 'props[0].break.values.cuont', 'no setting called "cuont"'],
            'an unknown shape' => [$set('props/0/source', ['kind' => 'shape', 'shape' => 'teapot', 'values' => []]), 'props[0].source', 'teapot'],
            'keys at one frame' => [$set('props/0/motion', ['kind' => 'keyed', 'keys' => [['frame' => 3, 'position' => [0, 0, 0], 'turn' => [0, 0, 0]], ['frame' => 3, 'position' => [1, 0, 0], 'turn' => [0, 0, 0]]]]), 'props[0].motion.keys[1].frame', ''],
        ];
    }

    /** @param  \Closure(array<string, mixed>): array<string, mixed>  $change */
    #[DataProvider('wrong')]
    public function test_what_is_wrong_is_named_with_its_path(\Closure $change, string $path, string $words): void
    {
        try {
            ShotSpec::fromJson(Documents::json($change));
            self::fail('it was taken');
        } catch (Problem $e) {
            self::assertTrue(str_starts_with($e->path, $path), $e->path.': '.$e->getMessage());
            self::assertStringContainsString($words, $e->getMessage());
        }
    }

    public function test_what_is_no_json_is_said(): void
    {
        foreach (['', '{', '[]', '"jar"', "\0\1"] as $text) {
            try {
                ShotSpec::fromJson($text);
                self::fail('it was taken: '.$text);
            } catch (Problem $e) {
                self::assertStringContainsString('no shot document', $e->getMessage());
            }
        }
    }

    public function test_only_what_changes_a_bake_changes_its_fingerprint_and_is_named(): void
    {
        $before = ShotSpec::fromJson(Documents::json());
        $changed = static function (string $part, \Closure $change) use ($before): void {
            $after = ShotSpec::fromJson(Documents::json($change));
            $names = array_keys(array_diff_assoc($after->bakeParts(), $before->bakeParts()));
            self::assertSame($part === '' ? [] : [$part], $names);
            self::assertSame($part === '', $after->fingerprint() === $before->fingerprint());
        };
        $changed('', static fn (array $d): array => ['name' => 'Another name'] + $d);
        $changed('', static function (array $d): array {
            $d['props'][0]['material']['colour'] = '#000000';

            return $d;
        });
        $changed('world', static function (array $d): array {
            $d['world']['ground']['friction'] = 0.9;

            return $d;
        });
        $changed('material:block', static function (array $d): array {
            $d['props'][0]['material']['density'] = 9.0;

            return $d;
        });
        $changed('place:block', static function (array $d): array {
            $d['props'][0]['place']['position'] = [0, 5, 0];

            return $d;
        });
        $changed('', static function (array $d): array {
            $d['props'][0]['name'] = 'Another';

            return $d;
        });
        foreach (['turn' => [0, 0, 9], 'size' => 2] as $what => $value) {
            $changed($what === 'size' ? 'shape:block' : 'place:block', static function (array $d) use ($what, $value): array {
                $d['props'][0]['place'][$what] = $value;

                return $d;
            });
        }
        foreach (['held' => 'whole', 'velocity' => [1, 0, 0], 'spin' => [0, 90, 0], 'release' => ['on' => 'frame', 'frame' => 3]] as $what => $value) {
            $changed('motion:block', static function (array $d) use ($what, $value): array {
                $d['props'][0]['motion'][$what] = $value;

                return $d;
            });
        }
        $changed('quality', static fn (array $d): array => ['quality' => 'final'] + $d);
        $changed('frames', static function (array $d): array {
            $d['frames']['rate'] = 25;

            return $d;
        });
    }

    public function test_props_in_another_order_are_another_bake(): void
    {
        $of = static fn (bool $turned): ShotSpec => ShotSpec::fromJson(Documents::json(static function (array $d) use ($turned): array {
            $two = [$d['props'][0], ['id' => 'other', 'name' => 'Other'] + $d['props'][0]];
            $d['props'] = $turned ? array_reverse($two) : $two;

            return $d;
        }));
        self::assertSame(['order'], array_keys(array_diff_assoc($of(true)->bakeParts(), $of(false)->bakeParts())));
        self::assertNotSame($of(true)->fingerprint(), $of(false)->fingerprint());
        self::assertSame(['place of Other', 'frame range or rate', 'material of a prop that is gone'], array_map(static fn (string $part): string => ShotSpec::partInWords($part, ['other' => 'Other']), ['place:other', 'frames', 'material:gone']));
    }

    public function test_the_order_of_settings_does_not_change_the_shards(): void
    {
        $one = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $d['props'][0]['break'] = ['pattern' => 'cells', 'values' => ['count' => 9, 'seed' => 2]];

            return $d;
        }));
        $other = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $d['props'][0]['break'] = ['values' => ['seed' => 2.0, 'count' => 9], 'pattern' => 'cells'];

            return $d;
        }));
        self::assertSame($one->props[0]->shardKey(), $other->props[0]->shardKey());
    }
}
