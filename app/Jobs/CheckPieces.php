<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Meshes\MeshStore;
use App\Meshes\StoreAhead;
use App\Models\Check;
use App\Models\Piece;
use App\Models\Run;
use Isotome\Check\PlacedReport;
use Isotome\Check\Report;

/** The whole check of pieces, crossing and inner faces included; a mesh that was checked before is not checked again. */
final class CheckPieces extends LongWork
{
    protected function work(Run $run, StoreAhead $ahead): \Closure
    {
        $store = new MeshStore;
        /** @var list<Piece> $pieces */
        $pieces = $run->project->pieces()->with('mesh')->whereIn('id', (array) $run->settings['pieces'])
            ->whereNotIn('mesh_hash', Check::query()->select('mesh_hash'))->get()->all();
        $reports = [];
        $unsound = 0;
        foreach ($pieces as $n => $piece) {
            if (isset($reports[$piece->mesh_hash])) {
                continue;
            }
            $part = fn (float $share) => $this->report('checking '.$piece->name, 0.9 * ($n + $share) / count($pieces));
            $part(0.0);
            $report = Report::of($store->get($piece->mesh), 0, true, null, $part);
            $reports[$piece->mesh_hash] = PlacedReport::of($report);
            $unsound += $report->isSound() ? 0 : 1;
        }

        return static function () use ($reports, $unsound): string {
            foreach ($reports as $hash => $report) {
                Check::query()->insertOrIgnore(['mesh_hash' => $hash, 'report' => json_encode($report, JSON_THROW_ON_ERROR), 'created_at' => now()]);
            }

            return match (true) {
                $reports === [] => 'Checked before; nothing has changed since.',
                $unsound === 0 => count($reports) === 1 ? 'Checked: sound.' : 'Checked: all '.count($reports).' are sound.',
                default => count($reports) === 1 ? 'Checked: there are faults.' : "Checked: $unsound of ".count($reports).' have faults.',
            };
        };
    }
}
