<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Problem;

/** Where the mesh files a shot names are kept. */
interface AssetSource
{
    /**
     * @return string the path of a readable local file
     *
     * @throws Problem where the asset is missing
     */
    public function path(string $asset): string;
}
