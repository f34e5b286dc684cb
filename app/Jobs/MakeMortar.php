<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Shot;
use App\Storage\Faults;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\Keeping;
use App\Yard\KeptAnswers;
use App\Yard\StoredParts;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;
use YardBreak\Core\Check\MortarFigures;
use YardBreak\Core\Problem;

/** Finds what the mortar of one prop holds, in the background. */
final class MakeMortar implements LastsLong, ShouldBeUnique, ShouldQueue
{
    use RunsInQueue;

    /** Where what is found is kept. */
    public const FOLDER = 'mortar';

    /** Seconds after which it may be asked for again although nobody has heard of it. */
    public int $uniqueFor = 600;

    public function __construct(private readonly string $shotId, private readonly string $propId, private readonly string $name)
    {
    }

    public function uniqueId(): string
    {
        return $this->name;
    }

    /** Where it is said why it could not be found. */
    public static function faultName(string $name): string
    {
        return $name.'.fault';
    }

    public function handle(ShardStore $store, StoredParts $parts): void
    {
        $shot = Shot::query()->find($this->shotId)?->spec();
        $prop = $shot?->prop($this->propId);
        // What has changed since is asked for anew.
        if ($shot === null || $prop === null || KeptAnswers::name(self::FOLDER, $shot, $this->propId) !== $this->name) {
            return;
        }
        try {
            YardFiles::write($this->name, (string) json_encode(MortarFigures::of($shot, $prop, $store->solids($prop), $store->joints($prop), $parts)));
        } catch (Problem $e) {
            $this->failed($e);
        } finally {
            Keeping::look();
        }
    }

    public function failed(?Throwable $e): void
    {
        Faults::keep(self::faultName($this->name), $e instanceof Problem ? $e : new Problem(
            'internal', 'What its mortar holds could not be found: something went wrong inside Yard Break.', '', 'Report this; a bake may do all the same.',
        ));
    }

    public function lock(): string
    {
        return 'mortar-'.hash('xxh128', $this->name);
    }
}
