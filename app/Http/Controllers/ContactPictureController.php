<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeSolids;
use App\Jobs\ShardProgress;
use App\Models\Shot;
use App\Storage\Faults;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\ContactPicture;
use App\Yard\Keeping;
use Symfony\Component\HttpFoundation\Response;

/** What a prop's pieces collide as, drawn like the pieces. It is found by a job; the browser asks again. */
final class ContactPictureController
{
    private const NAME = 'pictures/contact-1/';

    public function __invoke(Shot $shot, string $prop, ShardStore $store): Response
    {
        $spec = $shot->spec()->prop($prop);
        abort_if($spec === null, 404);
        $key = $store->solidsName($spec);
        $name = self::NAME.basename($key).'.bin';
        $bytes = YardFiles::kept($name);
        if ($bytes === null) {
            if (YardFiles::kept($key) === null) {
                $fault = Faults::of(MakeSolids::faultName($spec));
                if ($fault !== null) {
                    throw $fault;
                }
                MakeSolids::begin($shot->id, $spec);

                return response()->json(['share' => ShardProgress::of($spec->shardKey())], 202);
            }
            YardFiles::keep($name, $bytes = ContactPicture::encode($store->of($spec), $store->solids($spec), $spec->motion->simplify));
            app()->terminating(Keeping::look(...));
        }

        return response($bytes, 200, ['Content-Type' => 'application/octet-stream', 'ETag' => '"'.substr(hash('xxh128', $key), 0, 24).'"', 'Cache-Control' => 'no-cache']);
    }
}
