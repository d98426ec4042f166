<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Meshes\Sweep;
use App\Models\Project;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadRecipe;

/**
 * Undo and redo: before a change the lineage (pieces and steps, without their meshes) is kept as it is; undoing puts it back row by row.
 * Meshes stay stored as long as something that can be undone or done again needs them, so nothing is computed twice.
 */
final class History
{
    private const MOST = 60;

    /** Seconds for sweeping at once; the rest is for later. */
    private const SWEEP = 0.2;

    /** To be called in the transaction of a change, before it. */
    public function remember(Project $project, string $what): void
    {
        DB::table('history')->where('project_id', $project->id)->where('redo', true)->delete();
        $this->push($project, $what, false);
        $old = DB::table('history')->where('project_id', $project->id)->where('redo', false)->orderByDesc('id')->skip(self::MOST)->take(1000)->pluck('id');
        DB::table('history')->whereIn('id', $old)->delete();
        // Meshes that nothing needs any more are swept when the change is done.
        DB::afterCommit(static fn (): bool => (new Sweep)->some(self::SWEEP));
        $project->touch();
    }

    /** @return string what was undone */
    public function undo(Project $project): string
    {
        return $this->turn($project, false);
    }

    /** @return string what was done again */
    public function redo(Project $project): string
    {
        return $this->turn($project, true);
    }

    /** @return array{undo: string|null, redo: string|null} what can be undone and done again next */
    public function next(Project $project): array
    {
        $what = static fn (bool $redo): ?string => DB::table('history')->where('project_id', $project->id)->where('redo', $redo)->orderByDesc('id')->value('what');

        return ['undo' => $what(false), 'redo' => $what(true)];
    }

    private function turn(Project $project, bool $redo): string
    {
        return DB::transaction(function () use ($project, $redo): string {
            if ($project->isBusy()) {
                throw new BadRecipe('A step of this project is still at work; wait for it, or stop it first.');
            }
            $last = DB::table('history')->where('project_id', $project->id)->where('redo', $redo)->orderByDesc('id')->first();
            if ($last === null) {
                throw new BadRecipe($redo ? 'There is nothing to do again.' : 'There is nothing to undo; this project is as it was brought in.');
            }
            $this->push($project, $last->what, ! $redo);
            $this->restore($project, json_decode($last->state, true, 64, JSON_THROW_ON_ERROR));
            DB::table('history')->where('id', $last->id)->delete();
            DB::afterCommit(static fn (): bool => (new Sweep)->some(self::SWEEP));
            $project->touch();

            return $last->what;
        });
    }

    private function push(Project $project, string $what, bool $redo): void
    {
        $rows = static fn (string $table): array => DB::table($table)->where('project_id', $project->id)->orderBy('id')->get()->map(static fn (object $row): array => (array) $row)->all();
        $pieces = $rows('pieces');
        $id = DB::table('history')->insertGetId([
            'project_id' => $project->id, 'redo' => $redo, 'what' => mb_substr($what, 0, 160), 'created_at' => now(),
            'state' => json_encode(['steps' => $rows('steps'), 'pieces' => $pieces], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
        ]);
        foreach (array_chunk(array_unique(array_column($pieces, 'mesh_hash')), 400) as $some) {
            DB::table('history_meshes')->insert(array_map(static fn (string $hash): array => ['history_id' => $id, 'mesh_hash' => $hash], array_values($some)));
        }
    }

    /** @param  array{steps: list<array<string, mixed>>, pieces: list<array<string, mixed>>}  $state */
    private function restore(Project $project, array $state): void
    {
        DB::table('pieces')->where('project_id', $project->id)->delete();
        DB::table('steps')->where('project_id', $project->id)->delete();
        foreach (array_chunk($state['steps'], 50) as $some) {
            DB::table('steps')->insert($some);
        }
        // A parent was stored before its children.
        foreach (array_chunk($state['pieces'], 50) as $some) {
            DB::table('pieces')->insert($some);
        }
    }
}
