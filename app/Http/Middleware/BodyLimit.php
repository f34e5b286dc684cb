<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Http\Refusal;
use App\Http\Upload;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** Refuses what is too large by the length it announces, before any of it is read. */
final class BodyLimit
{
    public function handle(Request $request, Closure $next): Response
    {
        $remedy = Upload::remedy($request);
        $most = (int) config($remedy === null ? 'yard.largest_change' : 'yard.largest_upload');
        if (Upload::announced($request) > $most) {
            return Refusal::saying(413, 'file', sprintf('This is larger than %d MB, the most that can be taken in.', intdiv($most, 1024 * 1024)), $remedy ?? 'Make it smaller.');
        }

        return $next($request);
    }
}
