<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests;

use PHPUnit\Framework\TestCase;

/** Dependencies point one way, and the core knows no framework. */
final class ArchitectureTest extends TestCase
{
    /** Each folder may use those before it, and itself. */
    private const ORDER = [
        '', 'Kinds', 'Geometry', 'Timing', 'Weight', 'Force', 'Shape', 'Break', 'Prepare', 'Format', 'Collide', 'Motion', 'Rigid', 'Drift', 'Dust', 'Cloth', 'Shot', 'Check',
        'Bake', 'Trial',
    ];

    public function test_no_arrow_points_against_the_order(): void
    {
        foreach (self::files() as $path => $code) {
            $own = self::folder($path);
            preg_match_all('/^use YardBreak\\\\Core\\\\(?:(\w+)\\\\)?\w/m', $code, $found);
            foreach ($found[1] as $used) {
                self::assertContains($used, self::ORDER, $path);
                self::assertTrue(
                    array_search($used, self::ORDER, true) <= array_search($own, self::ORDER, true),
                    "$path uses $used",
                );
            }
        }
    }

    public function test_the_core_knows_no_framework_no_clock_and_no_other_randomness(): void
    {
        foreach (self::files() as $path => $code) {
            self::assertDoesNotMatchRegularExpression(
                '/Illuminate|Symfony|\$_(GET|POST|SERVER|ENV)|\bgetenv\(|\b(mt_)?rand\(|random_int\(|\b(micro|hr)?time\(|\bdate\(|new \\?DateTime/',
                $code,
                $path,
            );
        }
    }

    public function test_every_file_is_strict(): void
    {
        foreach (self::files() as $path => $code) {
            self::assertStringContainsString('declare(strict_types=1);', $code, $path);
        }
    }

    private static function folder(string $path): string
    {
        $parts = explode('/', substr($path, strlen(self::root()) + 1));

        return count($parts) > 1 ? $parts[0] : '';
    }

    private static function root(): string
    {
        return dirname(__DIR__).'/src';
    }

    /** @return array<string, string> */
    private static function files(): array
    {
        $out = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator(self::root(), \FilesystemIterator::SKIP_DOTS)) as $file) {
            $out[(string) $file] = (string) file_get_contents((string) $file);
        }
        self::assertGreaterThan(30, count($out));

        return $out;
    }
}
