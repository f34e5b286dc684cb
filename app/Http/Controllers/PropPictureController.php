<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeShards;
use App\Jobs\ShardProgress;
use App\Models\Shot;
use App\Storage\Faults;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\Keeping;
use App\Yard\PropPicture;
use App\Yard\ShotView;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response as Base;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;

/**
 * A prop's pieces as the browser draws them. Large breaks are made by a job; the browser asks again, and may have a
 * first look meanwhile (`?first=1`). Where the break fails it may have the prop unbroken (`?whole=1`).
 */
final class PropPictureController
{
    private const NAME = 'pictures/props-10/';

    private const WHOLE = 'pictures/whole-2/';

    private const HEADERS = ['Content-Type' => 'application/octet-stream'];

    public function __invoke(Request $request, Shot $shot, string $prop, ShardStore $store, PropMaker $maker): Base
    {
        $spec = null;
        foreach ($shot->spec()->props as $p) {
            $spec = $p->id === $prop ? $p : $spec;
        }
        abort_if($spec === null, 404);
        if ($request->boolean('whole')) {
            $tag = '"'.substr($spec->meshKey(), 0, 24).'"';
            if ($request->header('If-None-Match') === $tag) {
                return response('', 304)->header('ETag', $tag);
            }
            $bytes = $this->kept(self::WHOLE.$spec->meshKey().'.bin', static fn (): string => PropPicture::whole($spec, $maker));

            return response($bytes, 200, self::HEADERS + ['ETag' => $tag, 'Cache-Control' => 'no-cache']);
        }
        $tag = ShotView::tag($spec);
        if ($request->header('If-None-Match') === $tag) {
            return response('', 304)->header('ETag', $tag);
        }
        $name = self::NAME.PropPicture::key($spec).'.bin';
        $bytes = YardFiles::kept($name);
        if ($bytes === null) {
            // What would hold up a request is made in the background, and a first look at it before.
            if (! $store->has($spec) && $spec->firstLook() !== null) {
                $this->throwFault($spec);
                MakeShards::dispatch($shot->id, $prop, $spec->shardKey());
                $first = YardFiles::path(MakeShards::firstName($spec->shardKey()));
                if ($request->boolean('first') && is_file($first)) {
                    return response()->file($first, self::HEADERS + ['Cache-Control' => 'no-store']);
                }

                return response()->json(['share' => ShardProgress::of($spec->shardKey()), 'first' => is_file($first)], 202);
            }
            $bytes = $this->kept($name, static fn (): string => PropPicture::encode($spec, $store->of($spec), $maker));
        }

        // Asked for by its tag it never changes; asked for by name alone it may.
        return response($bytes, 200, self::HEADERS + ['ETag' => $tag, 'Cache-Control' => $request->query('tag') === trim($tag, '"') ? 'private, max-age=31536000, immutable' : 'no-cache']);
    }

    /** @param  \Closure(): string  $make */
    private function kept(string $name, \Closure $make): string
    {
        $bytes = YardFiles::kept($name);
        if ($bytes === null) {
            YardFiles::keep($name, $bytes = $make());
            app()->terminating(Keeping::look(...));
        }

        return $bytes;
    }

    /** A background break that failed says why when it is asked for again. */
    private function throwFault(PropSpec $prop): void
    {
        $fault = Faults::of(MakeShards::faultName($prop->shardKey()));
        if ($fault !== null) {
            throw $fault;
        }
    }
}
