<?php

declare(strict_types=1);

namespace App\Providers;

use App\Database\ImmediateSqliteConnector;
use App\Storage\AssetStore;
use Illuminate\Support\ServiceProvider;
use YardBreak\Core\Shot\AssetSource;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind('db.connector.sqlite', ImmediateSqliteConnector::class);
        $this->app->bind(AssetSource::class, AssetStore::class);
    }
}
