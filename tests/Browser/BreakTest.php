<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

final class BreakTest extends BrowserTestCase
{
    public function test_pieces_are_picked_in_the_picture_and_shown_in_figures(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(20)])]);
        $a->sees('20 shards');
        $a->waitsForPicture();
        $plain = $a->picture();
        $a->drags([[0, 0]]);
        $a->sees('shard-00');
        self::assertNotSame($plain, $a->picture(), 'the picked piece is lit');
        // A click beside everything picks nothing.
        $a->drags([[-400, -100]]);
        $a->seesNoMore('shard-00');
        $a->showsAgain($plain);
        // A drag turns the view and picks nothing.
        $a->drags([[0, 0], [60, 10], [90, 20]]);
        self::assertStringNotContainsString('shard-00', $a->text());
        self::assertNotSame($plain, $a->picture());
        $this->assertNoErrors();
    }

    public function test_a_bar_of_the_chart_picks_its_pieces(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(40)])]);
        $a->sees('40/40');
        $bar = $a->js('return [...document.querySelectorAll("[aria-label^=\'Piece sizes\'] [role=button]")].findIndex(b=>b.getAttribute("aria-label")!=="0 pieces")');
        $many = (int) $a->js('return document.querySelectorAll("[aria-label^=\'Piece sizes\'] [role=button]")[arguments[0]].getAttribute("aria-label")', $bar);
        $a->js('document.querySelectorAll("[aria-label^=\'Piece sizes\'] [role=button]")[arguments[0]].dispatchEvent(new MouseEvent("click",{bubbles:true}))', $bar);
        $a->sees($many === 1 ? 'shard-00' : $many.' picked');
        $a->presses('Clear');
        $a->seesNoMore($many === 1 ? 'shard-00' : $many.' picked');
    }

    public function test_pieces_crowd_round_a_point(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(50)])]);
        $a->sees('50/50');
        $even = $this->smallestNear();
        $a->clicks('[aria-label="Add a point: Crowd round"]');
        $a->sees('Share that crowds');
        foreach (['x' => '0.28', 'y' => '0.55', 'z' => '0.28'] as $axis => $value) {
            $a->types('At '.$axis, $value);
        }
        $a->types('Share that crowds', '90');
        $a->types('Reach', '0.1');
        $a->until(fn (): bool => $this->smallestNear() > $even + 5);
        self::assertSame([[0.28, 0.55, 0.28]], $a->document()['props'][0]['break']['values']['cluster']);
        // A weight brings a second place; its mark is pressed to take hold of it.
        $a->ticks('Crowd by weight');
        $a->sees('Source');
        $a->until(static fn (): bool => $a->js('return document.querySelector("[aria-label=\'Move the weight\']")') !== null);
        self::assertNotNull($a->js('return document.querySelector("[aria-label=\'Move crowd point 1\']")'));
        $this->assertNoErrors();
    }

    public function test_a_break_of_thousands_says_how_far_it_is(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(10)])]);
        $a->sees('10 shards');
        $a->types('Even spacing', '100');
        $a->types('Pieces', '6000');
        $a->until(static fn (): bool => preg_match('/breaking… \d+ %/', $a->text()) === 1);
        // Another value ends it; the last wish counts.
        $a->types('Pieces', '12');
        $a->sees('12 shards');
    }

    public function test_lines_drawn_in_the_picture_cut_and_can_be_moved(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block')]);
        $a->presses('Score');
        $a->sees('No line yet.');
        $a->presses('Draw in the picture');
        $a->sees('Press to add points');
        usleep(700_000);
        $board = 'svg[aria-label^="Drawing board"]';
        // Down the middle, from well above the block to well below.
        $a->pressesAt($board, [0, -220]);
        $a->pressesAt($board, [10, 0]);
        $a->pressesAt($board, [0, 220]);
        $a->keys(WebDriverKeys::ENTER);
        $a->sees('2 shards');
        $a->sees('2/2');
        $line = $a->document()['props'][0]['break']['values']['lines']['lines'][0];
        self::assertCount(3, $line['points']);
        self::assertFalse($line['closed']);
        $smallest = $this->smallest();
        // The middle point is dragged aside: one neighbour grows by what the other loses.
        $a->dragsOn($board, [10, 0], [90, 0]);
        $a->until(fn (): bool => abs($this->smallest() - $smallest) > 0.005);
        $a->sees('2/2');
        self::assertEqualsWithDelta(0.216, $this->volume(), 1e-9);
        // A line beside the prop is named and marked, and what was good stays.
        $a->pressesAt($board, [-300, -150]);
        $a->pressesAt($board, [-300, 150]);
        $a->keys(WebDriverKeys::ENTER);
        $a->sees('Line 2 lies outside the prop.');
        $a->until(static fn (): bool => (int) $a->js('return document.querySelectorAll("svg[aria-label^=\'Drawing board\'] path[stroke=\'var(--wrong)\']").length') === 1);
        $a->sees('2/2');
        $a->clicks('[aria-label=Undo]');
        $a->seesNoMore('lies outside the prop');
        $a->presses('Done drawing');
        $this->assertNoErrors();
    }

    public function test_lines_drawn_for_a_chosen_piece_go_through_that_piece_only(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => ['pattern' => 'tiles', 'values' => ['grid' => [2, 1, 1], 'jitter' => 0]]])]);
        $a->sees('2 shards');
        $a->presses('Front');
        $a->waitsForPicture();
        $a->drags([[-60, 0]]);
        $a->sees('1 picked');
        $a->chooses('Break again by', 'score');
        $a->sees('No line yet.');
        $a->presses('Draw in the picture');
        usleep(700_000);
        $board = 'svg[aria-label^="Drawing board"]';
        // Level, across both halves.
        $a->pressesAt($board, [-260, 10]);
        $a->pressesAt($board, [260, 10]);
        $a->keys(WebDriverKeys::ENTER);
        $a->sees('3 shards');
        $a->sees('3/3');
        $step = $a->document()['props'][0]['rework'][0];
        self::assertEqualsCanonicalizing([$step['pieces'][0].'.1', $step['pieces'][0].'.cut-1'], array_filter(array_column($this->pieces(), 'name'), static fn (string $name): bool => str_contains($name, '.')));
        $a->presses('Done drawing');
        $this->assertNoErrors();
    }

    public function test_a_punch_leaves_a_hole_and_its_plug_can_be_broken_again(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block')]);
        $a->presses('Punch');
        $a->sees('2 shards');
        $a->types('Radius', '0.1');
        $a->types('Rim bands', '2');
        $a->sees('4 shards');
        $a->types('Radius', '20');
        $a->sees('takes the whole prop');
        $a->sees('The last good break is still shown.');
        $a->types('Radius', '0.12');
        $a->seesNoMore('takes the whole prop');
        // The plug is what the middle of the picture shows from the front.
        $a->presses('Front');
        usleep(600_000);
        $a->drags([[0, 0]]);
        $a->sees('shard-0001');
        $a->chooses('Break again by', 'halving');
        $a->sees('35 shards');
        $a->sees('35/35');
        self::assertSame(['shard-0001'], $a->document()['props'][0]['rework'][0]['pieces']);
        $a->clicks('[aria-label="Remove Halving"]');
        $a->sees('4 shards');
        $this->assertNoErrors();
    }

    public function test_picked_pieces_get_a_release_of_their_own(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(12), 'motion' => ['kind' => 'free', 'values' => ['held' => 'still'], 'release' => ['on' => 'frame', 'frame' => 0]]])]);
        $a->sees('12 shards');
        $a->keys(WebDriverKeys::ARROW_RIGHT, WebDriverKeys::ARROW_RIGHT);
        $a->waitsForPicture();
        $a->drags([[0, 0]]);
        $a->sees('1 picked');
        $a->presses('Release apart');
        $group = $a->document()['props'][0]['motion']['groups'][0];
        self::assertEquals(['on' => 'frame', 'frame' => 2], $group['release']);
        self::assertCount(1, $group['pieces']);
        $a->keys('4');
        $a->sees('1 piece');
        $a->types('Frame', '9', '[role=group][aria-label="Group 1"] ');
        $a->until(fn (): bool => $a->document()['props'][0]['motion']['groups'][0]['release']['frame'] === 9);
        self::assertSame(0, $a->document()['props'][0]['motion']['release']['frame'], 'the others keep theirs');
        $this->assertNoErrors();
    }

    public function test_every_pattern_shows_its_pieces(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.3]]])]);
        foreach (['Halving' => '32/32', 'Tiles' => '16/16', 'Strike' => 'Rays', 'Courses' => 'Joints', 'Stencil' => '3/3', 'Flakes' => 'Faces each', 'Punch' => '2/2'] as $pattern => $words) {
            $a->presses($pattern);
            $a->sees($words);
            $a->until(static fn (): bool => preg_match('/(\d+)\/(\d+)/', $a->text(), $m) === 1 && $m[1] === $m[2] && (int) $m[1] > 1);
        }
        $a->presses('Wire');
        $a->presses('Inside');
        $a->presses('X-ray');
        $this->assertNoErrors();
    }

    public function test_the_edge_of_a_weight_decides_where_the_surface_flakes(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.3]], 'break' => ['pattern' => 'flakes', 'values' => ['faces' => 12, 'thickness' => 0.01]]])]);
        $a->waitsForPicture();
        $all = count($this->pieces());
        self::assertStringNotContainsString('Weight', $a->finds('[aria-label=Show]')->getText());
        $a->ticks('Only where');
        $a->sees('Source');
        $a->chooses('Source', 'front');
        $a->until(fn (): bool => count($this->pieces()) < 0.8 * $all);
        $part = count($this->pieces());
        // The front stands at the middle, looking up: what lies below flakes; inverted, what lies above.
        $low = static fn (array $p): bool => $p['name'] === 'core' || $p['centre'][1] < 0.36;
        self::assertCount($part, array_filter($this->pieces(), $low));
        $plain = $a->picture();
        $a->presses('Weight');
        self::assertNotSame($plain, $a->picture());
        $a->ticks('Invert');
        $a->until(fn (): bool => count(array_filter($this->pieces(), $low)) < 0.45 * count($this->pieces()));
        $this->assertNoErrors();
    }

    public function test_another_prop_cuts_and_the_hole_follows_it(): void
    {
        $a = $this->artist;
        $tool = Setting::box('tool', ['source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.2, 'height' => 0.2, 'depth' => 2.0]], 'place' => ['position' => [0, 0.5, 0], 'turn' => [0, 0, 0], 'size' => 1], 'hidden' => true]);
        $a->opensShot([Setting::box('block'), $tool]);
        $a->presses('Punch');
        $a->sees('2/2');
        $a->chooses('Cutter', 'prop');
        $a->sees('No prop is chosen to cut with.');
        $a->chooses('Cutting prop', 'tool');
        $a->types('Roughness', '0');
        // A square of 0.2 m, of which what lies within the block counts, through its depth.
        $plug = fn (): float => array_sum(array_map(static fn (array $p): float => str_starts_with($p['name'], 'shard-0001') ? $p['volume'] : 0.0, $this->pieces()));
        $a->until(static fn (): bool => abs($plug() - 0.2 * 0.2 * 0.6) < 2e-4);
        $a->seesNoMore('No prop is chosen');
        $a->browser->findElement(WebDriverBy::xpath('//button[contains(., "hidden")]'))->click();
        $a->keys('1');
        $a->types('Position x', '0.3');
        $a->until(static fn (): bool => abs($plug() - 0.1 * 0.2 * 0.6) < 2e-4);
        $a->types('Position x', '5');
        $a->until(static fn (): bool => str_contains($a->text(), '✕ see Break'));
        $this->assertNoErrors();
    }

    public function test_a_hit_beside_the_prop_is_marked_in_the_picture_and_a_new_prop_is_shown_unbroken(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => ['pattern' => 'strike', 'values' => ['point' => [0.9, 0.3, 0.0], 'radius' => 0.1]]])]);
        $a->sees('The hit point lies off the prop');
        $a->sees('The prop is shown unbroken.');
        $a->waitsForPicture();
        $mark = static fn (): array => array_map(intval(...), (array) $a->js('const m=document.querySelector("[aria-label^=\'Here: The hit point\']");return m===null?[-1,-1]:[parseInt(m.style.left),parseInt(m.style.top)]'));
        $a->until(static fn (): bool => $mark()[0] > 0);
        $right = $mark()[0];
        $a->types('At x', '-0.9');
        $a->until(static fn (): bool => $mark()[0] > 0 && $mark()[0] < $right - 100);
        $a->types('At x', '0.1');
        $a->until(static fn (): bool => $mark()[0] === -1);
        $a->seesNoMore('lies off the prop');
        $this->assertNoErrors();
    }

    public function test_a_long_break_gives_a_first_look(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(10)])]);
        $a->sees('10 shards');
        $a->types('Ragged', '100');
        $a->types('Pieces', '400');
        $a->sees('A first look: 80 pieces');
        self::assertStringNotContainsString('watertight', $a->text());
        $a->until(static fn (): bool => preg_match("/(4\d\d) shards/", $a->text()) === 1);
        $a->sees('watertight');
        $a->seesNoMore('A first look');
        $this->assertNoErrors();
    }

    public function test_a_plate_to_draw_after_is_kept_with_the_shot(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block')]);
        $a->presses('Score');
        $a->sees('No line yet.');
        $image = imagecreatetruecolor(40, 30);
        self::assertNotFalse($image);
        imagepng($image, $file = sys_get_temp_dir().'/plate-'.getmypid().'.png');
        $a->bringsIn($file, 'Plate to draw after');
        $a->sees('Take off');
        unlink($file);
        $a->types('Plate', '70');
        self::assertSame(0.7, $a->document()['props'][0]['break']['plate']['opacity']);
        $a->browser->navigate()->refresh();
        $a->until(static fn (): bool => (int) $a->js('const i=document.querySelector("img[src*=\'api/pictures/\']");return i===null?0:i.naturalWidth') === 40);
        $a->presses('Take off');
        $a->until(static fn (): bool => $a->js('return document.querySelector("img[src*=\'api/pictures/\']")') === null);
        $a->clicks('[aria-label=Undo]');
        $a->until(static fn (): bool => $a->js('return document.querySelector("img[src*=\'api/pictures/\']")') !== null);
        $this->assertNoErrors();
    }

    public function test_the_rings_of_a_strike_move_apart_one_by_one(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 0.6, 'height' => 0.6, 'thickness' => 0.01]], 'break' => ['pattern' => 'strike', 'values' => ['radius' => 0.25]]])]);
        $a->waitsForPicture();
        $whole = $a->picture();
        $a->presses('Ring by ring');
        $a->showsAgain($whole);
        $a->types('Spread apart', '60');
        $rings = $a->picture();
        self::assertNotSame($whole, $rings);
        $a->presses('By distance');
        self::assertNotSame($rings, $a->picture());
        $this->assertNoErrors();
    }

    private function smallest(): float
    {
        return min(array_column($this->pieces(), 'volume'));
    }

    private function volume(): float
    {
        return array_sum(array_column($this->pieces(), 'volume'));
    }

    /** @return list<array{name: string, volume: float, centre: array{float, float, float}}> as the server has them */
    private function pieces(): array
    {
        $this->artist->sees('saved');

        return json_decode((string) $this->artist->browser->executeAsyncScript(<<<'JS'
            const done = arguments[0];
            fetch('/api' + location.pathname + '/props/block/picture', { headers: { 'X-Yard': '1' } }).then((r) => r.arrayBuffer()).then((b) => {
                const n = new DataView(b).getUint32(0, true);
                done(JSON.stringify(JSON.parse(new TextDecoder().decode(new Uint8Array(b, 4, n))).pieces));
            });
            JS), true);
    }

    /** How many pieces' middles lie near the corner the point is put to. */
    private function smallestNear(): int
    {
        return count(array_filter($this->pieces(), static fn (array $p): bool => hypot(hypot($p['centre'][0] - 0.28, $p['centre'][1] - 0.55), $p['centre'][2] - 0.28) < 0.2));
    }
}
