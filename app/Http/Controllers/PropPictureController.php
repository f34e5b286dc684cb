<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeShards;
use App\Jobs\ShardProgress;
use App\Models\Bake;
use App\Models\Shot;
use App\Models\Variant;
use App\Storage\Faults;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\Keeping;
use App\Yard\PropPicture;
use App\Yard\ShotView;
use App\Yard\Trials;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response as Base;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/**
 * A prop's pieces as the browser draws them, of a shot, of a variant, or of what was baked. Large breaks are made by a job; the browser asks again, and may have a
 * first look meanwhile (`?first=1`). Where the break fails it may have the prop unbroken (`?whole=1`).
 */
final class PropPictureController
{
    private const NAME = 'pictures/props-10/';

    private const WHOLE = 'pictures/whole-2/';

    private const HEADERS = ['Content-Type' => 'application/octet-stream'];

    public function __construct(private readonly ShardStore $store, private readonly PropMaker $maker)
    {
    }

    public function ofShot(Request $request, Shot $shot, string $prop): Base
    {
        return $this->picture($request, $shot->spec(), $prop, fn (PropSpec $spec): ?Base => $this->unlessMade($request, $shot, $spec));
    }

    public function ofBake(Request $request, Bake $bake, string $prop): Base
    {
        return $this->picture($request, $bake->spec(), $prop, static fn (): ?Base => self::whileBaking($bake));
    }

    public function ofVariant(Request $request, Variant $variant, string $prop): Base
    {
        return $this->picture($request, ShotSpec::ofKept(Trials::document($variant)), $prop, static fn (): ?Base => self::whileBaking($variant->bake));
    }

    /** What is baked just now is broken by that. */
    private static function whileBaking(?Bake $bake): ?Base
    {
        return $bake?->isOpen() === true && $bake->frames_done === 0 ? response()->json(['share' => 0, 'first' => false], 202) : null;
    }

    /** What would hold up a request is made in the background, and a first look at it before. */
    private function unlessMade(Request $request, Shot $shot, PropSpec $spec): ?Base
    {
        if ($spec->firstLook() === null) {
            return null;
        }
        $this->throwFault($spec);
        MakeShards::dispatch($shot->id, $spec->id, $spec->shardKey());
        $first = YardFiles::path(MakeShards::firstName($spec->shardKey()));
        if ($request->boolean('first') && is_file($first)) {
            return response()->file($first, self::HEADERS + ['Cache-Control' => 'no-store']);
        }

        return response()->json(['share' => ShardProgress::of($spec->shardKey()), 'first' => is_file($first)], 202);
    }

    /** @param  \Closure(PropSpec): (Base|null)  $waits  what is answered while its pieces are not there; null where they are to be made at once */
    private function picture(Request $request, ShotSpec $of, string $prop, \Closure $waits): Base
    {
        $spec = $of->prop($prop);
        abort_if($spec === null, 404);
        if ($request->boolean('whole')) {
            $tag = '"'.substr($spec->meshKey(), 0, 24).'"';
            if ($request->header('If-None-Match') === $tag) {
                return response('', 304)->header('ETag', $tag);
            }
            $bytes = $this->kept(self::WHOLE.$spec->meshKey().'.bin', fn (): string => PropPicture::whole($spec, $this->maker));

            return response($bytes, 200, self::HEADERS + ['ETag' => $tag, 'Cache-Control' => 'no-cache']);
        }
        $tag = ShotView::tag($spec);
        if ($request->header('If-None-Match') === $tag) {
            return response('', 304)->header('ETag', $tag);
        }
        $name = self::NAME.PropPicture::key($spec).'.bin';
        $bytes = YardFiles::kept($name);
        if ($bytes === null) {
            $answer = $this->store->has($spec) ? null : $waits($spec);
            if ($answer !== null) {
                return $answer;
            }
            $bytes = $this->kept($name, fn (): string => PropPicture::encode($spec, $this->store->of($spec), $this->maker));
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
