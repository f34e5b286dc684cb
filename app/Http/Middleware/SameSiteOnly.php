<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Http\Refusal;
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
            return Refusal::saying(403, 'forbidden', 'This request did not come from Yard Break.', 'Send the header X-Yard.');
        }

        return $next($request);
    }
}
