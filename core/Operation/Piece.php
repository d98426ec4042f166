<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Isotome\Mesh\Mesh;

/** A named mesh with its place in the lineage. */
final readonly class Piece
{
    /**
     * @param  string|null  $parent  the piece it was made of, or the first of them; null for stock
     * @param  int  $step  the step that made it; 0 for stock
     * @param  bool|null  $watertight  null when nobody has asked yet
     * @param  string|null  $known  its name in the recipe, when a person calls it otherwise
     * @param  list<string>  $others  further pieces that it was made of
     */
    public function __construct(
        public string $name,
        public Mesh $mesh,
        public ?string $parent = null,
        public int $step = 0,
        public string $colour = '',
        public ?bool $watertight = null,
        public ?string $known = null,
        public array $others = [],
    ) {
    }

    public function withMesh(Mesh $mesh): self
    {
        return new self($this->name, $mesh, $this->parent, $this->step, $this->colour, $this->watertight, $this->known, $this->others);
    }

    /** @return list<string> all pieces that it was made of */
    public function parents(): array
    {
        return $this->parent === null ? [] : [$this->parent, ...$this->others];
    }
}
