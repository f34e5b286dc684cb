<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\Mesh;

/** What a mesh file held. */
final readonly class MeshFile
{
    /**
     * @param  list<string>  $groups  names found in the file
     * @param  list<float>|null  $colour  linear red, green and blue, 0…1
     * @param  list<string>  $notes  what was left out or mended, in words
     */
    public function __construct(public Mesh $mesh, public array $groups = [], public ?array $colour = null, public array $notes = [])
    {
    }
}
