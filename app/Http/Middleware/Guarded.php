<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Http\Address;
use App\Http\Door;
use App\Http\Refusal;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Facades\Vite;
use Symfony\Component\HttpFoundation\Response;

/** Keeps out who is not meant to come in, and tells browsers to load and run nothing but what is the yard's own. */
final class Guarded
{
    public function handle(Request $request, Closure $next): Response
    {
        $nonce = Vite::useCspNonce();
        $server = $request->server->all();
        // What is routed must be what the door has looked at.
        $refusal = Door::at(Storage::disk()->path(''))->refusal($server, $request->cookies->all()) ?? ($request->getPathInfo() === Address::of($server) ? null : [404, 'missing', 'There is nothing at this address.', 'Go back to the yard.']);
        $response = $refusal === null ? $next($request) : Refusal::saying(...$refusal);
        $response->headers->add([
            'Content-Security-Policy' => "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-$nonce'; img-src 'self' blob:; font-src 'self'; connect-src 'self'; base-uri 'self'; form-action 'self'; frame-ancestors 'none'",
            'X-Content-Type-Options' => 'nosniff',
            'X-Frame-Options' => 'DENY',
            'Referrer-Policy' => 'same-origin',
            'Cross-Origin-Opener-Policy' => 'same-origin',
        ]);

        return $response;
    }
}
