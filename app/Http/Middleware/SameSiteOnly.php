<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * A page of another site can make a browser send simple requests here, but not ones with a header of its own
 * without asking first; this application never answers such a question.
 */
final class SameSiteOnly
{
    public function handle(Request $request, Closure $next): Response
    {
        if (! $request->isMethodSafe() && $request->header('X-Yard') === null) {
            return response()->json(['problem' => ['kind' => 'forbidden', 'message' => 'This request did not come from Yard Break.', 'path' => '', 'remedy' => 'Send the header X-Yard.']], 403);
        }

        return $next($request);
    }
}
