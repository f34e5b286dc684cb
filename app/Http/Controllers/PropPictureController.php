<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeShards;
use App\Jobs\ShardProgress;
use App\Models\Shot;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\PropPicture;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response as Base;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;

/** A prop's pieces as the browser draws them. Large breaks are made by a job; the browser asks again. */
final class PropPictureController
{
    public function __invoke(Request $request, Shot $shot, string $prop, ShardStore $store, PropMaker $maker): Base
    {
        $spec = null;
        foreach ($shot->spec()->props as $p) {
            $spec = $p->id === $prop ? $p : $spec;
        }
        abort_if($spec === null, 404);
        $tag = '"'.substr($spec->shardKey(), 0, 24).'"';
        if ($request->header('If-None-Match') === $tag) {
            return response('', 304)->header('ETag', $tag);
        }
        $name = 'pictures/props-4/'.$spec->shardKey().'.bin';
        $path = YardFiles::path($name);
        if (! is_file($path)) {
            if (! $store->has($spec) && $this->isLarge($spec)) {
                $this->throwFault($spec);
                MakeShards::dispatch($shot->id, $prop, $spec->shardKey());

                return response()->json(['share' => ShardProgress::of($spec->shardKey())], 202);
            }
            YardFiles::write($name, PropPicture::encode($store->of($spec), $spec->plan($maker->mesh(...))));
        }

        return response()->file($path, ['Content-Type' => 'application/octet-stream', 'ETag' => $tag, 'Cache-Control' => 'no-cache']);
    }

    /** What would hold up a request is made in the background. */
    private function isLarge(PropSpec $prop): bool
    {
        $values = $prop->break['values'] ?? [];

        return max($values['count'] ?? 0, 2 ** ($values['passes'] ?? 0)) > (int) config('yard.pieces_at_once')
            || ($values['ragged'] ?? 0) > 0 && ($prop->break['pattern'] ?? '') === 'cells'
            || array_intersect(array_column($prop->prepare, 'step'), ['remesh', 'subdivide']) !== []
            || $prop->rework !== [];
    }

    /** A background break that failed says why when it is asked for again. */
    private function throwFault(PropSpec $prop): void
    {
        $path = YardFiles::path(MakeShards::faultName($prop->shardKey()));
        if (is_file($path)) {
            $fault = json_decode((string) file_get_contents($path), true);
            throw new Problem($fault['kind'], $fault['message'], $fault['path'], $fault['remedy']);
        }
    }
}
