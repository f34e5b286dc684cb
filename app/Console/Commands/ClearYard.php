<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Yard\Clearing;
use Illuminate\Console\Command;

final class ClearYard extends Command
{
    protected $signature = 'yard:clear';

    protected $description = 'Clears what nothing refers to any more and has lain for its time';

    public function handle(Clearing $clearing): int
    {
        $clearing->clear((int) config('yard.clear_after'));

        return self::SUCCESS;
    }
}
