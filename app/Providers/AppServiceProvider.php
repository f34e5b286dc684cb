<?php

declare(strict_types=1);

namespace App\Providers;

use App\Database\ImmediateSqliteConnector;
use App\Storage\AssetStore;
use App\Storage\MeshStore;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Support\Facades\Vite;
use Illuminate\Support\ServiceProvider;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PreparedMeshes;
use YardBreak\Core\Shot\PropMaker;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind('db.connector.sqlite', ImmediateSqliteConnector::class);
        $this->app->bind(AssetSource::class, AssetStore::class);
        $this->app->bind(PreparedMeshes::class, MeshStore::class);
        $this->app->bind(PropMaker::class, static fn (Application $app): PropMaker => new PropMaker($app->make(AssetSource::class), $app->make(PreparedMeshes::class)));
    }

    public function boot(): void
    {
        // Found from wherever the page itself was, behind a proxy or under a path too.
        Vite::createAssetPathsUsing(static fn (string $path): string => $path);
    }
}
