<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Push;

use YardBreak\Core\Entry;
use YardBreak\Core\Problem;

/** What pieces are sent off with as they are let go. It holds its values at that moment. */
interface Push extends Entry
{
    /**
     * @param  array<string, mixed>  $values  by option name
     *
     * @throws Problem where values do not fit each other
     */
    public static function of(array $values): self;

    public function on(Leaving $piece): Sent;
}
