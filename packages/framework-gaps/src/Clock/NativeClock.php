<?php

declare(strict_types=1);

namespace Symfony\Component\Clock;

final class NativeClock implements ClockInterface
{
    public function __construct(private readonly \DateTimeZone $zone = new \DateTimeZone('UTC'))
    {
    }

    public function now(): \DateTimeImmutable
    {
        return new \DateTimeImmutable('now', $this->zone);
    }

    public function sleep(float|int $seconds): void
    {
        usleep((int) round($seconds * 1e6));
    }

    public function withTimeZone(\DateTimeZone|string $timezone): static
    {
        return new self($timezone instanceof \DateTimeZone ? $timezone : new \DateTimeZone($timezone));
    }
}
