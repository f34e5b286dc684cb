<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Door;
use App\Http\Refusal;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Facades\Storage;
use Symfony\Component\HttpFoundation\Cookie;

/** Signs in with the yard's pass phrase. */
final class DoorController
{
    /** Wrong tries a minute: of one address, and of all. */
    private const TRIES = ['one' => 5, 'all' => 50];

    public function signIn(Request $request): JsonResponse
    {
        $door = Door::at(Storage::disk()->path(''));
        $keys = ['one' => 'door-'.($request->header('X-Real-IP') ?? $request->ip()), 'all' => 'door'];
        foreach ($keys as $whose => $key) {
            if (RateLimiter::tooManyAttempts($key, self::TRIES[$whose])) {
                return Refusal::saying(429, 'busy', 'That was tried too often.', 'Wait a minute, then try again.');
            }
        }
        $pass = $request->input('pass');
        if (! is_string($pass) || ! $door->opens($pass)) {
            array_map(static fn (string $key): int => RateLimiter::hit($key), $keys);

            return Refusal::saying(401, 'sign-in', 'That is not the pass phrase of this yard.', 'Try again, or ask whoever started it.');
        }
        $secure = $request->isSecure() || $request->header('X-Forwarded-Proto') === 'https';

        return response()->json(['signedIn' => true])->withCookie(Cookie::create(Door::COOKIE, $door->token(), time() + Door::LASTS, '/', null, $secure, true, false, Cookie::SAMESITE_STRICT));
    }
}
