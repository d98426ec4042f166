<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Closure;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Piece;
use Isotome\Operation\Step;
use Isotome\Operation\Work;
use Isotome\Solid\Overlaps;

/** What steps have in common that make solids of several (Isotome\Solid\Combined): all pieces that they take must be closed. */
abstract class CombiningStep extends Step
{
    public static function group(): string
    {
        return 'combine';
    }

    /**
     * Which of the pieces overlap and how much there will be of what the step is about, before it is done: of all that is united, is taken out, or is common. Shown are places in
     * several of them.
     *
     * @param  non-empty-list<Piece>  $pieces  as apply() takes them, all closed
     */
    final public function overlaps(array $pieces, Work $work): Overlaps
    {
        return Overlaps::of($this->meshes($pieces, $work->part(0, 2)), $this->outcome($pieces), $this->shared($pieces), $work->part(1, 2)->closure());
    }

    /**
     * As they are combined.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @return non-empty-list<Mesh>
     */
    protected function meshes(array $pieces, Work $work): array
    {
        return array_map(static fn (Piece $piece): Mesh => $piece->mesh, $pieces);
    }

    /**
     * Where there is what the step is about, by how often each piece winds around a place.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @return Closure(list<int>): bool
     */
    abstract protected function outcome(array $pieces): Closure;

    /**
     * Where pieces meet.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @return Closure(list<int>): bool
     */
    protected function shared(array $pieces): Closure
    {
        return $this->outcome($pieces);
    }

    public function closes(): bool
    {
        return true;
    }
}
