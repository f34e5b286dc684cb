<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Attack\Attack;
use Tests\Attack\Mutants;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\References\OutsideTools;

/** bin/yard as a person or a script uses it. */
final class CommandLineTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = OutsideTools::folder();
        MeshWriter::write(ShapeCatalogue::mesh('ring', ['segments' => 48, 'rows' => 16]), $this->folder.'/ring.stl', 'stl');
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    public function test_inspect_prints_one_object_with_the_closed_form_volume(): void
    {
        [$code, $out] = $this->yard('inspect', $this->folder.'/ring.stl', '--json');
        $got = json_decode($out, true);
        self::assertSame(0, $code);
        self::assertSame([1536, 768, true, true, 1, 0, 0], [$got['faces'], $got['vertices'], $got['closed'], $got['oriented'], $got['parts'], $got['boundary_edges'], $got['nonmanifold_edges']]);
        // 2π²Rr² (Pappus), less what 48 × 16 flat faces cut off.
        self::assertEqualsWithDelta(2 * M_PI ** 2 * 0.4 * 0.12 ** 2, $got['volume'], 0.04 * $got['volume']);
    }

    public function test_break_writes_a_file_a_shard(): void
    {
        [$code, $out] = $this->yard('break', $this->folder.'/ring.stl', '--pattern=cells', '--count=20', '--seed=5', '--set', 'even=0.5', '--out='.$this->folder.'/shards', '--format=ply', '--json');
        $got = json_decode($out, true);
        self::assertSame(0, $code);
        self::assertCount($got['shards'], glob($this->folder.'/shards/shard-*.ply') ?: []);
        self::assertSame($got['shards'], $got['watertight']);
        self::assertEqualsWithDelta(1.0, $got['volume_out'] / $got['volume_in'], 1e-12);
        self::assertTrue($got['smallest'] <= $got['median'] && $got['median'] <= $got['largest']);
    }

    /** The maps of the demo shots go from nothing to all, and nothing about them is doubtful. */
    public function test_weights_tell_how_far_a_map_reaches(): void
    {
        $demo = dirname(__DIR__, 2).'/resources/demo/';
        foreach (['name-board-assembling' => ['comes', 'wiped'], 'sundial' => ['cold'], 'trellis' => ['damp', 'opens']] as $shot => $maps) {
            self::assertSame($maps, array_column(json_decode($this->yard('weights', $demo.$shot.'.json', '--json')[1], true), 'map'));
            [$code, $out] = $this->yard('weights', $demo.$shot.'.json', '--map='.$maps[0], '--json');
            $got = json_decode($out, true);
            self::assertSame(0, $code, $out);
            self::assertSame([], $got['findings']);
            self::assertEquals([1, 0], [$got['coverage'][0]['none'], $got['coverage'][0]['full']]);
            $last = end($got['coverage']);
            self::assertEquals([0, 1], [$last['none'], $last['full']]);
            $means = array_column($got['coverage'], 'mean');
            $rising = $means;
            sort($rising);
            self::assertSame($rising, $means, 'it never goes back');
        }
        self::assertSame(1, $this->yard('weights', $demo.'trellis.json', '--map=gone')[0]);
    }

    public function test_rebake_says_what_is_kept_and_whether_it_is_true(): void
    {
        $before = json_decode((string) file_get_contents(dirname(__DIR__, 2).'/resources/demo/terracotta-jar.json'), true);
        $before['frames']['last'] = 14;
        $before['props'][0]['break']['values']['count'] = 8;
        $after = $before;
        $after['world']['gravity'][1] = ['keys' => [['frame' => 12, 'value' => $before['world']['gravity'][1], 'ease' => 'hold'], ['frame' => 13, 'value' => 0]]];
        $write = function (string $name, array $document): string {
            file_put_contents($path = $this->folder.'/'.$name, str_replace('"values":[]', '"values":{}', (string) json_encode($document)));

            return $path;
        };
        [$code, $out] = $this->yard('rebake', $write('a.json', $before), $write('b.json', $after), '--json');
        self::assertSame(0, $code, $out);
        self::assertSame(['kept' => 13, 'differs_at' => 14, 'resumed_differs_at' => null, 'reason' => 'gravity y'], json_decode($out, true));
        [, $out] = $this->yard('rebake', $write('a.json', $before), $write('b.json', $before), '--json');
        self::assertSame(['kept' => 15, 'differs_at' => null, 'resumed_differs_at' => null, 'reason' => null], json_decode($out, true));
        self::assertSame(1, $this->yard('rebake', $this->folder.'/none.json', $this->folder.'/b.json')[0]);
    }

    /** The same bytes however long a slice is, and a camera that goes where what the bake finds sends it. */
    public function test_a_bake_in_slices_writes_the_same_files(): void
    {
        $shot = json_decode((string) file_get_contents(dirname(__DIR__, 2).'/resources/demo/terracotta-jar.json'), true);
        $shot['frames']['last'] = 16;
        $shot['props'][0]['break']['values']['count'] = 8;
        $shot['cues'] = [['id' => 'land', 'name' => 'Land', 'at' => ['on' => 'touch', 'one' => $shot['props'][0]['id'], 'other' => $shot['props'][1]['id']]]];
        $shot['camera'] = ['position' => [['keys' => [['frame' => 0, 'value' => 0], ['cue' => 'land', 'offset' => 0, 'value' => 0], ['cue' => 'land', 'offset' => 2, 'value' => 5]]], 1, 4], 'target' => [0, 0, 0], 'focal' => 36, 'film' => 36, 'shape' => [1920, 1080]];
        file_put_contents($path = $this->folder.'/shot.json', str_replace('"values":[]', '"values":{}', (string) json_encode($shot)));
        $files = [];
        foreach (['0', '1000'] as $slice) {
            self::assertSame(0, $this->yard('bake', $path, '--slice='.$slice, '--out='.$this->folder.'/'.$slice, '--json')[0]);
            $files[] = (string) file_get_contents((glob($this->folder.'/'.$slice.'/*.glb') ?: [''])[0]);
        }
        self::assertSame(md5($files[0]), md5($files[1]));
        $json = json_decode(substr($files[0], 20, unpack('V', $files[0], 12)[1] ?? 0), true);
        $camera = array_key_last(array_filter($json['nodes'], static fn (array $n): bool => isset($n['camera'])));
        $moves = array_values(array_filter($json['animations'][0]['channels'], static fn (array $c): bool => $c['target'] === ['node' => $camera, 'path' => 'translation']))[0];
        $at = $json['accessors'][$json['animations'][0]['samplers'][$moves['sampler']]['output']];
        self::assertSame(17, $at['count']);
        $from = 28 + (unpack('V', $files[0], 12)[1] ?? 0) + $json['bufferViews'][$at['bufferView']]['byteOffset'] + ($at['byteOffset'] ?? 0);
        $x = array_map(static fn (int $k): float => round((unpack('g', $files[0], $from + 12 * $k) ?: [1 => 0.0])[1], 5), range(0, 16));
        self::assertSame([0.0, 5.0], [$x[0], $x[16]]);
        self::assertSame(1, $this->yard('bake', $path, '--slice=-1')[0]);
    }

    public function test_steps_of_preparation_are_done_in_the_order_given_each_with_its_settings(): void
    {
        [$code, $out] = $this->yard('prepare', $this->folder.'/ring.stl', '--step=weld', '--step=subdivide', '--set', 'times=2', '--step=push', '--set', 'distance=0.01', '--step=subdivide', '--set', 'scheme=loop', '--out='.$this->folder.'/made.ply', '--json');
        $got = json_decode($out, true);
        self::assertSame(0, $code, $out);
        self::assertSame(['weld', 'subdivide', 'push', 'subdivide'], $got['steps']);
        self::assertSame(1536 * 16 * 4, $got['faces']);
        self::assertTrue($got['closed']);
        // Pappus again, for a ring a hundredth thicker.
        self::assertEqualsWithDelta((0.13 / 0.12) ** 2, $got['volume'] / $got['volume_in'], 0.02);
        self::assertFileExists($this->folder.'/made.ply');
        self::assertSame(1, $this->yard('prepare', $this->folder.'/ring.stl', '--step=polish')[0]);
        self::assertSame(2, $this->yard('prepare', $this->folder.'/ring.stl')[0]);
    }

    public function test_props_come_from_texts_drawings_and_pictures(): void
    {
        [$code, $out] = $this->yard('prop', '--from=text:FERN', '--set', 'depth=0.1', '--out='.$this->folder.'/fern.stl', '--json');
        self::assertSame(0, $code, $out);
        self::assertSame([4, true], [json_decode($out, true)['parts'], json_decode($out, true)['closed']]);
        file_put_contents($this->folder.'/disc.svg', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10" width="10" height="10"><circle cx="5" cy="5" r="5"/></svg>');
        [, $out] = $this->yard('prop', '--from='.$this->folder.'/disc.svg', '--set', 'size=2', '--set', 'depth=0.5', '--json');
        self::assertEqualsWithDelta(M_PI * 0.5, json_decode($out, true)['volume'], 0.004);
        self::assertSame(1, $this->yard('prop', '--from='.$this->folder.'/nothing.png')[0]);
        self::assertSame(2, $this->yard('prop')[0]);
    }

    /** @return array<string, array{list<string>, int}> further words of `break`, and pieces at least */
    public static function patterns(): array
    {
        return [
            'halving' => [['--pattern=halving', '--set', 'passes=5', '--set', 'roughness=0.2', '--set', 'cut=bowed'], 32],
            'strike' => [['--pattern=strike', '--set', 'point=0.4,0.1,0', '--set', 'axis=0,1,0', '--set', 'rays=12', '--set', 'rings=4'], 20],
            'courses' => [['--pattern=courses', '--set', 'unit=0.215,0.065,0.1025', '--set', 'joint=0.01', '--set', 'bond=third'], 20],
            'tiles' => [['--pattern=tiles', '--set', 'grid=4,1,4'], 12],
            'flakes' => [['--pattern=flakes', '--set', 'faces=12', '--set', 'thickness=0.002'], 100],
            'flakes by weight' => [['--pattern=flakes', '--set', 'faces=12', '--set', 'weight=front point=0,0.1,0 direction=0,1,0 none=0.05'], 50],
            'stencil' => [['--pattern=stencil', '--set', 'outline=DRAWING', '--set', 'axis=0,1,0'], 2],
            'score' => [['--pattern=score', '--set', 'lines=DRAWING', '--set', 'axis=0,1,0'], 2],
            'punch' => [['--pattern=punch', '--set', 'point=0.4,0.1,0', '--set', 'axis=0,-1,0', '--set', 'radius=0.05', '--set', 'keep=both'], 2],
            'punch by a prop' => [['--pattern=punch', '--set', 'cutter=prop', '--set', 'tool=TOOL'], 3],
        ];
    }

    /** @param  list<string>  $words */
    #[DataProvider('patterns')]
    public function test_every_pattern_breaks_from_the_command_line(array $words, int $pieces): void
    {
        file_put_contents($this->folder.'/drawing.svg', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="100" height="100"><rect x="-10" y="40" width="120" height="20"/></svg>');
        // A bar through both sides of the ring.
        $this->yard('prop', '--from=box', '--set', 'width=1.2', '--set', 'height=0.1', '--set', 'depth=0.1', '--out='.$this->folder.'/bar.ply');
        [$code, $out] = $this->yard('break', $this->folder.'/ring.stl', '--json', ...str_replace(['DRAWING', 'TOOL'], [$this->folder.'/drawing.svg', $this->folder.'/bar.ply'], $words));
        $got = json_decode($out, true);
        self::assertSame(0, $code, $out);
        self::assertGreaterThanOrEqual($pieces, $got['shards']);
        self::assertSame($got['shards'], $got['watertight']);
        self::assertEqualsWithDelta(1.0, $got['volume_out'] / $got['volume_in'], 1e-9);
        [, $described] = $this->yard('break', '--describe', $words[0]);
        self::assertContains('seed', array_column((array) json_decode($described, true), 'name'));
    }

    public function test_bake_writes_a_valid_glb_and_the_same_bytes_again(): void
    {
        $shot = dirname(__DIR__, 2).'/resources/demo/terracotta-jar.json';
        $hashes = [];
        foreach (['a', 'b'] as $try) {
            [$code, $out] = $this->yard('bake', $shot, '--out='.$this->folder.'/'.$try, '--json');
            self::assertSame(0, $code, $out);
            self::assertSame([73, 401], [json_decode($out, true)['frames'], json_decode($out, true)['pieces']]);
            $hashes[] = hash_file('sha256', $this->folder.'/'.$try.'/terracotta-jar.glb');
        }
        self::assertSame($hashes[0], $hashes[1]);
        $report = OutsideTools::node('validate.mjs', $this->folder.'/a/terracotta-jar.glb');
        self::assertSame([0, 0, 401, 1], [$report['errors'], $report['warnings'], $report['nodes'], $report['animations']], json_encode($report) ?: '');
    }

    /** @return array<string, array{list<string>, int, string}> */
    public static function wrongCalls(): array
    {
        return [
            'no file named' => [['inspect'], 2, 'Not enough arguments'],
            'unknown command' => [['explode'], 2, 'explode'],
            'unknown option' => [['inspect', 'x.stl', '--loud'], 2, 'loud'],
            'no such file' => [['inspect', '/nowhere/x.stl'], 1, 'There is no file'],
            'no pieces' => [['break', '{ring}', '--count=0'], 1, 'between 1 and'],
            'unknown pattern' => [['break', '{ring}', '--pattern=magic'], 1, 'no pattern called'],
            'unknown setting' => [['break', '{ring}', '--set', 'size=3'], 1, 'no setting called'],
            'setting without a value' => [['break', '{ring}', '--set', 'size'], 2, 'name=value'],
            'unknown format' => [['break', '{ring}', '--format=doc'], 1, 'no format'],
            'a shot that is none' => [['check', '{ring}'], 1, 'no shot document'],
        ];
    }

    /** @param  list<string>  $call */
    #[DataProvider('wrongCalls')]
    public function test_a_wrong_call_is_said_in_words_with_its_exit_code(array $call, int $code, string $words): void
    {
        [$got, $out, $errors] = $this->yard(...array_map(fn (string $a): string => str_replace('{ring}', $this->folder.'/ring.stl', $a), $call));
        self::assertSame($code, $got, $out.$errors);
        self::assertStringContainsString($words, $errors);
        self::assertStringNotContainsString('#0 ', $errors);
    }

    public function test_a_damaged_file_ends_with_a_sentence_and_another_exit_code_than_0(): void
    {
        $refused = 0;
        foreach (Attack::files() as $kind => [$name, $good]) {
            if (in_array($kind, ['SVG', 'PNG'], true)) {
                continue;
            }
            $mutants = new Mutants(20261125);
            for ($i = 0; $i < 6; $i++) {
                file_put_contents($this->folder.'/'.$name, $kind === 'GLB' ? $mutants->ofGlb($good) : $mutants->of($good));
                [$code, $out, $errors] = $this->yard('inspect', $this->folder.'/'.$name);
                self::assertStringNotContainsString('Warning', $out.$errors, $kind);
                self::assertStringNotContainsString('inside Yard Break', $errors, $kind);
                self::assertSame($code === 0, $errors === '', $kind.': '.$errors);
                $refused += $code === 0 ? 0 : 1;
            }
        }
        self::assertGreaterThan(10, $refused);
    }

    /** @return array{int, string, string} */
    private function yard(string ...$arguments): array
    {
        return OutsideTools::run([dirname(__DIR__, 2).'/bin/yard', ...$arguments]);
    }
}
