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
    /**
     * @param  list<self>  $parents  of a piece that a step made, the first one first
     * @param  non-empty-list<int>  $order  its place in the list of pieces: that of its first parent, then its own among what was made there
     */
    private function __construct(
        public readonly string $name,
        public string $colour,
        public ?string $title,
        /** Stored; null until it is. */
        public ?Piece $row,
        public readonly array $parents,
        private ?CorePiece $made,
        private ?StoredMesh $mesh,
        private readonly array $order,
    ) {
    }

    public static function stored(Piece $row): self
    {
        return new self($row->name, $row->colour, $row->title, $row, [], null, null, [$row->place]);
    }

    /** Stock that is stored with the step: its row is given when it has one. */
    public static function brought(CorePiece $piece, StoredMesh $mesh, int $place): self
    {
        return new self($piece->name, $piece->colour, null, null, [], $piece, $mesh, [$place]);
    }

    /**
     * @param  non-empty-list<self>  $parents
     * @param  StoredMesh  $mesh  as it is stored, or will be when the step is committed
     * @param  int  $n  its place among what the step made
     */
    public static function made(CorePiece $piece, array $parents, StoredMesh $mesh, int $n): self
    {
        return new self($piece->name, $piece->colour, $piece->name === $parents[0]->name ? $parents[0]->title : null, null, $parents, $piece, $mesh, [...$parents[0]->order, $n]);
    }

    /**
     * In the order in which the core has them: what was made of a piece stands where that piece stood.
     *
     * @param  array<array-key, self>  $drafts
     * @return list<self>
     */
    public static function inOrder(array $drafts): array
    {
        usort($drafts, static function (self $a, self $b): int {
            for ($i = 0; isset($a->order[$i], $b->order[$i]); $i++) {
                if ($a->order[$i] !== $b->order[$i]) {
                    return $a->order[$i] <=> $b->order[$i];
                }
            }

            return count($a->order) <=> count($b->order);
        });

        return $drafts;
    }

    public function hash(): string
    {
        return $this->row !== null ? $this->row->mesh_hash : (string) $this->mesh?->hash;
    }

    public function triangles(): int
    {
        return $this->row !== null ? $this->row->mesh->triangles : $this->mesh->triangles ?? 0;
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

        return new CorePiece($row->name, $store->dressed($row->mesh), $from[0] ?? null, 0, $row->colour, $row->mesh->watertight, null, array_slice($from, 1));
    }
}
