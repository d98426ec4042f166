<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * One job: its stock, pieces and steps.
 *
 * @property int $id
 * @property string $name
 * @property string $file
 * @property string $units
 * @property string $note
 */
final class Project extends Model
{
    protected $fillable = ['name', 'file', 'units', 'note'];

    /** @return HasMany<Piece, $this> */
    public function pieces(): HasMany
    {
        return $this->hasMany(Piece::class)->orderBy('place')->orderBy('id');
    }

    /** @return HasMany<Step, $this> */
    public function steps(): HasMany
    {
        return $this->hasMany(Step::class)->orderBy('number');
    }

    /** @return HasMany<Run, $this> */
    public function runs(): HasMany
    {
        return $this->hasMany(Run::class)->orderByDesc('id');
    }
}
