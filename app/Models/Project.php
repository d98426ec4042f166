<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * One job: its stock, pieces and steps.
 *
 * @property int $id
 * @property string $name
 * @property string $file
 * @property string $units
 * @property string $note
 * @property Carbon|null $updated_at
 * @property Collection<int, Piece> $pieces
 * @property Collection<int, Step> $steps
 * @property Collection<int, Run> $runs
 */
final class Project extends Model
{
    protected $fillable = ['name', 'file', 'units', 'note'];

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
        $runs->orderByDesc('id');

        return $runs;
    }
}
