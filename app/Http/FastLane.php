<?php

declare(strict_types=1);

namespace App\Http;

use App\Storage\FrameStore;
use App\Storage\MapPath;
use PDO;

/**
 * Answers that many ask for often, given before the framework is loaded: how far a bake is, its frames and figures, and
 * the files the page is built of. They read one row or one file each.
 */
final class FastLane
{
    private const FOR_GOOD = 'private, max-age=31536000, immutable';

    private const KINDS = ['js' => 'text/javascript', 'css' => 'text/css', 'woff2' => 'font/woff2', 'woff' => 'font/woff', 'svg' => 'image/svg+xml', 'json' => 'application/json', 'png' => 'image/png'];

    /** Frames sent at once. */
    private const MOST_FRAMES = 96;

    /** Bytes below which a disk counts as full. */
    private const FULL = 2_000_000;

    /** Seconds without getting on after which it is said why. */
    private const STALLED = 20;

    /** Bytes sent at once, about. */
    private const MOST_BYTES = 16_000_000;

    /** @param  array{int, array<string, string>, string}  $answer */
    public static function send(array $answer): void
    {
        [$status, $headers, $body] = $answer;
        http_response_code($status);
        // That the reader knows one that broke off on its way from a whole one.
        $length = $status === 304 ? [] : ['Content-Length' => (string) strlen($body)];
        foreach (['X-Content-Type-Options' => 'nosniff'] + $length + $headers as $name => $value) {
            header($name.': '.$value);
        }
        echo $body;
    }

    public function __construct(private readonly string $public, private readonly string $files, private readonly string $database)
    {
    }

    /**
     * @param  array<string, mixed>  $server
     * @param  array<string, mixed>  $query
     * @param  array<mixed>  $cookies
     * @return array{int, array<string, string>, string}|null status, headers and body; null where it is not for this
     */
    public function answer(array $server, array $query, array $cookies): ?array
    {
        $path = Address::of($server);
        if ($path === null || ! in_array($server['REQUEST_METHOD'] ?? '', ['GET', 'HEAD'], true) || Door::at($this->files)->refusal($server, $cookies) !== null) {
            return null;
        }
        if (preg_match('#^/(build/.+|icon\.svg)$#D', $path) === 1 && is_file($this->public.$path)) {
            return $this->file($this->public.$path, $server);
        }
        if (preg_match('#^/api/maps/frames/([0-9a-f]{32})$#D', $path, $found) === 1 && ($weights = MapPath::read($this->files, $found[1])) !== null) {
            return [200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => self::FOR_GOOD], $weights];
        }
        if (preg_match('#^/api/bakes/([0-9a-z]{26})/(state|frames|figures)$#D', $path, $found) !== 1) {
            return null;
        }
        $bake = $this->bake($found[1]);
        if ($bake === null) {
            return null;
        }
        $from = is_string($query['from'] ?? null) ? max(0, (int) $query['from']) : 0;

        return match ($found[2]) {
            'state' => self::said($bake),
            'frames' => $this->frames($bake, $from, is_string($query['count'] ?? null) ? (int) $query['count'] : self::MOST_FRAMES, $server),
            default => $this->figures($bake, $from),
        };
    }

    /**
     * @param  array<string, mixed>  $server
     * @return array{int, array<string, string>, string}
     */
    private function file(string $path, array $server): array
    {
        $tag = '"'.dechex((int) filemtime($path)).'-'.dechex((int) filesize($path)).'"';
        $headers = ['Cache-Control' => 'public, max-age=31536000, immutable', 'ETag' => $tag, 'Content-Type' => self::KINDS[pathinfo($path, PATHINFO_EXTENSION)] ?? 'application/octet-stream'];

        return ($server['HTTP_IF_NONE_MATCH'] ?? '') === $tag ? [304, $headers, ''] : [200, $headers, (string) file_get_contents($path)];
    }

    /** @return array{id: string, state: string, first: int, framesDone: int, pieces: int, counts: mixed, seconds: float, note: string, problem: mixed, stalled: string}|null */
    private function bake(string $id): ?array
    {
        $db = new PDO('sqlite:'.$this->database, null, null, [PDO::SQLITE_ATTR_OPEN_FLAGS => PDO::SQLITE_OPEN_READONLY, PDO::ATTR_TIMEOUT => 5]);
        $rows = $db->prepare('select id, state, first, frames_done as framesDone, pieces, counts, seconds, note, problem, updated_at as at from bakes where id = ?');
        $rows->execute([$id]);
        $bake = $rows->fetch(PDO::FETCH_ASSOC);

        if ($bake === false) {
            return null;
        }
        $stalled = self::stalled($bake['state'], $bake['at'], $bake['note'], $this->database);
        unset($bake['at']);
        $bake['counts'] = json_decode((string) $bake['counts'], true);

        return ['stalled' => $stalled, 'seconds' => round((float) $bake['seconds'], 2), 'problem' => json_decode((string) $bake['problem'], true)] + $bake;
    }

    /**
     * @param  string  $at  when it last got on, UTC
     * @param  string  $database  where progress is written
     * @return string why a bake gets no further, in words; empty where it does
     */
    public static function stalled(string $state, string $at, string $note, string $database): string
    {
        $since = time() - (int) strtotime($at.' UTC');

        return match (true) {
            $since < self::STALLED => '',
            in_array($state, ['queued', 'running'], true) && @disk_free_space(dirname($database)) < self::FULL => 'The disk is full. It goes on by itself when there is room.',
            $state === 'queued' => 'No worker has taken it up: all of them are busy, or none is running. Check that bin/start is still running.',
            $state === 'running' => ($note === '' ? 'It has not got on' : $note.' has taken').' for '.$since.' s: this is much work, or its worker was stopped. Another takes it up within seconds if one is running.',
            default => '',
        };
    }

    /**
     * @param  array<mixed>  $body
     * @return array{int, array<string, string>, string}
     */
    private static function said(array $body): array
    {
        return [200, ['Content-Type' => 'application/json', 'Cache-Control' => 'no-store'], (string) json_encode($body)];
    }

    /**
     * @param  array{id: string, first: int, framesDone: int}  $bake
     * @param  array<string, mixed>  $server
     * @return array{int, array<string, string>, string}|null null where some of them are damaged
     */
    private function frames(array $bake, int $from, int $count, array $server): ?array
    {
        $some = max(0, min($count, self::MOST_FRAMES, $bake['framesDone'] - $from));
        // Frames that are there never change, but fewer than were asked for may become more.
        $good = $some === $count;
        $headers = ['Content-Type' => 'application/octet-stream', 'Cache-Control' => $good ? self::FOR_GOOD : 'no-store', 'ETag' => sprintf('"%s-%d-%d"', $bake['id'], $from, $some)];
        if ($good && ($server['HTTP_IF_NONE_MATCH'] ?? '') === $headers['ETag']) {
            return [304, $headers, ''];
        }

        $records = $this->store($bake)->stretch($from, $some, self::MOST_BYTES);
        $bytes = implode('', $records);

        return count($records) < $some && strlen($bytes) < self::MOST_BYTES ? null : [200, $headers, $bytes];
    }

    /**
     * @param  array{id: string, first: int, framesDone: int}  $bake
     * @return array{int, array<string, string>, string}|null null where some of them are damaged
     */
    private function figures(array $bake, int $from): ?array
    {
        $figures = $this->store($bake)->figures($from, $bake['framesDone']);

        return count($figures) < $bake['framesDone'] - $from ? null : self::said($figures);
    }

    /** @param  array{id: string, first: int}  $bake */
    private function store(array $bake): FrameStore
    {
        return new FrameStore($this->files.'/bakes/'.$bake['id'], $bake['first']);
    }
}
