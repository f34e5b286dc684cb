<?php

declare(strict_types=1);

namespace App\Yard;

use App\Jobs\BeginTrial;
use App\Jobs\Turn;
use App\Models\Bake;
use App\Models\Shot;
use App\Models\Trial;
use App\Models\Variant;
use Illuminate\Support\Facades\DB;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Trial\Axis;
use YardBreak\Core\Trial\Batch;
use YardBreak\Core\Trial\Cost;

/** Variants of a shot: planned, baked, and one of them taken. */
final class Trials
{
    /** Variants of which it is worked out what each takes; more take as much on the mean. */
    private const TOLD = 40;

    public function __construct(private readonly PropMaker $maker)
    {
    }

    /**
     * What a trial would be, and take.
     *
     * @param  list<array{path: string, values: string}>  $axes
     * @return array{count: int, variants: list<array{words: string, pieces: int, seconds: float, bytes: float, problem: string|null}>, seconds: float, bytes: float, known: bool} s on one worker, and
     *   bytes on the disk; told of the first, and of all together; whether that goes by a bake of the shot
     *
     * @throws Problem where it cannot be made
     */
    public function plan(Shot $shot, array $axes): array
    {
        $batch = Batch::of($axes, $shot->values());
        $base = Foresight::known($shot->spec());
        /** @var Bake|null $bake */
        $bake = $shot->bakes()->where('frames_done', '>', 0)->latest('wanted_at')->first();
        $known = $bake === null ? null : ['seconds' => self::meanSeconds($bake), 'bytes' => $bake->files()->bytes($bake->frames_done) / max(1, $bake->frames_done)];
        $of = $bake === null ? $base : $bake->spec();
        $counts = $bake === null ? Cost::counts($base) : self::counts($bake, $of);
        $pieces = $bake->pieces ?? array_sum(Cost::counts($base));
        $told = [];
        foreach (array_slice($this->variants($shot, $batch), 0, self::TOLD) as $variant) {
            try {
                $spec = Foresight::known(ShotSpec::ofKept((string) json_encode(self::changed($shot->document, $variant['patch']))));
                $kept = StartBake::stillTrue($shot, $spec)[1];
                $cost = Cost::of($spec->last - $spec->first + 1 - $kept, $pieces, Cost::times($spec, $of, $counts), $known);
                $told[] = ['words' => $variant['words'], 'pieces' => $cost->pieces, 'seconds' => $cost->seconds, 'bytes' => $cost->bytes, 'problem' => null];
            } catch (Problem $e) {
                $told[] = ['words' => $variant['words'], 'pieces' => 0, 'seconds' => 0.0, 'bytes' => 0.0, 'problem' => $e->getMessage()];
            }
        }
        $share = $batch->count() / count($told);

        return [
            'count' => $batch->count(), 'variants' => $told, 'seconds' => $share * array_sum(array_column($told, 'seconds')), 'bytes' => $share * array_sum(array_column($told, 'bytes')), 'known' => $bake !== null,
        ];
    }

    /**
     * @param  list<array{path: string, values: string}>  $axes
     *
     * @throws Problem where it cannot be made
     */
    public function begin(Shot $shot, array $axes): Trial
    {
        $batch = Batch::of($axes, $shot->values());
        $trial = DB::transaction(function () use ($shot, $axes, $batch): Trial {
            $trial = new Trial([
                'name' => ucfirst(implode(', ', array_map(static fn (Axis $axis): string => $axis->label(), $batch->axes))), 'document' => $shot->document,
                'axes' => array_map(static fn (Axis $axis, array $written): array => ['path' => $axis->what->path, 'values' => $written['values'], 'label' => $axis->label(), 'words' => array_map($axis->words(...), $axis->values)], $batch->axes, $axes),
            ]);
            $trial->shot()->associate($shot)->save();
            foreach (array_chunk($this->variants($shot, $batch), 200, true) as $some) {
                Variant::query()->insert(array_map(static fn (array $v, int $k): array => ['trial_id' => $trial->id, 'number' => $k, 'words' => mb_substr($v['words'], 0, 400), 'patch' => json_encode($v['patch'])], $some, array_keys($some)));
            }

            return $trial;
        });
        BeginTrial::dispatch($trial->id);

        return $trial;
    }

    /** Begins the bake of a variant, or says with it why there can be none. */
    public function bake(Variant $variant): void
    {
        try {
            $bake = StartBake::ofVariant($variant->trial->shot, self::document($variant), $variant->trial);
            $variant->update(['bake_id' => $bake->id, 'problem' => null]);
        } catch (Problem $e) {
            $variant->update(['problem' => $e->toArray()]);
        }
    }

    /**
     * Somebody looks at these variants: they come first.
     *
     * @param  list<int>  $numbers
     */
    public function look(Trial $trial, array $numbers): void
    {
        $trial->variants()->whereIn('number', $numbers)->update(['seen_at' => now()->format('Y-m-d H:i:s')]);
        /** @var iterable<Bake> $bakes */
        $bakes = Bake::query()->whereIn('id', $trial->variants()->select('bake_id'))->whereIn('state', ['queued', 'running'])->get();
        foreach ($bakes as $bake) {
            Turn::again($bake);
        }
    }

    /** Calls off what of a trial is not baked yet. */
    public function callOff(Trial $trial): void
    {
        Bake::callOff(Bake::query()->whereKey($trial->variants()->whereNotNull('bake_id')->pluck('bake_id'))->where('own', false));
        $trial->variants()->whereNull('bake_id')->whereNull('problem')->update(['problem' => json_encode(['kind' => 'cancelled', 'message' => 'It was called off before it began.', 'remedy' => 'Go on with the trial.', 'path' => ''])]);
    }

    /** Goes on with what of a trial was called off or failed. */
    public function goOn(Trial $trial): void
    {
        $ended = Bake::query()->whereIn('state', ['cancelled', 'failed'])->select('id');
        $trial->variants()->where(static fn ($q) => $q->whereNotNull('problem')->orWhereIn('bake_id', $ended))->update(['bake_id' => null, 'problem' => null]);
        BeginTrial::dispatch($trial->id);
    }

    /**
     * Makes a variant the shot, as one change, and its bake the shot's where it is one of the shot as it is then.
     *
     * @throws Conflict
     * @throws Problem where the shot has changed so that it does not fit any more
     */
    public function choose(Variant $variant, int $revision): Shot
    {
        $shot = (new ShotEditor)->edit($variant->trial->shot_id, $revision, Patch::plain(json_decode($variant->patch)), 'Choose: '.lcfirst($variant->words));
        if ($variant->bake?->state === 'done') {
            try {
                if (StartBake::stillTrue($shot, Foresight::known($shot->spec()))[1] >= $variant->bake->frames_done) {
                    StartBake::of($shot);
                }
            } catch (Problem) {
                // What is wrong with it is said where it is baked.
            }
        }

        return $shot;
    }

    /**
     * The shot as a variant has it.
     *
     * @return string JSON
     *
     * @throws Problem where it would be no valid shot
     */
    public static function document(Variant $variant): string
    {
        return (string) json_encode(self::changed($variant->trial->document, (array) json_decode($variant->patch)), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE);
    }

    /**
     * @param  string  $document  JSON
     * @param  array<mixed>  $patch
     *
     * @throws Problem where it would be no valid shot
     */
    private static function changed(string $document, array $patch): \stdClass
    {
        $before = Patch::plain(json_decode($document));

        return (new Patch(Patch::plain($patch)))->followed($before)->on($before);
    }

    /** @return list<array{words: string, patch: list<array{op: 'add'|'replace', path: string, value: mixed}>}> */
    private function variants(Shot $shot, Batch $batch): array
    {
        $document = self::plain($shot->document);
        $spec = $shot->spec();

        return $batch->variants($document, function (string $path) use ($document, $spec): array {
            $prop = $spec->prop($document['props'][(int) basename($path)]['id']) ?? throw Problem::inValue('axes', 'The prop is not there any more.');

            return Aabb::around($this->maker->mesh($prop))->size()->toArray();
        });
    }

    private static function meanSeconds(Bake $bake): float
    {
        $seconds = array_column($bake->files()->figures(), 'seconds');

        return $seconds === [] ? 0.0 : array_sum($seconds) / count($seconds);
    }

    /** @return array<string, int> pieces by prop */
    private static function counts(Bake $bake, ShotSpec $spec): array
    {
        $ids = array_column($spec->props, 'id');

        return count($ids) === count($bake->counts) ? array_combine($ids, $bake->counts) : [];
    }

    /** @return array<string, mixed> */
    private static function plain(string $document): array
    {
        return (array) json_decode($document, true, ShotSpec::DEEPEST, JSON_THROW_ON_ERROR);
    }
}
