<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** Says how long an answer is: one that breaks off on its way is then known as such, and not taken, or kept, for the whole. */
final class Measured
{
    /** @param  Closure(Request): Response  $next */
    public function handle(Request $request, Closure $next): Response
    {
        $response = $next($request);
        if (! $response instanceof StreamedResponse && ! $response instanceof BinaryFileResponse && ! $response->isEmpty() && ! $response->headers->has('Content-Length')) {
            $response->headers->set('Content-Length', (string) strlen((string) $response->getContent()));
        }

        return $response;
    }
}
