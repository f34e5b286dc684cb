<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Bake;
use App\Models\Shot;
use App\Models\Trial;
use App\Models\Variant;

/** What the browser is told of trials, and of bakes that are looked at beside each other. */
final class TrialView
{
    /** @return array<string, mixed> */
    public static function of(Trial $trial): array
    {
        /** @var iterable<Variant> $variants */
        $variants = $trial->variants()->with('bake')->oldest('number')->get();
        $told = [];
        foreach ($variants as $variant) {
            $told[] = ['id' => $variant->id, 'number' => $variant->number, 'words' => $variant->words, 'problem' => $variant->problem, 'bake' => $variant->bake === null ? null : self::bake($variant->bake)];
        }

        return ['id' => $trial->id, 'name' => $trial->name, 'at' => $trial->created_at->toIso8601String(), 'axes' => $trial->axes, 'variants' => $told];
    }

    /** @return list<array<string, mixed>> the trials of a shot, the last first */
    public static function all(Shot $shot): array
    {
        $out = [];
        foreach ($shot->trials()->latest('id')->get() as $trial) {
            $bakes = Bake::query()->whereIn('id', $trial->variants()->select('bake_id'));
            $out[] = [
                'id' => $trial->id, 'name' => $trial->name, 'at' => $trial->created_at->toIso8601String(), 'axes' => $trial->axes, 'count' => $trial->variants()->count(),
                'done' => (clone $bakes)->where('state', 'done')->count(), 'open' => (clone $bakes)->whereIn('state', ['queued', 'running'])->exists() || $trial->variants()->whereNull('bake_id')->whereNull('problem')->exists(),
            ];
        }

        return $out;
    }

    /** @return list<array<string, mixed>> the bakes of a shot that are there, the last first, by what it was then */
    public static function bakes(Shot $shot): array
    {
        $out = [];
        $now = $shot->latestBake();
        /** @var iterable<Bake> $bakes */
        $bakes = $shot->bakes()->where('frames_done', '>', 0)->where('own', true)->latest('wanted_at')->limit(50)->get();
        $edits = $shot->edits()->oldest('id')->get(['label', 'name', 'created_at']);
        foreach ($bakes as $bake) {
            $last = $edits->filter(static fn ($e): bool => $e->created_at <= $bake->created_at)->last();
            $out[] = ['words' => $last === null ? 'As it began' : ($last->name !== '' ? $last->name : $last->label), 'at' => $bake->created_at->toIso8601String(), 'latest' => $bake->id === $now?->id, 'bake' => self::bake($bake)];
        }

        return $out;
    }

    /** @return array<string, mixed> */
    private static function bake(Bake $bake): array
    {
        return ShotView::told($bake) + ['telling' => $bake->telling, 'outcome' => $bake->outcome()?->toArray()];
    }
}
