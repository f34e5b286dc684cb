<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;

/** A way to take a solid apart. */
interface Pattern
{
    public static function label(): string;

    /** What it does, in a few words. */
    public static function meaning(): string;

    /** @return list<Option> */
    public static function options(): array;

    /**
     * @param  array<string, mixed>  $values  by option name, checked against the options
     *
     * @throws Problem where values do not fit each other
     */
    public static function of(array $values): self;

    /**
     * @param  Mesh  $solid  closed, consistently oriented, normals present
     * @return list<Shard> closed pieces that fill the solid without gap or overlap
     *
     * @throws Problem where the solid cannot be broken
     */
    public function break(Mesh $solid, Progress $progress): array;
}
