<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Bake;
use App\Models\HandOff;
use App\Models\Shot;
use App\Storage\MapStore;
use App\Storage\Room;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\Foresight;
use App\Yard\Maps;
use App\Yard\NewShot;
use App\Yard\ShotView;
use App\Yard\StoredParts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Check\SiteCheck;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Weight\Coverage;

final class ShotController
{
    /** Letters of a folder's name and of a tag, and how many of these. */
    private const LONGEST = 60;

    private const TAG = 24;

    private const TAGS = 12;

    public function index(): JsonResponse
    {
        $bakes = Bake::query()->where('own', true)->orderBy('wanted_at')->orderBy('id')->get(['id', 'shot_id', 'state', 'frames_done', 'first', 'last', 'telling'])->keyBy('shot_id');
        $shots = Shot::query()->latest('updated_at')->latest('id')->get(['id', 'name', 'revision', 'updated_at', 'created_at', 'picture_of', 'folder', 'tags', 'opened_at',
            DB::raw("json_extract(document, '$.frames') as frames"), DB::raw("(select json_group_array(json_extract(value, '$.name')) from json_each(document, '$.props')) as props")]);

        return response()->json($shots->map(static function (Shot $shot) use ($bakes): array {
            $bake = $bakes->get($shot->id);

            return [
                'id' => $shot->id, 'name' => $shot->name, 'revision' => $shot->revision, 'changedAt' => $shot->updated_at->toIso8601String(), 'madeAt' => $shot->created_at->toIso8601String(), 'openedAt' => $shot->opened_at,
                'folder' => $shot->folder, 'tags' => $shot->tags,
                'props' => json_decode($shot->getAttribute('props')),
                'frames' => json_decode($shot->getAttribute('frames')),
                'bake' => $bake === null ? null : ['id' => $bake->id, 'state' => $bake->state, 'share' => $bake->frames_done / max(1, $bake->last - $bake->first + 1), 'telling' => $bake->telling],
                'picture' => is_file(self::pictureFile($shot->id)) ? filemtime(self::pictureFile($shot->id)) : null,
                'pictureOf' => $shot->picture_of,
            ];
        }));
    }

    public function store(Request $request, NewShot $new): JsonResponse
    {
        $from = $request->input('from');
        $shot = match (true) {
            is_string($from) => $new->copyOf(Shot::query()->findOrFail($from)),
            is_string($request->input('demo')) => $new->demo($request->input('demo')),
            default => $new->blank(),
        };

        return response()->json(ShotView::of($shot), 201);
    }

    public function show(Request $request, Shot $shot): JsonResponse
    {
        if ($request->boolean('opens')) {
            // To be looked at is no change of it.
            Shot::withoutTimestamps(static fn () => $shot->update(['opened_at' => now()->toIso8601String()]));
        }

        return response()->json(ShotView::of($shot));
    }

    /** Where in the yard it lies, and what it is marked with. */
    public function place(Request $request, Shot $shot): Response
    {
        $folder = $request->input('folder', $shot->folder);
        $tags = $request->input('tags', $shot->tags);
        if (! is_string($folder) || mb_strlen($folder) > self::LONGEST) {
            throw Problem::inValue('folder', 'A folder is called by up to '.self::LONGEST.' letters.', 'Write a shorter name.');
        }
        if (! is_array($tags) || count($tags) > self::TAGS || array_filter($tags, static fn (mixed $t): bool => ! is_string($t) || mb_strlen($t) > self::TAG) !== []) {
            throw Problem::inValue('tags', 'A shot bears up to '.self::TAGS.' tags of up to '.self::TAG.' letters.', 'Take some away, or shorten them.');
        }
        $tags = array_values(array_unique(array_filter(array_map(trim(...), $tags), static fn (string $t): bool => $t !== '')));
        Shot::withoutTimestamps(static fn () => $shot->update(['folder' => trim($folder), 'tags' => $tags]));

        return response()->noContent();
    }

    /** What was deleted and can still be had back, and until when. */
    public function deleted(): JsonResponse
    {
        $after = (int) config('yard.clear_after');

        return response()->json(Shot::onlyTrashed()->latest('deleted_at')->get(['id', 'name', 'deleted_at'])->map(static fn (Shot $shot): array => [
            'id' => $shot->id, 'name' => $shot->name, 'until' => $shot->deleted_at?->addSeconds($after)->toIso8601String(),
        ]));
    }

    public function destroy(Shot $shot): Response
    {
        Room::making(static fn () => DB::transaction(static function () use ($shot): void {
            Bake::callOff($shot->bakes());
            HandOff::query()->whereIn('bake_id', $shot->bakes()->select('id'))->where('state', 'queued')->update(['state' => 'failed', 'problem' => json_encode((new Problem('cancelled', 'The shot was deleted meanwhile.', '', 'Bring the shot back, then write it again.'))->toArray())]);
            $shot->delete();
        }));

        return response()->noContent();
    }

    public function restore(Shot $shot): JsonResponse
    {
        $shot->restore();

        return response()->json(ShotView::of($shot));
    }

    public function check(Shot $shot, SiteCheck $check, ShardStore $store, StoredParts $parts): JsonResponse
    {
        $spec = Foresight::known($shot->spec());
        $run = null;
        $coverage = static function (string $map, int $frame) use ($shot, $spec, $parts, &$run): ?Coverage {
            $run ??= Maps::of($shot, $spec, $parts);
            try {
                $key = $run->keys($map, MapRun::SURFACE)[$frame - $spec->first] ?? null;
            } catch (Problem) {
                // What is wrong with the map is said where it is.
                return null;
            }

            return $key === null ? null : MapStore::coverage($key);
        };

        $pieces = static fn (PropSpec $prop): ?array => $store->has($prop) ? $store->of($prop) : null;

        $solids = static fn (PropSpec $prop): ?array => $store->hasSolids($prop) ? $store->solids($prop) : null;

        return response()->json($check->of($spec, $store->unusable(...), $coverage, $pieces, $solids));
    }

    /** Cues that a touch decides, where keys alone tell when it comes. */
    public function moments(Shot $shot, Foresight $foresight): JsonResponse
    {
        $spec = $foresight->of($shot->spec(), false);
        $found = [];
        foreach ($spec->cues as $cue) {
            if ($cue->isFound() && $spec->moments->frame($cue->id) !== null) {
                $found[$cue->id] = $spec->moments->frame($cue->id);
            }
        }

        return response()->json(['found' => (object) $found]);
    }

    public function picture(Shot $shot): BinaryFileResponse
    {
        $path = self::pictureFile($shot->id);
        abort_unless(is_file($path), 404);

        return response()->file($path, ['Content-Type' => 'image/png']);
    }

    public function keepPicture(Request $request, Shot $shot): Response
    {
        $bytes = $request->getContent();
        if (strlen($bytes) > 2_000_000 || ! str_starts_with($bytes, "\x89PNG")) {
            throw Problem::inFile('A shot\'s picture must be a PNG of at most 2 MB.');
        }
        YardFiles::write('pictures/'.$shot->id.'.png', $bytes);
        // A picture is no change of the shot.
        Shot::withoutTimestamps(static fn () => $shot->update(['picture_of' => mb_substr((string) $request->query('of'), 0, 80)]));

        return response()->noContent();
    }

    private static function pictureFile(string $id): string
    {
        return YardFiles::path('pictures/'.$id.'.png');
    }
}
