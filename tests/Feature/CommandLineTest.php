<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
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

    public function test_bake_writes_a_valid_glb_and_the_same_bytes_again(): void
    {
        $shot = dirname(__DIR__, 2).'/resources/demo/terracotta-jar.json';
        $hashes = [];
        foreach (['a', 'b'] as $try) {
            [$code, $out] = $this->yard('bake', $shot, '--out='.$this->folder.'/'.$try, '--json');
            self::assertSame(0, $code, $out);
            self::assertSame([73, 121], [json_decode($out, true)['frames'], json_decode($out, true)['pieces']]);
            $hashes[] = hash_file('sha256', $this->folder.'/'.$try.'/terracotta-jar.glb');
        }
        self::assertSame($hashes[0], $hashes[1]);
        $report = OutsideTools::node('validate.mjs', $this->folder.'/a/terracotta-jar.glb');
        self::assertSame([0, 0, 121, 1], [$report['errors'], $report['warnings'], $report['nodes'], $report['animations']], json_encode($report) ?: '');
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

    /** @return array{int, string, string} */
    private function yard(string ...$arguments): array
    {
        return OutsideTools::run([dirname(__DIR__, 2).'/bin/yard', ...$arguments]);
    }
}
