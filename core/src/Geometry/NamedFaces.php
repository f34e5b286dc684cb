<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** What faces of a mesh file can be named by. */
enum NamedFaces: string
{
    case Group = 'group';
    case Material = 'material';
}
