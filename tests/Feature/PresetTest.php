<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Preset;
use App\Models\Shot;
use App\Yard\Presets;

/** Kept values of one bench. */
final class PresetTest extends YardTestCase
{
    public function test_what_is_set_on_a_bench_is_kept_and_laid_on_several_props_of_another_shot(): void
    {
        $id = $this->newShot();
        $box = self::box(30);
        $box['weights'] = [['id' => 'top', 'name' => 'Top', 'sources' => [['source' => 'front', 'values' => new \stdClass, 'operation' => 'add', 'amount' => 1]]]];
        $box['motion']['release'] = ['on' => 'weight', 'map' => 'top', 'level' => 0.5];
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $box]])->assertOk();
        $this->send('POST', 'presets', ['shot' => $id, 'prop' => 'box', 'bench' => 'break', 'name' => 'Thirty'])->assertCreated();
        $own = array_values(array_filter($this->send('POST', 'presets', ['shot' => $id, 'prop' => 'box', 'bench' => 'motion', 'name' => 'From the top'])->json(), static fn (array $p): bool => ! $p['given']));
        self::assertSame([['break', 'Thirty'], ['motion', 'From the top']], array_map(static fn (array $p): array => [$p['bench'], $p['name']], [$own[1], $own[0]]));

        $other = $this->newShot();
        $this->edit($other, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box(5, 'one')], ['op' => 'add', 'path' => '/props/-', 'value' => self::box(6, 'two')]])->assertOk();
        $laid = $this->send('POST', "shots/$other/presets", ['revision' => 1, 'preset' => $own[1]['id'], 'onto' => ['one', 'two']])->assertOk()->json();
        self::assertSame([[30, 30], 'Preset Thirty', []], [array_map(static fn (array $p): int => $p['break']['values']['count'], $laid['document']['props']), $laid['undo'], $laid['left']]);
        // The map it goes by comes along, under an id of its own on each.
        $laid = $this->send('POST', "shots/$other/presets", ['revision' => 2, 'preset' => $own[0]['id'], 'onto' => ['one', 'two']])->assertOk()->json('document.props');
        $maps = array_map(static fn (array $p): string => $p['weights'][0]['id'], $laid);
        self::assertSame($maps, array_map(static fn (array $p): string => $p['motion']['release']['map'], $laid));
        self::assertNotSame($maps[0], $maps[1]);
        self::assertSame('two', $laid[1]['id']);
        // Kept again under its name it is another; thrown away it is gone.
        $this->send('POST', 'presets', ['shot' => $other, 'prop' => 'one', 'bench' => 'break', 'name' => 'Thirty'])->assertCreated();
        self::assertSame(2, Preset::query()->count());
        $this->send('DELETE', 'presets/'.$own[0]['id'])->assertNoContent();
        self::assertSame(1, Preset::query()->count());
    }

    public function test_every_given_one_fits_a_prop(): void
    {
        foreach (Presets::all() as $preset) {
            $id = $this->newShot();
            $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => ['motion' => ['kind' => 'fixed']] + self::box()]])->assertOk();
            $laid = $this->send('POST', "shots/$id/presets", ['revision' => 1, 'preset' => $preset['id'], 'onto' => ['box']])->assertOk()->json();
            self::assertSame([], $laid['left'], $preset['name']);
            self::assertNotEquals((['motion' => ['kind' => 'fixed']] + self::box())[$preset['bench']], $laid['document']['props'][0][$preset['bench']], $preset['name'].' changes something');
        }
        self::assertContains('motion', array_column(Presets::all(), 'bench'));
    }

    public function test_one_of_an_older_version_is_brought_up_to_this_one(): void
    {
        $older = Preset::query()->create(['bench' => 'motion', 'name' => 'Of yesterday', 'version' => 4, 'prop' => (string) json_encode([
            'id' => 'old', 'name' => 'Old', 'motion' => ['kind' => 'free', 'held' => 'whole'],
        ])]);
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box()]])->assertOk();
        $motion = $this->send('POST', "shots/$id/presets", ['revision' => 1, 'preset' => $older->id, 'onto' => ['box']])->assertOk()->json('document.props.0.motion');
        // What was said of all motion then is said of rigid bodies now.
        self::assertSame('whole', $motion['values']['held']);
        self::assertArrayNotHasKey('held', $motion);
    }

    public function test_what_cannot_be_kept_or_laid_is_refused_in_words(): void
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => ['break' => null] + self::box()]])->assertOk();
        $said = fn (string $name, string $bench): string => (string) $this->send('POST', 'presets', ['shot' => $id, 'prop' => 'box', 'bench' => $bench, 'name' => $name])->assertStatus(422)->json('problem.message');
        self::assertSame('Box has nothing set on that bench yet.', $said('x', 'break'));
        self::assertSame('There is no such bench.', $said('x', 'kitchen'));
        self::assertStringContainsString('letters', $said(str_repeat('x', 61), 'material'));
        $newer = Preset::query()->create(['bench' => 'motion', 'name' => 'Of tomorrow', 'version' => 99, 'prop' => '{}']);
        self::assertStringContainsString('was kept by a newer Yard Break: it is of version 99', (string) $this->send('POST', "shots/$id/presets", ['revision' => 1, 'preset' => $newer->id, 'onto' => ['box']])->assertStatus(422)->json('problem.message'));
        $this->send('POST', "shots/$id/presets", ['revision' => 1, 'preset' => 'given-0', 'onto' => ['gone']])->assertStatus(422);
        $this->send('POST', "shots/$id/presets", ['revision' => 1, 'preset' => 'given-999', 'onto' => ['box']])->assertStatus(422);
        self::assertSame(1, Shot::query()->findOrFail($id)->revision, 'nothing changed');
    }
}
