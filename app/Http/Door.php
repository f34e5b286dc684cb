<?php

declare(strict_types=1);

namespace App\Http;

/**
 * Who may come in: names the yard answers to, pages it takes changes from, and who knows the pass phrase, if it has one.
 * It needs no framework, for small answers are given before that is loaded, behind the same door.
 */
final class Door
{
    public const COOKIE = 'yard';

    /** Seconds a sign-in lasts. */
    public const LASTS = 30 * 86400;

    /** Letters a pass phrase has at least. */
    public const SHORTEST = 8;

    private const FILE = '/door.json';

    /** All that is shown to whoever has not said the pass phrase: the page with its own files, and where it is said. */
    private const OPEN = '#^/(|up|icon\.svg|build/.+|shots/[0-9a-z]{26}|api/sign-in)$#D';

    /**
     * @param  list<string>  $names  it answers to beside those of this machine
     * @param  string|null  $hash  of the pass phrase, empty where there is none; null where that cannot be told
     */
    private function __construct(private readonly array $names, private readonly ?string $hash, private readonly string $secret)
    {
    }

    /** @param  string  $folder  of the yard's files */
    public static function at(string $folder): self
    {
        $kept = json_decode((string) @file_get_contents($folder.self::FILE), true);
        [$names, $hash, $secret] = is_array($kept) ? [$kept['names'] ?? null, $kept['hash'] ?? null, $kept['secret'] ?? null] : [null, null, null];
        if (! is_array($names) || ! is_string($hash) || ! is_string($secret) || $secret === '') {
            return new self([], null, '');
        }

        return new self(array_values(array_map(strtolower(...), array_filter($names, is_string(...)))), $hash, $secret);
    }

    /**
     * Sets what the yard answers to, and its pass phrase; who was signed in stays so where that is the same. Whoever reads
     * it meanwhile finds the old or the new whole.
     *
     * @param  list<string>  $names
     * @param  string  $pass  empty for none
     * @return bool whether it could be written
     */
    public static function set(string $folder, array $names, string $pass): bool
    {
        $now = self::at($folder);
        $same = $pass !== '' && $now->opens($pass);
        $part = $folder.self::FILE.'.part-'.getmypid();
        $bytes = (string) json_encode(['names' => $names, 'hash' => $same ? $now->hash : ($pass === '' ? '' : password_hash($pass, PASSWORD_DEFAULT)), 'secret' => $same ? $now->secret : bin2hex(random_bytes(32))]);
        $good = @file_put_contents($part, $bytes) === strlen($bytes) && chmod($part, 0o600) && @rename($part, $folder.self::FILE);
        @unlink($part);

        return $good;
    }

    /** Whether something stands where the door is kept that cannot be read as one. */
    public static function isDamaged(string $folder): bool
    {
        return is_file($folder.self::FILE) && ! self::at($folder)->isKnown();
    }

    /**
     * @param  array<string, mixed>  $server  as PHP gives it
     * @param  array<mixed>  $cookies
     * @return array{int, string, string, string}|null status, kind, message and remedy; null where the request may come in
     */
    public function refusal(array $server, array $cookies): ?array
    {
        if (! $this->isKnown()) {
            return [503, 'door', 'The door of this yard cannot be read, so nobody comes in.', 'Stop bin/start and start it again: it sets the door anew.'];
        }
        $host = strtolower((string) ($server['HTTP_HOST'] ?? ''));
        if (! $this->answersTo(self::nameOf($host))) {
            return [403, 'forbidden', 'Yard Break does not answer to this name.', 'Open it at its own address, or start it with --name for this one.'];
        }
        $safe = in_array($server['REQUEST_METHOD'] ?? 'GET', ['GET', 'HEAD', 'OPTIONS'], true);
        $origin = strtolower((string) ($server['HTTP_ORIGIN'] ?? ''));
        $site = (string) ($server['HTTP_SEC_FETCH_SITE'] ?? 'same-origin');
        if (! $safe && (($origin !== '' && ! $this->isOwn($origin, $host)) || ! in_array($site, ['same-origin', 'none'], true))) {
            return [403, 'forbidden', 'This request did not come from Yard Break.', 'Open Yard Break at its own address.'];
        }
        $path = Address::of($server);
        if ($path === null) {
            return [404, 'missing', 'There is nothing at this address.', 'Go back to the yard.'];
        }
        if ($this->hasPass() && preg_match(self::OPEN, $path) !== 1 && ! $this->knows(is_string($cookies[self::COOKIE] ?? null) ? $cookies[self::COOKIE] : '')) {
            return [401, 'sign-in', 'This yard asks for its pass phrase.', 'Sign in.'];
        }

        return null;
    }

    public function hasPass(): bool
    {
        return $this->hash !== '';
    }

    public function opens(string $pass): bool
    {
        return $this->hash !== null && $this->hash !== '' && password_verify($pass, $this->hash);
    }

    private function isKnown(): bool
    {
        return $this->hash !== null;
    }

    /** What a browser that signed in keeps. */
    public function token(): string
    {
        $until = (string) (time() + self::LASTS);

        return $until.'.'.hash_hmac('sha256', $until, $this->secret);
    }

    private function knows(string $token): bool
    {
        [$until, $mark] = explode('.', $token, 2) + [1 => ''];

        return ctype_digit($until) && (int) $until > time() && hash_equals(hash_hmac('sha256', $until, $this->secret), $mark);
    }

    /** A name somebody else could point at this machine is not its own; an address is. */
    private function answersTo(string $name): bool
    {
        return $name === 'localhost' || str_ends_with($name, '.localhost') || filter_var(trim($name, '[]'), FILTER_VALIDATE_IP) !== false || in_array($name, $this->names, true);
    }

    /** Whether a page comes from here: from the very address asked, or from a name that was set, as a proxy shows it. */
    private function isOwn(string $origin, string $host): bool
    {
        $from = (string) preg_replace('#^https?://#', '', $origin);

        return $from === $host || in_array(self::nameOf($from), $this->names, true);
    }

    private static function nameOf(string $host): string
    {
        return (string) preg_replace('/:\d+$/', '', $host);
    }
}
