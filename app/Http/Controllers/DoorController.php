<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Door;
use App\Http\Refusal;
use App\Storage\YardFiles;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Facades\Storage;
use Symfony\Component\HttpFoundation\Cookie;

/** Signs in with the yard's pass phrase. */
final class DoorController
{
    /** Tries a minute: of one address, and of all. */
    private const TRIES = ['one' => 5, 'all' => 50];

    public function signIn(Request $request): JsonResponse
    {
        $keys = ['one' => 'door-'.($request->header('X-Real-IP') ?? $request->ip()), 'all' => 'door'];
        if (! self::mayTry($keys)) {
            return Refusal::saying(429, 'busy', 'That was tried too often.', 'Wait a minute, then try again.');
        }
        $door = Door::at(Storage::disk()->path(''));
        $pass = $request->input('pass');
        if (! is_string($pass) || ! $door->opens($pass)) {
            return Refusal::saying(401, 'sign-in', 'That is not the pass phrase of this yard.', 'Try again, or ask whoever started it.');
        }
        RateLimiter::clear($keys['one']);
        RateLimiter::decrement($keys['all']);
        $secure = $request->isSecure() || $request->header('X-Forwarded-Proto') === 'https';

        return response()->json(['signedIn' => true])->withCookie(Cookie::create(Door::COOKIE, $door->token(), time() + Door::LASTS, '/', null, $secure, true, false, Cookie::SAMESITE_STRICT));
    }

    /**
     * Counts a try before it is looked at, one request at a time: those sent side by side count like those sent in turn.
     *
     * @param  array{one: string, all: string}  $keys
     */
    private static function mayTry(array $keys): bool
    {
        $turn = YardFiles::lock('sign-in');
        flock($turn, LOCK_EX);
        try {
            // Who has had all tries of its own takes none from the others.
            return RateLimiter::hit($keys['one']) <= self::TRIES['one'] && RateLimiter::hit($keys['all']) <= self::TRIES['all'];
        } finally {
            fclose($turn);
        }
    }
}
