<?php

declare(strict_types=1);

namespace YardBreak\Core;

/** What the values of an option are. */
interface Kind
{
    /** What it is called, for whoever draws a control for it. */
    public static function name(): string;

    /**
     * @return mixed the value in the form the option's owner takes
     *
     * @throws Problem where it is none of this kind, or out of the option's range
     */
    public static function checked(Option $option, mixed $value): mixed;
}
