<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;

/** Assets of a shot file: in the folder `assets` beside it, named by their hash. */
final class LocalAssets implements AssetSource
{
    public function __construct(private readonly string $folder)
    {
    }

    public function path(string $asset): string
    {
        $path = $this->folder.'/assets/'.$asset;
        if (! is_file($path)) {
            throw Problem::inFile('The mesh '.$asset.' is missing.', 'Put it in '.$this->folder.'/assets/.');
        }

        return $path;
    }
}
