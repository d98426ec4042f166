<?php

declare(strict_types=1);

namespace App\Console;

use App\Database\Vacuum;
use App\Disk\Room;
use App\Disk\Spool;
use App\Models\Upload;
use App\Runs\Keeper;
use App\Serving\Configuration;
use Database\Seeders\DatabaseSeeder;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use RuntimeException;
use Throwable;

/** Brings a data folder to this version and makes ready what serves it. Only when nobody else has the folder, as bin/up sees to. */
final class Prepare extends Command
{
    protected $signature = 'isotome:prepare {host} {port} {--php=* : Switches of PHP for what is started} {--demo : Make the demo shelf}';

    protected $description = 'Migrates the database, makes the demo shelf, writes the configuration of the web server';

    public function handle(Room $room, Vacuum $vacuum, Keeper $keeper, Configuration $configuration, Spool $spool): int
    {
        try {
            $this->canBeWritten();
            if ($room->free() < 64_000_000) {
                $this->warn(sprintf('The disk that holds Isotome\'s data is full, or nearly so: %d MB are free; remove projects or free space.', intdiv($room->free(), 1_000_000)));
            }
            $room->makeStartPossible();
            $vacuum->prepare($room->free(), fn () => $this->line('Rewriting the database once, so that the room of removed projects goes back to the disk from now on'));
            if (Artisan::call('migrate', ['--force' => true]) !== 0) {
                throw new RuntimeException(trim(Artisan::output()));
            }
            $configuration->write((string) $this->argument('host'), (int) $this->argument('port'), array_values(array_map(strval(...), (array) $this->option('php'))));
            if ($this->option('demo')) {
                app(DatabaseSeeder::class)->setContainer($this->laravel)->setCommand($this)->__invoke();
            }
            // Nobody is at work: what was fetched is free again at once.
            DB::table('jobs')->whereNotNull('reserved_at')->update(['reserved_at' => null]);
            $keeper->look();
            Upload::sweep();
            $spool->sweep();
            $room->keepReserve();
        } catch (Throwable $error) {
            $full = $room->refusal($error);
            if ($full !== null) {
                // Removing projects must be possible, and needs the server.
                $this->warn($full->getMessage());
            } else {
                $this->error($error->getMessage());

                return self::FAILURE;
            }
        }
        Artisan::call('config:cache');
        Artisan::call('route:cache');

        return self::SUCCESS;
    }

    private function canBeWritten(): void
    {
        $path = storage_path('written');
        if (@file_put_contents($path, 'x') !== 1 && (new Room)->free() > 1_000_000) {
            throw new RuntimeException('The data folder '.dirname(storage_path()).' cannot be written; check whose it is, or choose another with --data.');
        }
        @unlink($path);
    }
}
