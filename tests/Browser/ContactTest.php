<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverKeys;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Motion\StreamKind;

/** What the picture shows is what collides. */
final class ContactTest extends BrowserTestCase
{
    private const BALLS = 10;

    private const RADIUS = 0.05;

    /** Ten balls dropped into a bowl made with the lathe lie in it at the end, within its wall and not on a lid over it. */
    public function test_balls_dropped_into_a_bowl_lie_in_it(): void
    {
        $a = $this->artist;
        // Outside and back down the inside: 0.35 m wide at the rim, 2 cm thick.
        $profile = [[0, 0], [0.2, 0], [0.3, 0.1], [0.35, 0.25], [0.33, 0.25], [0.28, 0.11], [0.19, 0.02], [0, 0.02]];
        $scene = [
            Setting::box('bowl', ['source' => ['kind' => 'shape', 'shape' => 'lathe', 'values' => ['profile' => $profile]], 'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1]]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 60],
        ];
        for ($k = 0; $k < self::BALLS; $k++) {
            $at = [0.12 * cos(2.4 * $k) * ($k % 3) / 2, 0.4 + 0.12 * $k, 0.12 * sin(2.4 * $k) * ($k % 3) / 2];
            $scene[] = Setting::box("ball$k", [
                'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => self::RADIUS]],
                'place' => ['position' => $at, 'turn' => [0, 0, 0], 'size' => 1],
                'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]],
            ]);
        }
        $a->opensShot($scene);
        $a->keys('5');
        $a->keys('b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::END);
        $a->until(static fn (): bool => $a->frameDrawn() === 60);
        $bytes = $a->browser->executeAsyncScript(<<<'JS'
            const done = arguments[0];
            (async () => {
                const bake = (await (await fetch(`/api/shots/${location.pathname.split('/').pop()}/bake`)).json());
                const buffer = await (await fetch(`/api/bakes/${(bake.bake ?? bake).id}/frames?from=60&count=1`)).arrayBuffer();
                done(btoa(String.fromCharCode(...new Uint8Array(buffer))));
            })().catch((e) => done(String(e)));
            JS);
        $streams = FrameRecord::decode((string) base64_decode((string) $bytes, true))[1];
        for ($k = 0; $k < self::BALLS; $k++) {
            $pose = array_values(unpack('g3', $streams[1 + $k][StreamKind::Poses->value]) ?: []);
            self::assertLessThan(0.3, hypot($pose[0], $pose[2]), "ball $k is within the rim");
            self::assertGreaterThan(0.02 + self::RADIUS - 0.003, $pose[1], "ball $k is not sunk into the bottom");
        }
        $lowest = min(array_map(static fn (int $k): float => (float) (unpack('g3', $streams[1 + $k][StreamKind::Poses->value])[2] ?? INF), range(0, self::BALLS - 1)));
        self::assertEqualsWithDelta(0.02 + self::RADIUS, $lowest, 0.003, 'the lowest lies on the bottom');
        // What collides is shown: the balls as balls, the bowl as it is.
        $shown = $a->picture();
        $a->presses('Contact');
        $a->picture();
        $a->presses('Surface');
        $a->showsAgain($shown);
        $this->assertNoErrors();
    }

    /** What has fallen is asked how deep it lies in itself, and one press goes where it is deepest. */
    public function test_the_docket_tells_how_deep_pieces_overlap_and_goes_there(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('crate', ['break' => Setting::cells(12), 'place' => ['position' => [0, 0.6, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => Setting::falling()]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 30],
        ]);
        $a->keys('5');
        $a->keys('b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::END);
        $a->until(static fn (): bool => $a->frameDrawn() === 30);
        $scale = static fn (): float => (float) $a->js('return document.getElementById("picture").dataset.pixelsPerMetre');
        $far = $scale();
        $a->presses('Measure the overlap at frame 30');
        $a->sees('95 of 100 pieces below');
        // The deepest is the first of those told.
        $a->keys(WebDriverKeys::HOME);
        $a->until(static fn (): bool => $a->frameDrawn() === 0);
        $a->clicks('button[title="Look there"]');
        $a->until(static fn (): bool => $a->frameDrawn() === 30);
        $a->until(static fn (): bool => $scale() > 1.5 * $far, 'a closer view');
        $this->assertNoErrors();
    }

    /** The site check tells of pieces that begin within a fixed prop; a press picks them, another lifts the prop clear. */
    public function test_what_begins_inside_something_fixed_is_lifted_clear_by_a_press(): void
    {
        $a = $this->artist;
        $at = static fn (float $y): array => ['position' => [0, $y, 0], 'turn' => [0, 0, 0], 'size' => 1];
        $a->opensShot([
            Setting::box('plinth', ['place' => $at(0.0)]),
            Setting::box('crate', [
                'place' => $at(0.4),
                'break' => ['pattern' => 'tiles', 'values' => ['grid' => [2, 2, 2], 'jitter' => 0, 'seed' => 1]],
                'motion' => Setting::falling(),
            ]),
        ]);
        $a->sees('8 shards');
        $a->sees('1 to look at');
        $a->presses('Site check · 1 to look at');
        $a->sees('Crate: 4 of its pieces begin deep inside Plinth');
        $a->presses('Lift it by 20 cm');
        $a->sees('Nothing stands in the way of a bake');
        self::assertEqualsWithDelta(0.6, $a->document()['props'][1]['place']['position'][1], 1e-9);
        $this->assertNoErrors();
    }

    /** Another little picture is another way to come apart: what the document says of it, and what the bake does. */
    public function test_the_way_a_prop_comes_apart_is_chosen_by_a_little_picture(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('crate', ['break' => Setting::cells(40), 'motion' => Setting::falling(), 'place' => ['position' => [0, 1.2, 0], 'turn' => [10, 0, 20], 'size' => 1]]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 24],
        ]);
        $a->sees('40 shards');
        $a->keys('4');
        $chosen = static fn (): string => (string) $a->js('return document.querySelector("[aria-label=\"Comes apart\"] [aria-checked=true]").innerText');
        $a->until(static fn (): bool => $chosen() === 'All at once');
        $a->clicks('[aria-label="Comes apart"] [title^="Only what is near"]');
        $a->until(static fn (): bool => $chosen() === 'Near the touch');
        $release = $a->document()['props'][0]['motion']['release'];
        self::assertSame('touch', $release['on']);
        self::assertGreaterThan(0.1, $release['reach']);
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::END);
        $a->until(static fn (): bool => $a->frameDrawn() === 24);
        $near = $a->picture();
        $a->keys('4');
        $a->clicks('[aria-label="Comes apart"] [title^="It comes apart into clumps"]');
        $a->until(static fn (): bool => $chosen() === 'In clumps');
        self::assertSame(2, $a->document()['props'][0]['motion']['values']['clump']);
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->until(static fn (): bool => $a->picture() !== $near);
        $this->assertNoErrors();
    }
}
