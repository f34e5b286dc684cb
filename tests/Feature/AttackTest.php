<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Attack\Attack;

/** A short run of what bin/attack does at length. */
final class AttackTest extends YardTestCase
{
    private const UPLOADS = 150;

    private const EDITS = 500;

    private const SEED = 20261125;

    /** @return array<string, array{string}> */
    public static function kinds(): array
    {
        return array_combine($kinds = array_keys(Attack::files()), array_map(static fn (string $kind): array => [$kind], $kinds));
    }

    #[DataProvider('kinds')]
    public function test_damaged_files_are_taken_or_refused_in_words(string $kind): void
    {
        $done = $this->attack()->uploads($kind, self::UPLOADS, self::SEED);
        self::assertSame([], $done['faults']);
        self::assertGreaterThan(self::UPLOADS / 10, $done['refused']);
    }

    public function test_hostile_changes_are_taken_or_refused_in_words_and_the_shot_stays_whole(): void
    {
        // How long a request takes is judged, and a whole bake is none.
        config(['queue.default' => 'null', 'queue.connections.null' => ['driver' => 'null']]);
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box()], ['op' => 'add', 'path' => '/props/-', 'value' => self::lathe()]])->assertOk();
        $good = json_decode((string) $this->send('GET', "shots/$id")->getContent())->document;
        $done = $this->attack()->edits(self::EDITS, self::SEED, $id, $good);
        self::assertSame([], $done['faults']);
        self::assertGreaterThan(self::EDITS / 10, $done['refused']);
        self::assertGreaterThan(0, $done['taken']);
        $this->send('GET', "shots/$id")->assertOk();
        $this->send('GET', "shots/$id/check")->assertOk();
    }
}
