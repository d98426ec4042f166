<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A body of the project, living or spent.
 *
 * @property int $id
 * @property int $project_id
 * @property int|null $parent_id
 * @property int|null $made_by
 * @property int|null $spent_by
 * @property string $name
 * @property string|null $title what a person calls it; its name when null
 * @property string $mesh_hash
 * @property string $colour
 * @property int $place
 * @property Mesh $mesh
 * @property Piece|null $parent
 * @property Step|null $maker
 */
final class Piece extends Model
{
    protected $fillable = ['project_id', 'parent_id', 'made_by', 'spent_by', 'name', 'title', 'mesh_hash', 'colour', 'place'];

    /** @return BelongsTo<Mesh, $this> */
    public function mesh(): BelongsTo
    {
        return $this->belongsTo(Mesh::class, 'mesh_hash', 'hash');
    }

    /** @return BelongsTo<Piece, $this> */
    public function parent(): BelongsTo
    {
        return $this->belongsTo(self::class);
    }

    /** @return BelongsTo<Step, $this> */
    public function maker(): BelongsTo
    {
        return $this->belongsTo(Step::class, 'made_by');
    }

    /** The piece it was cut from: a mended piece stands where the one before the mend stood. */
    public function cutFrom(): ?string
    {
        $parent = $this->relationLoaded('parent') ? $this->parent : self::query()->find($this->parent_id);
        // Few are mended more than once: these are asked for one by one.
        while ($parent !== null && $parent->name === $this->name) {
            $parent = $parent->parent_id === null ? null : self::query()->find($parent->parent_id);
        }

        return $parent?->name;
    }
}
