<?php

declare(strict_types=1);

namespace YardBreak\Core;

/**
 * Something wrong with what was asked for, said in words an artist can act on.
 *
 * `kind` is stable and short (for programs), `path` points into the shot document
 * (`props[2].break.count`) or names a file, `remedy` says what to do next, `place` is where, in the prop's own
 * coordinates.
 */
final class Problem extends \RuntimeException
{
    public const OFF = 'off';

    public const DAMAGED = 'damaged';

    public const FULL = 'full';

    public const DISK = 'disk';

    /** Bytes below which a disk counts as full, whatever was to be written. */
    private const LEAST_ROOM = 100_000;

    /** @param  array{float, float, float}|null  $place */
    public function __construct(
        public readonly string $kind,
        string $message,
        public readonly string $path = '',
        public readonly string $remedy = '',
        public readonly ?array $place = null,
    ) {
        parent::__construct($message);
    }

    public static function inFile(string $message, string $remedy = ''): self
    {
        return new self('file', $message, '', $remedy);
    }

    /** @param  array{float, float, float}|null  $place */
    public static function inMesh(string $message, string $remedy = '', ?array $place = null): self
    {
        return new self('mesh', $message, '', $remedy, $place);
    }

    /** @param  array{float, float, float}|null  $place */
    public static function inValue(string $path, string $message, string $remedy = '', ?array $place = null): self
    {
        return new self('value', $message, $path, $remedy, $place);
    }

    /**
     * A cut that does not meet what it is to cut.
     *
     * @param  array{float, float, float}|null  $place
     */
    public static function offTheProp(string $path, string $message, string $remedy = '', ?array $place = null): self
    {
        return new self(self::OFF, $message, $path, $remedy, $place);
    }

    public static function outOfRange(string $path, string $name, float|int $value, string $allowed): self
    {
        return new self('value', sprintf('%s is %s; it must be %s.', $name, self::number($value), $allowed), $path, 'Enter a value '.$allowed.'.');
    }

    public static function onDisk(string $message, string $remedy = ''): self
    {
        return new self(self::DISK, $message, '', $remedy);
    }

    /** Something that was kept is no longer what it was; whoever meets this makes it again where that can be done. */
    public static function damaged(string $message): self
    {
        return new self(self::DAMAGED, $message, '', 'Bake again.');
    }

    /**
     * What is said wherever something cannot be written, in the same words.
     *
     * @param  string  $path  of the file or folder
     * @param  int  $bytes  that it was to take, as far as that is known
     */
    public static function notWritten(string $path, int $bytes = 0): self
    {
        for ($folder = $path; $folder !== dirname($folder) && ! is_dir($folder);) {
            $folder = dirname($folder);
        }
        $free = @disk_free_space($folder);
        $wanted = max($bytes, self::LEAST_ROOM);
        if ($free === false || $free >= $wanted) {
            return self::onDisk(
                'Nothing could be written although the disk has room: the folder of the yard is closed to writing.',
                'Give whoever runs Yard Break the right to write there, then try again.',
            );
        }

        return self::full((int) $free, $wanted);
    }

    /** @param  int  $wanted  bytes */
    public static function full(int $free, int $wanted): self
    {
        return new self(
            self::FULL,
            sprintf('The disk is full: %s wanted, %s free.', self::megabytes($wanted), self::megabytes($free)),
            '',
            'Make room: delete shots, clear what the yard can make again, or move other files away. What waits goes on by itself.',
        );
    }

    private static function megabytes(int $bytes): string
    {
        return number_format($bytes / 1e6, $bytes < 10e6 ? 1 : 0).' MB';
    }

    public static function cancelled(): self
    {
        return new self('cancelled', 'Stopped before it was done.');
    }

    public function at(string $path): self
    {
        return new self($this->kind, $this->getMessage(), $this->path === '' ? $path : $path.'.'.$this->path, $this->remedy, $this->place);
    }

    /** The same, about another place in the document. */
    public function about(string $path): self
    {
        return new self($this->kind, $this->getMessage(), $path, $this->remedy, $this->place);
    }

    /** @return array{kind: string, message: string, path: string, remedy: string, place: array{float, float, float}|null} */
    public function toArray(): array
    {
        return ['kind' => $this->kind, 'message' => $this->getMessage(), 'path' => $this->path, 'remedy' => $this->remedy, 'place' => $this->place];
    }

    /** @param  array{kind: string, message: string, path: string, remedy: string, place?: array{float, float, float}|null}  $kept  as from toArray */
    public static function fromArray(array $kept): self
    {
        return new self($kept['kind'], $kept['message'], $kept['path'], $kept['remedy'], $kept['place'] ?? null);
    }

    private static function number(float|int $value): string
    {
        return match (true) {
            is_int($value) => (string) $value,
            abs($value) >= 1e12 => sprintf('%.3g', $value),
            default => rtrim(rtrim(sprintf('%.6f', $value), '0'), '.'),
        };
    }
}
