<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Problem;

/** A file that is read in the background: what is known of how it goes, kept beside it for whoever brought it in. */
final readonly class Reading
{
    public function __construct(public string $key)
    {
    }

    public function path(): string
    {
        return YardFiles::path('incoming/'.basename($this->key));
    }

    /** Whether it is still to be read: whoever brought it in may have called it off. */
    public function isWanted(): bool
    {
        clearstatcache(true, $this->path());

        return is_file($this->path());
    }

    public function callOff(): void
    {
        @unlink($this->path());
        @unlink($this->path().'.told');
    }

    /** @param  float|null  $share  done, 0…1, as far as that can be told */
    public function tell(string $what, ?float $share): void
    {
        YardFiles::write('incoming/'.basename($this->key).'.told', (string) json_encode(['what' => $what, 'share' => $share]));
    }

    /** @return array{what: string, share: float|null}|null */
    public function told(): ?array
    {
        $told = json_decode((string) @file_get_contents($this->path().'.told'), true);

        return is_array($told) ? ['what' => (string) $told['what'], 'share' => $told['share'] === null ? null : (float) $told['share']] : null;
    }

    /** @param  array<string, mixed>  $result  what came of it, or a problem */
    public function finish(array $result): void
    {
        YardFiles::write('incoming/'.basename($this->key).'.json', (string) json_encode($result));
        $this->callOff();
    }

    public function fail(Problem $problem): void
    {
        $this->finish($problem->toArray());
    }

    /**
     * @return array<string, mixed>|null what came of it; null where it still goes on
     *
     * @throws Problem where it could not be read
     */
    public function result(): ?array
    {
        $said = @file_get_contents($this->path().'.json');
        $result = $said === false ? null : json_decode($said, true);

        return is_array($result) && isset($result['kind']) ? throw Problem::fromArray($result) : $result;
    }
}
