<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use Isotome\Operation\Piece as CorePiece;

/** A piece while steps are worked out: stored already, or made by a step that is not stored yet. */
final class Draft
{
    /** @param  list<self>  $parents  of a piece that a step made, the first one first */
    private function __construct(
        public readonly string $name,
        public string $colour,
        public ?string $title,
        /** Stored; null until it is. */
        public ?Piece $row,
        public readonly array $parents,
        private ?CorePiece $made,
        private ?StoredMesh $mesh,
    ) {
    }

    public static function stored(Piece $row): self
    {
        return new self($row->name, $row->colour, $row->title, $row, [], null, null);
    }

    /**
     * @param  non-empty-list<self>  $parents
     * @param  StoredMesh  $mesh  as it is stored, or will be when the step is committed
     */
    public static function made(CorePiece $piece, array $parents, StoredMesh $mesh): self
    {
        return new self($piece->name, $piece->colour, $piece->name === $parents[0]->name ? $parents[0]->title : null, null, $parents, $piece, $mesh);
    }

    public function hash(): string
    {
        return $this->row !== null ? $this->row->mesh_hash : (string) $this->mesh?->hash;
    }

    /** Of a piece that a step made. */
    public function mesh(): ?StoredMesh
    {
        return $this->mesh;
    }

    /** @return list<int> numbers of the rows of its parents, which are stored before it */
    public function parentIds(): array
    {
        return array_map(static fn (self $parent): int => $parent->row->id ?? throw new \LogicException('A piece is stored before what is made of it.'), $this->parents);
    }

    /** As the core takes it; the mesh of a stored piece is read now. */
    public function piece(MeshStore $store): CorePiece
    {
        if ($this->made !== null) {
            return $this->made;
        }
        $row = $this->row ?? throw new \LogicException('A draft is stored or made.');
        $from = $row->madeOf();

        return new CorePiece($row->name, $store->get($row->mesh), $from[0] ?? null, 0, $row->colour, $row->mesh->watertight, null, array_slice($from, 1));
    }
}
