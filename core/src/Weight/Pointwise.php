<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** A source that depends on the place alone, and so can be asked anywhere. */
interface Pointwise extends Anywhere, Source
{
}
