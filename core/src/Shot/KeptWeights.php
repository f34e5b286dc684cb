<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** Keeps what single sources gave, so that what is made of it can change without measuring again. */
interface KeptWeights
{
    /** @return list<float>|null */
    public function recall(string $of): ?array;

    /** @param  list<float>  $values */
    public function keep(string $of, array $values): void;
}
