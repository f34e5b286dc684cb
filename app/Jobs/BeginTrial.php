<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use App\Models\Trial;
use App\Models\Variant;
use App\Yard\Trials;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;

/** Has the variants of a trial baked that are not yet. */
final class BeginTrial implements LastsLong, ShouldQueue
{
    use RunsInQueue;

    public function __construct(private readonly string $trialId)
    {
    }

    public function handle(Trials $trials): void
    {
        $trial = Trial::query()->find($this->trialId);
        /** @var iterable<Variant> $variants */
        $variants = $trial?->variants()->whereNull('bake_id')->whereNull('problem')->oldest('number')->get() ?? [];
        foreach ($variants as $variant) {
            if (Trial::query()->whereKey($this->trialId)->doesntExist()) {
                return;
            }
            $trials->bake($variant);
            Beating::gotOn();
        }
    }

    /** Those it did not get to stay as they are, and can be asked for again. */
    public function failed(?Throwable $e): void
    {
    }

    public function lock(): string
    {
        return 'trial-'.$this->trialId;
    }
}
