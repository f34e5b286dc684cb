<?php

declare(strict_types=1);

namespace YardBreak\Core;

/** What can be another value at every frame. */
interface Keyable extends Kind
{
}
