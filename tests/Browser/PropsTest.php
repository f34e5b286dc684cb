<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

final class PropsTest extends BrowserTestCase
{
    public function test_a_mesh_of_ones_own_comes_in_breaks_and_edits_undo_after_a_reload(): void
    {
        $a = $this->artist;
        $a->opensShot([]);
        $a->sees('Add a prop');
        $a->bringsIn($this->file(self::cube(), 'obj'));
        $a->sees('can be broken');
        $a->sees('1 × 1 × 1 m');
        $a->keys('2');
        $a->presses('Cells');
        $a->sees('60 shards');
        $a->browser->navigate()->refresh();
        $a->sees('60 shards');
        $a->clicks('[aria-label=Undo]');
        $a->seesNoMore('60 shards');
        $a->sees('stays in one piece');

        // What is out of range is refused in words and changes nothing.
        $a->presses('Cells');
        $a->sees('60 shards');
        $a->types('Pieces', '0');
        $a->sees('Pieces must be between 1 and');
        $a->sees('60 shards');
        $this->assertNoErrors();
    }

    public function test_pieces_are_picked_by_box_name_and_size_and_several_are_grouped_at_once(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(24), 'motion' => Setting::falling()])]);
        $a->sees('24 shards');
        $a->keys('4');
        $a->presses('Pick pieces');
        $a->presses('largest');
        $a->sees('2 picked');
        $a->presses('All others');
        $a->sees('22 picked');
        $a->presses('All 24');
        $a->sees('24 picked');
        $a->presses('None');
        $a->types('Pieces called', '*-0003');
        $a->sees('1 picked');
        $a->keys(WebDriverKeys::ESCAPE);
        $a->picture();
        // A box over all of it, and one beside it.
        $canvas = $a->finds('#picture canvas');
        $box = static fn (array $from, array $to) => $a->browser->action()->keyDown(null, WebDriverKeys::CONTROL)->moveToElement($canvas, ...$from)->clickAndHold()->moveToElement($canvas, ...$to)->release()->keyUp(null, WebDriverKeys::CONTROL)->perform();
        $box([-400, -200], [400, 200]);
        $a->sees('24 picked');
        $a->presses('Group 24 picked');
        $a->until(static fn (): bool => count($a->document()['props'][0]['motion']['groups'][0]['pieces'] ?? []) === 24, 'the group');
        $box([-400, -200], [-380, -190]);
        $a->seesNoMore('24 picked');
        // Where no pieces are picked a box chooses props.
        $a->keys('1');
        $box([-400, -200], [400, 200]);
        $a->until(static fn (): bool => $a->js('return document.querySelectorAll(\'ul[aria-label="Props"] button[aria-pressed="true"]\').length') === 1, 'the block to be chosen');
        $this->assertNoErrors();
    }

    public function test_a_preset_is_kept_and_laid_on_two_and_both_are_keyed_at_once(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('one', ['break' => Setting::cells(9)]), Setting::box('two', ['name' => 'Two']), Setting::box('three', ['name' => 'Three', 'place' => ['position' => [2, 0.3, 0], 'turn' => [0, 0, 0], 'size' => 1]])]);
        $a->sees('9 shards');
        $a->keys('2');
        $a->presses('Presets');
        $a->types('Keep as', 'Nine');
        $a->finds('[aria-label="Remove the preset Nine"]');
        $a->keys(WebDriverKeys::ESCAPE);
        $chips = $a->browser->findElements(WebDriverBy::cssSelector('ul[aria-label="Props"] button[aria-pressed]'));
        $chips[1]->click();
        $a->browser->action()->keyDown(null, WebDriverKeys::SHIFT)->click($chips[2])->keyUp(null, WebDriverKeys::SHIFT)->perform();
        $a->sees('And one more: what is set here');
        $a->presses('Presets');
        $a->presses('Nine');
        $a->until(static fn (): bool => array_column(array_column(array_column($a->document()['props'], 'break'), 'values'), 'count') === [9, 9, 9], 'the break of both');
        $a->keys('1');
        $a->clicks('[aria-label="Key Position y at frame 0"]');
        $a->until(static fn (): bool => is_array($a->document()['props'][1]['place']['position'][1]) && is_array($a->document()['props'][2]['place']['position'][1]), 'both keyed');
        self::assertSame(['keyed', 'keyed', 'fixed'], [$a->document()['props'][1]['motion']['kind'], $a->document()['props'][2]['motion']['kind'], $a->document()['props'][0]['motion']['kind']]);
        $a->types('Position y', '1.3');
        $a->until(static fn (): bool => ($a->document()['props'][2]['place']['position'][1]['keys'][0]['value'] ?? 0) == 1.3, 'the other as far up');
        // The heading opens the docs.
        $a->clicks('section h2 button');
        $a->sees('Where they come from');
        $a->presses('Trials');
        $a->sees('Trying values');
        $this->assertNoErrors();
    }

    public function test_a_note_is_kept_with_a_mark_drawn_in_the_picture_and_found_in_the_list(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block')]);
        $a->sees('Block');
        foreach (range(1, 5) as $_) {
            $a->keys(WebDriverKeys::ARROW_RIGHT);
        }
        $a->until(static fn (): bool => $a->frameDrawn() === 5);
        $a->presses('+ Note');
        $a->ticks('On Block');
        $a->presses('Draw a mark');
        $a->dragsOn('[data-note-board]', [-60, 0], [60, 20]);
        $a->sees('1 drawn');
        $a->types('Note at frame 5', 'too smooth here');
        $a->until(static fn (): bool => count($a->document()['notes'] ?? []) === 1, 'the note');
        $note = $a->document()['notes'][0];
        self::assertSame([5, 'too smooth here', 'block'], [$note['frame'], $note['text'], $note['prop']]);
        self::assertGreaterThan(1, count($note['mark'][0]));
        $a->keys(WebDriverKeys::ESCAPE, WebDriverKeys::HOME, '0');
        $a->until(static fn (): bool => $a->js('return document.querySelector("[data-note-mark]")') === null, 'no mark at another frame');
        $a->clicks('ul[aria-label="Notes"] li button');
        $a->finds('[data-note-mark="1"]');
        $a->until(static fn (): bool => $a->frameDrawn() === 5, 'its frame');
        $a->clicks('[aria-label="Remove the note too smooth here"]');
        $a->sees('None yet.');
        $this->assertNoErrors();
    }

    public function test_two_props_are_a_group_chosen_moved_and_let_go_as_one(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('leg', ['name' => 'Leg']), Setting::box('lamp', ['name' => 'Lamp']), Setting::box('top', ['name' => 'Top', 'place' => ['position' => [0, 1.2, 0], 'turn' => [0, 0, 0], 'size' => 1]])]);
        $a->sees('Lamp');
        $chips = $a->browser->findElements(WebDriverBy::cssSelector('ul[aria-label="Props"] button[aria-pressed]'));
        $chips[0]->click();
        $a->browser->action()->keyDown(null, WebDriverKeys::SHIFT)->click($chips[2])->keyUp(null, WebDriverKeys::SHIFT)->perform();
        $a->types('Name of the group', 'Table');
        $a->sees('2 props');
        $a->clicks('[aria-label="Fold the group Table"]');
        $a->until(static fn (): bool => ! str_contains((string) $a->js('return document.querySelector(\'ul[aria-label="Props"]\').innerText'), 'Leg'), 'its props to have no chips of their own');
        $a->keys('4');
        $a->browser->findElement(WebDriverBy::xpath('//ul[@aria-label="Props"]//button[contains(., "Lamp")]'))->click();
        $a->browser->findElement(WebDriverBy::xpath('//ul[@aria-label="Props"]//button[contains(., "2 props")]'))->click();
        $a->sees('And one more');
        $a->presses('Free');
        $a->until(static fn (): bool => array_column(array_column($a->document()['props'], 'motion'), 'kind') === ['free', 'fixed', 'free'], 'both let go');
        $a->keys('1');
        $a->types('Position y', '1.3');
        $a->until(static fn (): bool => array_map(static fn (array $p): float => round($p['place']['position'][1], 6), $a->document()['props']) === [1.3, 0.3, 2.2], 'both moved by as much');
        $a->presses('Ungroup Table');
        $a->until(static fn (): bool => ! isset($a->document()['props'][0]['group']), 'no group any more');
        $this->assertNoErrors();
    }

    public function test_the_yard_is_sorted_into_folders_searched_and_what_was_deleted_comes_back(): void
    {
        $a = $this->artist;
        $a->emptiesTheYard();
        $a->opensShot([Setting::box('bricks', ['name' => 'Bricks'])]);
        $a->opensShot([Setting::box('jar', ['name' => 'Jar'])]);
        $a->opens('/');
        $a->sees('In order of');
        $a->until(static fn (): bool => count($a->browser->findElements(WebDriverBy::cssSelector('ul[aria-label="Shots"] > li'))) === 2, 'two shots');
        $a->clicks('ul[aria-label="Shots"] > li:first-child button[aria-label^="Sort in"]');
        $a->types('Folder', 'Garden');
        $a->sees('Garden');
        $a->presses('Garden');
        $a->until(static fn (): bool => count($a->browser->findElements(WebDriverBy::cssSelector('ul[aria-label="Shots"] > li'))) === 1, 'the one in the folder');
        $a->presses('All');
        $a->finds('input[aria-label="Search the yard"]')->sendKeys('brick');
        $a->until(static fn (): bool => count($a->browser->findElements(WebDriverBy::cssSelector('ul[aria-label="Shots"] > li'))) === 1, 'the one with bricks');
        $a->finds('input[aria-label="Search the yard"]')->sendKeys('zzz');
        $a->sees('No shot here is called so');
        $a->browser->navigate()->refresh();
        $a->clicks('ul[aria-label="Shots"] > li:first-child button[aria-label^="Sort in"]');
        $a->ticks('Others can begin from it');
        $a->presses('Keep');
        $a->finds('select[aria-label="New shot from"]');
        $name = (string) $a->js('return document.querySelector(\'ul[aria-label="Shots"] h2\').innerText');
        $a->clicks('ul[aria-label="Shots"] > li:first-child button[aria-label^="Delete"]');
        $a->sees($name.' was deleted.');
        $a->presses('Deleted');
        $a->sees('24 hours left');
        // Others of that name may have been deleted before.
        $deleted = static fn (): int => count($a->browser->findElements(WebDriverBy::cssSelector('button[aria-label="Bring '.$name.' back"]')));
        $a->until(static fn (): bool => $deleted() > 0, 'it among what was deleted');
        $before = $deleted();
        $a->clicks('button[aria-label="Bring '.$name.' back"]');
        $a->until(static fn (): bool => $deleted() === $before - 1, 'it to be out of what was deleted');
        $a->presses('All');
        $a->until(static fn (): bool => count($a->browser->findElements(WebDriverBy::cssSelector('ul[aria-label="Shots"] > li'))) === 2, 'both again');
        $this->assertNoErrors();
    }

    public function test_what_was_done_is_a_list_one_goes_back_by_and_delete_deletes(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('near', ['name' => 'Near']), Setting::box('far', ['name' => 'Far'])]);
        $a->sees('Near');
        $a->clicks('ul[aria-label="Props"] button[aria-pressed]');
        $a->keys(WebDriverKeys::DELETE);
        $a->sees('Near was removed.');
        self::assertSame(['far'], array_column($a->document()['props'], 'id'));
        $a->clicks('ul[aria-label="Props"] button[aria-pressed]');
        $a->keys('1');
        $a->chooses('Made of', 'slate');
        $a->until(static fn (): bool => $a->document()['props'][0]['material']['name'] === 'slate');
        $a->clicks('[aria-label="What was done"]');
        $a->sees('Material of Far');
        // How it looks now comes as soon as the picture is at rest; the list is read anew as it is opened.
        $a->until(function () use ($a): bool {
            $a->clicks('[aria-label="What was done"]');
            $a->until(static fn (): bool => ($a->js('return document.querySelector(\'ol[aria-label="States of the shot"]\')') === null), 'the list to be put away');
            $a->clicks('[aria-label="What was done"]');
            $a->sees('Material of Far');

            return (bool) $a->js('const i=document.querySelector(\'ol[aria-label="States of the shot"] li:first-child img\'); return i!==null&&i.complete&&i.naturalWidth===128');
        }, 'a picture of the last state');
        // Before the prop was removed: two steps back at once, and named.
        $a->clicks('[aria-label^="Name the state after Remove"]');
        $a->browser->findElement(WebDriverBy::cssSelector('input[aria-label^="Name of the state"]'))->sendKeys(['only the far one', WebDriverKeys::ENTER]);
        $a->sees('only the far one');
        $a->browser->findElement(WebDriverBy::xpath('//ol[@aria-label="States of the shot"]/li[last()]/button'))->click();
        $a->until(static fn (): bool => count($a->document()['props']) < 3 && ($a->document()['props'][0]['id'] ?? '') !== 'far');
        // And forth to what was named.
        $a->browser->findElement(WebDriverBy::xpath('//ol[@aria-label="States of the shot"]//button[contains(., "only the far one")]'))->click();
        $a->until(static fn (): bool => array_column($a->document()['props'], 'id') === ['far'] && $a->document()['props'][0]['material']['name'] !== 'slate');
        $a->clicks('ul[aria-label="Props"] button[aria-pressed]');
        $a->keys(WebDriverKeys::CONTROL, 'd', WebDriverKeys::NULL);
        $a->sees('Far copy');
        self::assertSame(['Far', 'Far copy'], array_column($a->document()['props'], 'name'));
        // Its break alone onto another, and itself into another shot.
        $a->keys('2');
        $a->presses('Cells');
        $a->sees('60 shards');
        $a->keys(WebDriverKeys::CONTROL, 'c', WebDriverKeys::NULL);
        $a->sees('Far copy is copied.');
        $a->clicks('ul[aria-label="Props"] button[aria-pressed="false"]');
        $a->keys('1');
        $a->presses('Break');
        $a->until(static fn (): bool => ($a->document()['props'][0]['break']['pattern'] ?? '') === 'cells');
        self::assertSame('Far', $a->document()['props'][0]['name']);
        $a->opensShot([]);
        $a->sees('Copied: Far copy');
        $a->keys(WebDriverKeys::CONTROL, 'v', WebDriverKeys::NULL);
        $a->sees('60 shards');
        self::assertSame(['Far copy'], array_column($a->document()['props'], 'name'));
        $this->assertNoErrors();
    }

    public function test_several_props_are_chosen_set_moved_and_deleted_together(): void
    {
        $a = $this->artist;
        $a->opensShot(array_map(static fn (int $k): array => Setting::box('box-'.$k, ['name' => 'Box '.$k, 'place' => ['position' => [$k, 0, 0], 'turn' => [0, 0, 0], 'size' => 1]]), [1, 2, 3]));
        $a->sees('Box 3');
        $chips = static fn (): array => $a->browser->findElements(WebDriverBy::cssSelector('ul[aria-label="Props"] button[aria-pressed]'));
        $chips()[0]->click();
        (new WebDriverActions($a->browser))->keyDown(null, WebDriverKeys::SHIFT)->click($chips()[2])->keyUp(null, WebDriverKeys::SHIFT)->perform();
        $a->sees('And one more: what is set here is set for all 2');
        $a->keys('1');
        $a->chooses('Made of', 'slate');
        $a->until(static fn (): bool => array_column(array_column($a->document()['props'], 'material'), 'name') === ['slate', 'concrete', 'slate']);
        // By as much, not to the same place.
        $a->types('Position x', '1.5');
        $a->until(static fn (): bool => abs($a->document()['props'][2]['place']['position'][0] - 3.5) < 1e-9);
        self::assertEqualsWithDelta([1.5, 2, 3.5], array_map(static fn (array $p): float => $p['place']['position'][0], $a->document()['props']), 1e-9);
        $a->keys(WebDriverKeys::DELETE);
        $a->sees('2 props were removed.');
        self::assertSame(['box-2'], array_column($a->document()['props'], 'id'));
        $a->clicks('[aria-label=Undo]');
        $a->sees('Box 3');
        self::assertCount(3, $a->document()['props'], 'with one step back');
        $this->assertNoErrors();
    }

    /** With so many props that their strip has two rows, and as the window and the cue sheet leave room. */
    public function test_a_notice_lies_over_nothing_that_can_be_pressed(): void
    {
        $a = $this->artist;
        $a->opensShot(array_map(static fn (int $k): array => Setting::box('box-'.$k, ['name' => 'A rather long name '.$k]), range(1, 7)));
        $a->keys('1');
        $a->clicks('[aria-label="Add a prop"]');
        $a->bringsIn($this->file(str_repeat("\x9c\x01", 300), 'stl'));
        $a->until(fn (): bool => (int) $a->js('return document.querySelectorAll("[data-sonner-toast][data-mounted=true]").length') > 0);
        $covered = fn (): array => (array) $a->js(<<<'JS'
            const toasts = [...document.querySelectorAll('[data-sonner-toast]')].map((t) => t.getBoundingClientRect());
            return [...document.querySelectorAll('button, a, input, select, [role=slider]')].filter((e) => {
                const r = e.getBoundingClientRect();
                return !e.closest('[data-sonner-toaster]') && r.width > 0 && toasts.some((t) => t.left < r.right && r.left < t.right && t.top < r.bottom && r.top < t.bottom);
            }).map((e) => e.getAttribute('aria-label') ?? e.innerText);
            JS);
        $a->until(fn (): bool => $covered() === [], 'the notice to lie beside all that can be pressed');
        // The cue sheet takes more room: the notice gives way.
        $a->presses('Curves');
        $a->until(fn (): bool => (int) $a->js('return document.querySelector("section[aria-label=\"Cue sheet\"]").clientHeight') > 300);
        $a->until(fn (): bool => $covered() === [], 'the notice to give way');
        self::assertSame([], $covered());
        self::assertGreaterThan(0, (int) $a->js('return document.querySelectorAll("[data-sonner-toast]").length'), 'it was still there');
    }

    public function test_a_file_that_is_no_mesh_is_refused_in_words(): void
    {
        $this->artist->opensShot([]);
        $this->artist->sees('Add a prop');
        $this->artist->bringsIn($this->file(str_repeat("\x9c\x01", 300), 'stl'));
        $this->artist->sees('The file is cut off or is no STL');
        self::assertSame([], $this->artist->document()['props']);
    }

    public function test_an_open_mesh_is_named_and_mended(): void
    {
        $a = $this->artist;
        $a->opensShot([]);
        $a->sees('Add a prop');
        // The cube without its last face.
        $a->bringsIn($this->file(substr(self::cube(), 0, (int) strrpos(self::cube(), 'f')), 'obj'));
        $a->sees('4 open edges');
        $a->sees('not yet');
        $a->presses('fill');
        $a->sees('can be broken');
        $a->clicks('[aria-label="Remove Fill holes"]');
        $a->sees('4 open edges');
        // One press does all that is needed, and says what it did.
        $a->presses('Repair');
        $a->sees('can be broken');
        $a->sees('Holes with 4 edges round them were filled.');
    }

    public function test_a_new_skin_is_built_round_what_no_repair_would_close_well(): void
    {
        $a = $this->artist;
        $a->opensShot([]);
        $a->sees('Add a prop');
        // The cube without its last two faces.
        $lines = explode("\n", trim(self::cube()));
        $a->bringsIn($this->file(implode("\n", array_slice($lines, 0, -2))."\n", 'obj'));
        $a->sees('not yet');
        $a->presses('Rebuild');
        $a->sees('A new closed skin was built, 64 cells along its longest side.');
        $a->seesNoMore('not yet');
        self::assertSame('rebuild', $a->document()['props'][0]['prepare'][0]['step']);
    }

    public function test_a_file_of_groups_becomes_a_prop_for_each(): void
    {
        $a = $this->artist;
        $a->opensShot([]);
        $a->sees('Add a prop');
        $a->bringsIn($this->file("g post\n".self::cube()."g lintel\n".self::cube(3, 8), 'obj'));
        $a->sees('4 × 1 × 1 m');
        $a->presses('A prop for each of its 2 groups');
        $a->sees('post');
        $a->sees('lintel');
        $a->sees('1 × 1 × 1 m');
        self::assertSame(['post', 'lintel'], array_column($a->document()['props'], 'name'));
    }

    public function test_a_handle_moves_a_prop_and_says_where_to(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('post')]);
        $a->keys('1');
        $a->sees('Built here');
        $a->presses('Front');
        usleep(500_000);
        $before = $a->document()['props'][0]['place']['position'];
        // From the front its origin, the middle of its foot, stands half its height below the middle of the picture.
        $foot = (int) (0.3 * (float) $a->js('return document.getElementById("picture").dataset.pixelsPerMetre'));
        $a->drags([[0, $foot - 50], [0, $foot - 70], [0, $foot - 130]]);
        $a->until(fn (): bool => $this->artist->document()['props'][0]['place']['position'] !== $before);
        $after = $a->document()['props'][0]['place']['position'];
        self::assertGreaterThan($before[1] + 0.05, $after[1]);
        self::assertEqualsWithDelta($before[0], $after[0], 1e-9, 'the upright arrow moves upright only');
        $a->keys("\u{E009}", 'z', "\u{E000}");
        $a->until(fn (): bool => $this->artist->document()['props'][0]['place']['position'] === $before);
    }

    public function test_a_picture_becomes_a_slab_with_its_holes(): void
    {
        $a = $this->artist;
        $a->opensShot([]);
        $a->sees('Add a prop');
        $image = imagecreatetruecolor(120, 120);
        assert($image !== false);
        imagealphablending($image, false);
        imagesavealpha($image, true);
        imagefill($image, 0, 0, (int) imagecolorallocatealpha($image, 0, 0, 0, 127));
        imagefilledrectangle($image, 10, 10, 109, 109, (int) imagecolorallocate($image, 30, 90, 40));
        imagefilledrectangle($image, 40, 40, 79, 79, (int) imagecolorallocatealpha($image, 0, 0, 0, 127));
        ob_start();
        imagepng($image);
        $a->bringsIn($this->file((string) ob_get_clean(), 'png'));
        $a->sees('can be broken');
        $a->sees('2 lines');
        // 100 by 100 pixels less 40 by 40 of 120, a metre the longer side, 5 cm thick: 0.05 · 8400 / 14400 = 0.029 m³.
        $a->until(static fn (): bool => preg_match('/volume\s+([\d.]+) l/', $a->text(), $m) === 1 && abs((float) $m[1] / 29.17 - 1) < 0.02);
        self::assertNotNull($a->document()['props'][0]['material']['picture'], 'its face shows the picture');
        $a->types('Depth', '0.1');
        $a->until(static fn (): bool => preg_match('/volume\s+([\d.]+) l/', $a->text(), $m) === 1 && abs((float) $m[1] / 58.33 - 1) < 0.02);
        // Another file in its place keeps the depth; what is no picture changes nothing.
        $a->bringsIn($this->file('no picture at all', 'png'), 'File to swap in');
        $a->sees('is no PNG picture');
        $a->bringsIn($this->file(self::cube(), 'obj'), 'File to swap in');
        $a->sees('1 × 1 × 1 m');
        self::assertSame('mesh', $a->document()['props'][0]['source']['kind']);
    }

    public function test_preparation_is_done_in_steps_that_can_be_changed_and_taken_back(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block')]);
        $a->keys('1');
        $a->sees('Used as it comes.');
        $this->addsStep('subdivide');
        $a->sees('48');
        $a->types('Times', '2');
        $a->until(static fn (): bool => preg_match('/faces\s+192/', $a->text()) === 1);
        $this->addsStep('push');
        $a->until(static fn (): bool => count($a->document()['props'][0]['prepare']) === 2);
        $a->types('Distance', '0.2');
        // 0.6 m and 0.2 m more on each side.
        $a->sees('1 × 1 × 1 m');
        $a->clicks('[aria-label="Move Push out up"]');
        $a->until(static fn (): bool => $a->document()['props'][0]['prepare'][0]['step'] === 'push');
        $a->clicks('[aria-label="Remove Subdivide"]');
        $a->until(static fn (): bool => preg_match('/faces\s+12\b/', $a->text()) === 1);
        $a->presses('Copy as shell');
        $a->sees('Block shell');
        self::assertCount(2, $a->document()['props']);
        $this->assertNoErrors();
    }

    private function addsStep(string $step): void
    {
        $this->artist->js('const s=document.querySelector("[aria-label=\'Add a step\']");Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype,"value").set.call(s,arguments[0]);s.dispatchEvent(new Event("change",{bubbles:true}))', $step);
    }

    /** An OBJ cube of one metre, moved along x; `$before` points come before it in the file. */
    private static function cube(int $x = 0, int $before = 0): string
    {
        $out = '';
        foreach ([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [0, 0, 1], [1, 0, 1], [1, 1, 1], [0, 1, 1]] as $p) {
            $out .= sprintf("v %d %d %d\n", $p[0] + $x, $p[1], $p[2]);
        }
        foreach ([[4, 3, 2, 1], [5, 6, 7, 8], [1, 2, 6, 5], [3, 4, 8, 7], [2, 3, 7, 6], [1, 5, 8, 4]] as $f) {
            $out .= 'f '.implode(' ', array_map(static fn (int $v): int => $v + $before, $f))."\n";
        }

        return $out;
    }

    private function file(string $content, string $ending): string
    {
        $path = sys_get_temp_dir().'/yard-'.bin2hex(random_bytes(4)).'.'.$ending;
        file_put_contents($path, $content);
        register_shutdown_function(static fn () => @unlink($path));

        return $path;
    }
}
