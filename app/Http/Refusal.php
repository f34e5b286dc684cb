<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Http\JsonResponse;
use Symfony\Component\HttpFoundation\Response;

/** Every error of the API in one form, with what to do about it. */
final class Refusal
{
    private const WORDS = [
        403 => ['forbidden', 'This request did not come from Yard Break.', 'Open Yard Break at its own address.'],
        404 => ['missing', 'That is no longer there.', 'Go back to the yard.'],
        405 => ['request', 'This address does not take such a request.', 'Reload the page.'],
        413 => ['file', 'That is larger than can be taken in.', 'Make it smaller, or send it in parts.'],
        422 => ['value', 'Something in this request is missing or of the wrong kind.', 'Reload the page.'],
        429 => ['busy', 'That was tried too often.', 'Wait a minute, then try again.'],
    ];

    public static function of(Response $response): Response
    {
        $status = $response->getStatusCode();
        if ($status < 400) {
            return $response;
        }
        [$kind, $message, $remedy] = self::WORDS[$status] ?? ($status < 500
            ? ['request', 'This request cannot be answered.', 'Reload the page.']
            : ['internal', 'Something went wrong inside Yard Break.', 'Try again. If it goes on, the log of the yard says more.']);

        return self::saying($status, $kind, $message, $remedy);
    }

    public static function saying(int $status, string $kind, string $message, string $remedy): JsonResponse
    {
        return response()->json(['problem' => ['kind' => $kind, 'message' => $message, 'path' => '', 'remedy' => $remedy, 'place' => null]], $status);
    }
}
