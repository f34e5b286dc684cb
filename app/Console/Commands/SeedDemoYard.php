<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Shot;
use App\Yard\NewShot;
use Illuminate\Console\Command;

final class SeedDemoYard extends Command
{
    protected $signature = 'yard:demo';

    protected $description = 'Puts the demo shots of Fennel Row Glasshouse into an empty yard';

    public function handle(NewShot $new): int
    {
        if (Shot::withTrashed()->exists()) {
            return self::SUCCESS;
        }
        foreach (array_reverse(NewShot::DEMO) as $name) {
            $this->line('Demo shot: '.$new->demo($name)->name);
        }

        return self::SUCCESS;
    }
}
