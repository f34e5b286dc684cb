<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Http\Door;
use App\Storage\YardFiles;
use Illuminate\Console\Command;

/** The pass phrase comes from the environment, so that no list of processes shows it. */
final class SetDoor extends Command
{
    protected $signature = 'yard:door {--name=* : A name the yard answers to beside those of this machine}';

    protected $description = 'Sets the names the yard answers to, and its pass phrase from YARD_PASS, if any';

    public function handle(): int
    {
        $pass = (string) getenv('YARD_PASS');
        if ($pass !== '' && mb_strlen($pass) < Door::SHORTEST) {
            $this->error('The pass phrase must have at least '.Door::SHORTEST.' letters.');

            return self::FAILURE;
        }
        $folder = dirname(YardFiles::path('door.json'));
        if (Door::isDamaged($folder)) {
            $this->warn('The door could not be read, so nobody came in; it is set anew, and everyone signs in again.');
        }
        if (! Door::set($folder, array_values(array_filter((array) $this->option('name'))), $pass)) {
            $this->error('The door could not be written to '.$folder.': the disk is full, or the folder is closed to writing.');

            return self::FAILURE;
        }

        return self::SUCCESS;
    }
}
