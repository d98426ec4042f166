<?php

declare(strict_types=1);

namespace App\Console;

use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** For a single worker that starts: work that a killed worker had taken is free again at once. */
final class TakeUpWork extends Command
{
    protected $signature = 'isotome:take-up';

    protected $description = 'Frees work that a killed worker left behind; only right when no other worker runs';

    public function handle(): int
    {
        DB::table('jobs')->whereNotNull('reserved_at')->update(['reserved_at' => null]);

        return self::SUCCESS;
    }
}
