<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Problem;
use YardBreak\Core\Rigid\RigidSettings;
use YardBreak\Core\Shot\ShotSpec;

final class ShotSpecTest extends TestCase
{
    public function test_a_document_becomes_typed_values_in_the_units_of_the_core(): void
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $d['props'][0]['place'] = ['position' => [1, 2, 3], 'turn' => [0, 90, 0], 'size' => 2];
            $d['props'][0]['motion'] = [
                'kind' => 'free',
                'held' => 'whole',
                'release' => ['on' => 'touch', 'reach' => 0.3],
                'velocity' => [1, 0, 0],
                'spin' => [0, 180, 0],
            ];

            return $d;
        }));
        self::assertSame([0, 96, 24.0, 'normal'], [$shot->first, $shot->last, $shot->rate->perSecond(), $shot->quality]);
        $prop = $shot->props[0];
        self::assertSame([1.0, 2.0, 3.0], $prop->place->at(0)->position->toArray());
        // A quarter turn about y takes x to −z.
        $x = $prop->place->at(0)->turn->turn(new \YardBreak\Core\Geometry\Vec3(1, 0, 0));
        self::assertEqualsWithDelta([0.0, 0.0, -1.0], $x->toArray(), 1e-12);
        $m = $prop->motion;
        self::assertInstanceOf(RigidSettings::class, $m->settings);
        self::assertSame(['free', true, 'touch', 0.3, M_PI], [$m->kind, $m->settings->whole, $m->release->on, $m->release->reach, $m->settings->spin(0)->y]);
    }

    /** @return array<string, array{\Closure(array<string, mixed>): array<string, mixed>, string, string}> the change, the path named, words of the message */
    public static function wrong(): array
    {
        $set = Documents::set(...);

        return [
            'an unknown field' => [$set('colour', 'red'), '', 'no such setting: colour'],
            'an unknown field of a prop' => [$set('props/0/weight', 3), 'props[0]', 'no such setting: weight'],
            'an unknown field of one of several forms' => [
                $set('props/0/motion', ['kind' => 'free', 'release' => ['on' => 'touch', 'level' => 1]]),
                'props[0].motion.release',
                'no such setting: level',
            ],
            'a gap in one of several forms' => [
                $set('props/0/motion', ['kind' => 'free', 'release' => ['on' => 'cue', 'cue' => 'hit']]),
                'props[0].motion.release',
                'missing: offset',
            ],
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
            'a million pieces' => [
                $set('props/0/break', ['pattern' => 'cells', 'values' => ['count' => 1_000_000]]),
                'props[0].break.values.count',
                'between 1 and',
            ],
            'a negative count' => [$set('props/0/break', ['pattern' => 'cells', 'values' => ['count' => -4]]), 'props[0].break.values.count', 'between 1 and'],
            'half a piece' => [$set('props/0/break', ['pattern' => 'cells', 'values' => ['count' => 2.5]]), 'props[0].break.values.count', 'whole number'],
            'an unknown value of a pattern' => [
                $set('props/0/break', ['pattern' => 'cells', 'values' => ['cuont' => 3]]),
                'props[0].break.values.cuont',
                'no setting called "cuont"',
            ],
            'an unknown shape' => [$set('props/0/source', ['kind' => 'shape', 'shape' => 'teapot', 'values' => []]), 'props[0].source', 'teapot'],
            'no frames a second' => [$set('frames/rate', [0, 1]), 'frames.rate', 'above 0'],
            'no key at all' => [$set('props/0/place/size', ['keys' => []]), 'props[0].place.size', ''],
            'a size keyed to nothing only' => [$set('props/0/place/size', ['keys' => [['frame' => 0, 'value' => 0]]]), 'props[0].place.size', 'never above 0'],
            'a key out of its range' => [
                $set('props/0/material/bounce', ['keys' => [['frame' => 0, 'value' => 0], ['frame' => 5, 'value' => 1.5]]]),
                'props[0].material.bounce.keys[1].value',
                'between 0 and 1',
            ],
            'an ease that goes back in time' => [
                $set('props/0/place/size', ['keys' => [['frame' => 0, 'value' => 1, 'ease' => [1.2, 0, 0.5, 1]], ['frame' => 5, 'value' => 2]]]),
                'props[0].place.size.keys[0].ease',
                'go back in time',
            ],
            'a key tied to nothing' => [
                $set('props/0/place/position/1', ['keys' => [['cue' => 'hit', 'offset' => 2, 'value' => 1]]]),
                'props[0].place.position[1].keys[0].cue',
                'not there',
            ],
            'a release tied to nothing' => [
                $set('props/0/motion', ['kind' => 'free', 'release' => ['on' => 'cue', 'cue' => 'hit', 'offset' => 0]]),
                'props[0].motion.release.cue',
                'not there',
            ],
            'a cue of a prop that is not there' => [
                $set('cues', [['id' => 'hit', 'name' => 'Hit', 'at' => ['on' => 'touch', 'one' => 'block', 'other' => 'gone']]]),
                'cues[0].at.other',
                'not there',
            ],
            'a cue of a prop with itself' => [
                $set('cues', [['id' => 'hit', 'name' => 'Hit', 'at' => ['on' => 'touch', 'one' => 'block', 'other' => 'block']]]),
                'cues[0].at.other',
                'touch itself',
            ],
            'a cue that hangs on itself' => [static function (array $d): array {
                $d['cues'] = [['id' => 'hit', 'name' => 'Hit', 'at' => ['on' => 'touch', 'one' => 'block', 'other' => 'ground']]];
                $d['props'][0]['motion'] = ['kind' => 'keyed'];
                $d['props'][0]['place']['position'][1] = ['keys' => [['frame' => 0, 'value' => 1], ['cue' => 'hit', 'offset' => 0, 'value' => 0]]];

                return $d;
            }, 'cues[0].at', 'hangs on itself'],
            'cues in a circle' => [static function (array $d): array {
                $other = ['id' => 'other', 'name' => 'Other'] + $d['props'][0];
                $touch = static fn (string $id, string $one): array => [
                    'id' => $id,
                    'name' => ucfirst($id),
                    'at' => ['on' => 'touch', 'one' => $one, 'other' => 'ground'],
                ];
                $tied = static fn (string $cue): array => ['keys' => [['frame' => 0, 'value' => 1], ['cue' => $cue, 'offset' => 0, 'value' => 0]]];
                $d['props'][] = $other;
                $d['cues'] = [$touch('a', 'block'), $touch('b', 'other')];
                foreach (['b', 'a'] as $k => $cue) {
                    $d['props'][$k]['motion'] = ['kind' => 'keyed'];
                    $d['props'][$k]['place']['position'][1] = $tied($cue);
                }

                return $d;
            }, 'cues[0].at', 'hang on each other in a circle'],
            'two cues of one name' => [
                $set(
                    'cues',
                    [
                        ['id' => 'a', 'name' => 'Hit', 'at' => ['on' => 'frame', 'frame' => 1]],
                        ['id' => 'b', 'name' => 'hit', 'at' => ['on' => 'frame', 'frame' => 2]],
                    ],
                ),
                'cues[1].name',
                'Two cues',
            ],
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
