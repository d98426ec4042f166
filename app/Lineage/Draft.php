<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use Isotome\Recipe\Piece as CorePiece;

/** A piece while steps are worked out: stored already, or made by a step that is not stored yet. */
final class Draft
{
    private function __construct(
        public readonly string $name,
        public string $colour,
        public ?string $title,
        /** Stored; null until it is. */
        public ?Piece $row,
        public readonly ?self $parent,
        private ?CorePiece $made,
        private ?StoredMesh $mesh,
    ) {
    }

    public static function stored(Piece $row): self
    {
        return new self($row->name, $row->colour, $row->title, $row, null, null, null);
    }

    /** @param  StoredMesh  $mesh  as it is stored, or will be when the step is committed */
    public static function made(CorePiece $piece, self $parent, StoredMesh $mesh): self
    {
        return new self($piece->name, $piece->colour, $piece->name === $parent->name ? $parent->title : null, null, $parent, $piece, $mesh);
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

    /** As the core takes it; the mesh of a stored piece is read now. */
    public function piece(MeshStore $store): CorePiece
    {
        if ($this->made !== null) {
            return $this->made;
        }
        $row = $this->row ?? throw new \LogicException('A draft is stored or made.');

        return new CorePiece($row->name, $store->get($row->mesh), $row->cutFrom(), 0, $row->colour, $row->mesh->watertight);
    }
}
