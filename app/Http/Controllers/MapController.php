<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeMap;
use App\Models\Shot;
use App\Storage\MapPath;
use App\Storage\MapStore;
use App\Storage\Sealed;
use App\Storage\YardFiles;
use App\Yard\Foresight;
use App\Yard\Maps;
use App\Yard\StoredParts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;

/** The weights of maps: how far they have got over all frames, those of a frame, and what a change by hand would make of them. */
final class MapController
{
    /** How much of the prop a map reaches, frame by frame, as far as that is worked out; what is missing is. */
    public function show(Request $request, Shot $shot, string $map, StoredParts $parts, MapStore $store, Foresight $foresight): JsonResponse
    {
        $spec = $foresight->of($shot->spec(), false);
        $kind = self::kind($request->query('kind'));
        $run = Maps::of($shot, $spec, $parts, $store);
        $keys = $run->keys($map, $kind);
        $all = MakeMap::keyOf($keys);
        $asked = $request->query('at');
        $frame = max($spec->first, min($spec->last, is_numeric($asked) ? (int) $asked : $spec->first));
        $key = $keys[$frame - $spec->first];
        // After a drag what it was measured from is there, so that the frame looked at need not wait its turn.
        if ($kind !== MapRun::SKIN && ! MakeMap::isMade($key) && ! $run->remembers($map) && ($weights = $run->fromKept($map, $kind, $frame)) !== null) {
            YardFiles::write(MapPath::of($key), Sealed::of(MapStore::encode($weights)));
        }
        $coverage = array_map(static function (string $key): ?array {
            $c = MapStore::coverage($key);

            return $c === null ? null : [round($c->none, 5), round($c->full, 5), round($c->least, 4), round($c->mean, 4), round($c->most, 4)];
        }, $keys);
        $fault = MakeMap::fault($all);
        $findings = @file_get_contents(YardFiles::folder(MakeMap::findingsName($all)));
        $done = ! in_array(null, $coverage, true) && ($findings !== false || $kind !== MapRun::SURFACE);
        if (! $done && $fault === null) {
            MakeMap::ask(new MakeMap($shot->id, $map, $kind, $all, $frame));
        }

        return response()->json([
            'first' => $spec->first, 'keys' => $keys, 'coverage' => $coverage, 'done' => $done,
            'problem' => $fault, 'findings' => $findings === false ? [] : json_decode($findings, true),
        ]);
    }

    /** The weights of one frame, by what they depend on. */
    public function frame(string $key): Response
    {
        $weights = MapPath::read(YardFiles::folder(''), $key);

        return $weights === null ? abort(404) : response($weights, 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, max-age=31536000, immutable']);
    }

    /** A frame as it would be with another stack, or one of its sources by itself; before anything becomes of it in time. */
    public function trial(Request $request, Shot $shot, string $map, StoredParts $parts, MapStore $store): Response
    {
        $body = json_decode($request->getContent(), false, ShotSpec::DEEPEST);
        $document = $shot->decoded();
        foreach ($document->props as $prop) {
            foreach ($prop->weights ?? [] as $one) {
                if ($one->id === $map && is_array($body->sources ?? null)) {
                    $one->sources = $body->sources;
                }
            }
        }
        $run = Maps::of($shot, Foresight::known(ShotSpec::fromObject($document)), $parts, $store);
        $frame = is_int($body->frame ?? null) ? $body->frame : $run->shot->first;
        $kind = self::kind($body->kind ?? null);
        if ($kind === MapRun::SKIN) {
            throw Problem::inValue('kind', 'A change is tried out on points or on pieces.');
        }
        $weights = is_int($body->layer ?? null) ? $run->layerAt($map, $body->layer, $kind, $frame) : $run->fromKept($map, $kind, $frame) ?? $run->weightsOfSources($map, $kind, $frame);

        return response(MapStore::encode($weights), 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'no-store']);
    }

    /** @return 'points'|'pieces'|'skin' */
    private static function kind(mixed $kind): string
    {
        return match ($kind) {
            null, MapRun::SURFACE => MapRun::SURFACE,
            MapRun::PIECES => MapRun::PIECES,
            MapRun::SKIN => MapRun::SKIN,
            default => throw Problem::inValue('kind', 'Weights are those of points, of pieces, or of the skin of pieces.'),
        };
    }
}
