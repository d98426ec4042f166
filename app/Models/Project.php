<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Database\Eloquent\SoftDeletes;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/**
 * One job: its stock, pieces and steps.
 *
 * @property int $id
 * @property string $name
 * @property string $file
 * @property string $units
 * @property string $note
 * @property int|null $printer_id
 * @property Printer|null $printer
 * @property array{look: string, colour?: string, mm?: float, turn?: float, picture?: string, name?: string, pixels?: list<int>}|null $inside  see App\Meshes\Insides
 * @property string|null $inside_picture
 * @property Carbon|null $updated_at
 * @property Carbon|null $deleted_at
 * @property Collection<int, Piece> $pieces
 * @property Collection<int, Step> $steps
 * @property Collection<int, Run> $runs
 */
final class Project extends Model
{
    use SoftDeletes;

    protected $fillable = ['name', 'file', 'units', 'note', 'printer_id'];

    /** @var array<string, string> */
    protected $casts = ['inside' => 'array'];

    /** @return BelongsTo<Printer, $this> */
    public function printer(): BelongsTo
    {
        return $this->belongsTo(Printer::class);
    }

    /** @return HasMany<Piece, $this> */
    public function pieces(): HasMany
    {
        $pieces = $this->hasMany(Piece::class);
        $pieces->orderBy('place')->orderBy('id');

        return $pieces;
    }

    /** @return HasMany<Step, $this> */
    public function steps(): HasMany
    {
        $steps = $this->hasMany(Step::class);
        $steps->orderBy('number');

        return $steps;
    }

    /** @return HasMany<Run, $this> */
    public function runs(): HasMany
    {
        $runs = $this->hasMany(Run::class);
        // Questions change nothing.
        $runs->whereNull('question')->orderByDesc('id');

        return $runs;
    }

    /** Is a step of it waiting or at work? */
    public function isBusy(): bool
    {
        return $this->runs()->whereIn('status', ['waiting', 'running'])->exists();
    }

    /** For good, once it is off the shelf. What can be undone names thousands of meshes each time: it goes one by one, so that nobody waits. */
    public function erase(): void
    {
        foreach (DB::table('history')->where('project_id', $this->id)->pluck('id') as $id) {
            DB::table('history')->where('id', $id)->delete();
        }
        $this->forceDelete();
    }

    /**
     * Bytes of the meshes that the pieces of projects need, and those that can be brought back by undo; each counted once a project.
     *
     * @param  list<int>  $projects
     * @return array<int, int> by project
     */
    public static function bytesOf(array $projects): array
    {
        $history = DB::table('history_meshes')->join('history', 'history.id', '=', 'history_id')->whereIn('project_id', $projects)->select('project_id', 'mesh_hash');
        $needed = DB::table('pieces')->whereIn('project_id', $projects)->select('project_id', 'mesh_hash')->union($history);

        return DB::query()->fromSub($needed, 'needed')->join('meshes', 'meshes.hash', '=', 'mesh_hash')->groupBy('project_id')
            ->selectRaw('project_id, sum(bytes) as bytes')->pluck('bytes', 'project_id')->map(static fn (mixed $bytes): int => (int) $bytes)->all();
    }
}
