<?php

declare(strict_types=1);

namespace Tests\Feature;

/** The docs, read beside the work. */
final class HelpTest extends YardTestCase
{
    /** Every page a bench opens is there, with the heading it begins at, every link in a page leads on, and every picture is one. */
    public function test_what_benches_and_pages_lead_to_is_there(): void
    {
        $front = implode("\n", array_map(file_get_contents(...), [...glob(base_path('resources/ts/*/*.tsx')) ?: [], ...glob(base_path('resources/ts/*/*/*.tsx')) ?: []]));
        preg_match_all('/help=(?:"([^"]+)"|\{[^}]*\})|\'([a-z-]+(?:#[a-z-]+)?)\'(?= :|\})|open\(\'([a-z-]+)\'\)/', $front, $found);
        $asked = array_unique(array_filter($found[1]));
        self::assertGreaterThan(5, count($asked));
        $asked = [...$asked, 'patterns', 'cloth', 'release-and-drift', 'working-day', 'hand-off'];
        $seen = [];
        while ($asked !== []) {
            [$page, $at] = [...explode('#', array_pop($asked)), ''];
            $text = (string) $this->get("/api/help/$page")->assertOk()->getContent();
            $headings = array_map(static fn (string $h): string => (string) preg_replace('/\s+/', '-', trim((string) preg_replace('/[^\p{L}\p{N}\s-]/u', '', mb_strtolower($h)))), self::found('/^#+ (.+)$/m', $text));
            if ($at !== '') {
                self::assertContains($at, $headings, "$page#$at");
            }
            if (isset($seen[$page])) {
                continue;
            }
            $seen[$page] = true;
            foreach (self::found('/\]\((?:\.\/)?([a-z-]+)\.md/', $text) as $next) {
                $asked[] = $next;
            }
            foreach (self::found('/!\[[^\]]*\]\(([^)]+)\.png\)/', $text) as $picture) {
                $this->get("/api/help/$picture")->assertOk()->assertHeader('Content-Type', 'image/png');
            }
        }
        $this->get('/api/help/no-such-page')->assertNotFound();
        $this->get('/api/help/screenshots/no-such')->assertNotFound();
    }

    /** @return list<string> */
    private static function found(string $pattern, string $text): array
    {
        preg_match_all($pattern, $text, $found);

        return $found[1];
    }
}
