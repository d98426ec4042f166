<?php

declare(strict_types=1);

namespace App\Console;

use App\Answers\Answers;
use App\Database\Vacuum;
use App\Disk\LogFiles;
use App\Disk\Room;
use App\Disk\Spool;
use App\Meshes\Sweep;
use App\Models\Upload;
use App\Runs\Keeper;
use App\Runs\StopSignal;
use Illuminate\Console\Command;
use Throwable;

/** Looks after what nobody else does, once a minute: forgotten runs, meshes and uploads, room on the disk, logs. */
final class Keep extends Command
{
    protected $signature = 'isotome:keep {--once : One round only}';

    protected $description = 'Looks after runs, meshes, uploads, room and logs, once a minute';

    private const SECONDS = 60;

    public function handle(Keeper $keeper, Sweep $sweep, Vacuum $vacuum, Spool $spool, Room $room, LogFiles $logs, Answers $answers): int
    {
        StopSignal::hear();
        while (! StopSignal::isGiven()) {
            foreach ([
                $keeper->look(...), Upload::sweep(...), $spool->sweep(...), $answers->sweep(...), static fn () => $sweep->some(20.0), $vacuum->some(...), $room->keepReserve(...), $logs->rotate(...),
            ] as $task) {
                try {
                    $task();
                } catch (Throwable $error) {
                    // The others go on; a full disk or a busy database is no news a minute later.
                    rescue(static fn () => report($error), report: false);
                }
            }
            if ($this->option('once')) {
                return self::SUCCESS;
            }
            for ($slept = 0.0; $slept < self::SECONDS && ! StopSignal::isGiven(); $slept += 0.5) {
                usleep(500_000);
            }
        }

        return self::SUCCESS;
    }
}
