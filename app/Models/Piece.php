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
 * @property int|null $parent_id the piece it was made of, or the first of them
 * @property list<int>|null $others the numbers of further ones
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
    protected $fillable = ['project_id', 'parent_id', 'others', 'made_by', 'spent_by', 'name', 'title', 'mesh_hash', 'colour', 'place'];

    /** @var array<string, string> */
    protected $casts = ['others' => 'array'];

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

    /** @return list<int> numbers of all pieces that it was made of, the first one first */
    public function parentIds(): array
    {
        return $this->parent_id === null ? [] : [$this->parent_id, ...$this->others ?? []];
    }

    /** @return list<string> names of the pieces it was made of: a mended piece stands where the one before the mend stood */
    public function madeOf(): array
    {
        $piece = $this;
        $parent = $this->relationLoaded('parent') ? $this->parent : self::query()->find($this->parent_id);
        // Few are mended more than once: these are asked for one by one.
        while ($parent !== null && $parent->name === $this->name) {
            $piece = $parent;
            $parent = $parent->parent_id === null ? null : self::query()->find($parent->parent_id);
        }
        if ($parent === null) {
            return [];
        }
        $names = ($piece->others ?? []) === [] ? [] : self::query()->whereIn('id', (array) $piece->others)->pluck('name', 'id')->all();

        return [$parent->name, ...array_values(array_filter(array_map(static fn (int $id): ?string => $names[$id] ?? null, $piece->others ?? [])))];
    }
}
