<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Isotome\Operation\Recipe;
use Isotome\Operation\Step as CoreStep;

/**
 * One operation on pieces: its settings as the recipe writes them, and what it did.
 *
 * @property int $id
 * @property int $project_id
 * @property int $number
 * @property array<string, mixed> $settings
 * @property array<string, mixed> $report
 */
final class Step extends Model
{
    protected $fillable = ['project_id', 'number', 'settings', 'report'];

    /** @var array<string, string> */
    protected $casts = ['settings' => 'array', 'report' => 'array', 'number' => 'integer'];

    /** @return HasMany<Piece, $this> */
    public function made(): HasMany
    {
        return $this->hasMany(Piece::class, 'made_by');
    }

    /** @return HasMany<Piece, $this> */
    public function spent(): HasMany
    {
        return $this->hasMany(Piece::class, 'spent_by');
    }

    /** As the core runs it. */
    public function core(): CoreStep
    {
        return Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$this->settings]])->steps[0];
    }
}
