<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Shot;
use App\Yard\NewShot;
use App\Yard\StartBake;
use Illuminate\Console\Command;

final class SeedDemoYard extends Command
{
    protected $signature = 'yard:demo';

    protected $description = 'Puts the demo shots of Fennel Row Glasshouse into an empty yard, and has them baked';

    public function handle(NewShot $new): int
    {
        if (Shot::withTrashed()->exists()) {
            return self::SUCCESS;
        }
        $shots = array_map($new->demo(...), array_reverse(NewShot::DEMO));
        // The first in the list is baked first.
        foreach (array_reverse($shots) as $shot) {
            $this->line('Demo shot: '.$shot->name);
            StartBake::of($shot);
        }

        return self::SUCCESS;
    }
}
