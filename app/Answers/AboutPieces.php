<?php

declare(strict_types=1);

namespace App\Answers;

use App\Models\Piece;
use Illuminate\Support\Collection;

/** A question about pieces, which the answer calls by their names. */
abstract readonly class AboutPieces extends Question
{
    /** Triangles up to which it takes less than a blink. */
    protected const SHORT = 0;

    /**
     * @param  Collection<int, Piece>  $pieces  with their meshes
     * @return list<array{name: string, mesh: string, triangles: int, watertight: bool}> what of them goes into the content
     */
    final protected static function pieces(Collection $pieces): array
    {
        return array_values($pieces->map(static fn (Piece $piece): array => ['name' => $piece->name, 'mesh' => $piece->mesh_hash, 'triangles' => $piece->mesh->triangles, 'watertight' => (bool) $piece->mesh->watertight])->all());
    }

    final public function isShort(): bool
    {
        return array_sum(array_column($this->content['pieces'], 'triangles')) <= static::SHORT;
    }

    final public function meshes(): array
    {
        return array_values(array_unique(array_column($this->content['pieces'], 'mesh')));
    }
}
