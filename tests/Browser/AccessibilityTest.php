<?php

declare(strict_types=1);

namespace Tests\Browser;

/** Every stage, by day and by night, judged by axe-core. */
final class AccessibilityTest extends BrowserTestCase
{
    public function test_no_stage_has_a_finding(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(8), 'place' => ['position' => [0, 0.5, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => Setting::falling()]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 12]]);
        $a->sees('8 shards');
        $a->keys('b');
        $a->until(static fn (): bool => preg_match('/●\s*baked/', $a->text()) === 1);
        $axe = (string) file_get_contents(dirname(__DIR__, 2).'/node_modules/axe-core/axe.min.js');
        $a->js($axe);
        foreach (['Night', 'Day'] as $next) {
            foreach (['1' => 'Built here', '2' => 'Pattern', '4' => 'Release', '5' => 'Docket', '6' => 'Format'] as $key => $words) {
                $a->keys((string) $key);
                $a->sees($words);
                // A colour on its way to another is no finding.
                $a->until(static fn (): bool => $a->js('return document.getAnimations().filter(m=>m.playState==="running"&&m.effect.getTiming().iterations!==Infinity).length') === 0);
                $this->assertClean('stage '.$key.' before '.$next);
            }
            $a->presses($next);
        }
        $a->opens('/');
        $a->sees('● baked');
        $a->js($axe);
        $this->assertClean('the yard');
    }

    private function assertClean(string $where): void
    {
        $found = $this->artist->browser->executeAsyncScript('const done=arguments[0];axe.run(document,{resultTypes:["violations"]}).then(r=>done(r.violations.map(v=>v.id+": "+v.help+" — "+v.nodes.slice(0,3).map(n=>n.html.slice(0,140)).join(" | "))))');
        self::assertSame([], $found, $where);
    }
}
