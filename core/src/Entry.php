<?php

declare(strict_types=1);

namespace YardBreak\Core;

/** What can be chosen from a catalogue: it says itself what it is called, what it does, and what can be set of it. */
interface Entry
{
    public static function label(): string;

    /** What it does, in a few words. */
    public static function meaning(): string;

    /** @return list<Option> */
    public static function options(): array;
}
