<?php

declare(strict_types=1);

namespace App\Http;

/**
 * What a request asks for, decided once: whoever lets it in and whoever answers it must read the same path. Every path of
 * the yard has one spelling; another one, which some reader might take for it, is no address at all.
 */
final class Address
{
    /** Segments of letters, digits and - _ . that begin with no dot: nothing encoded, doubled or stepping back. */
    private const PLAIN = '#^(/|(/[A-Za-z0-9_-][A-Za-z0-9._-]*)+)$#D';

    /** The script that PHP's own server runs: a path through it would be read without it. */
    private const SCRIPT = '#^/index\.php(/|$)#i';

    /**
     * @param  array<string, mixed>  $server  as PHP gives it
     * @return string|null the path, or null where it is not in its plain form
     */
    public static function of(array $server): ?string
    {
        $asked = is_string($server['REQUEST_URI'] ?? null) ? $server['REQUEST_URI'] : '';
        $path = explode('?', $asked, 2)[0];

        return preg_match(self::PLAIN, $path) === 1 && preg_match(self::SCRIPT, $path) !== 1 ? $path : null;
    }
}
