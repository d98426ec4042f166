<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Models\Piece;

/**
 * What follows when pieces are to live again: everything that was made of them goes, whatever else went into that lives again too, and so on through
 * the lineage, which is a graph. A piece that goes itself does not live again.
 */
final class Undoing
{
    /** @var array<int, Piece> those that go, by number */
    public array $gone = [];

    /** @var array<int, Piece> those that live again, by number */
    public array $revived = [];

    /** @var array<int, array<string, true>> names that a step did not take after all, by step */
    public array $untaken = [];

    /** @var array<int, array<string, true>> names that a step did not give after all, by step */
    public array $ungiven = [];

    /**
     * @param  array<int, list<Piece>>  $children  by the number of each parent
     * @param  array<int, Piece>  $all  by number
     */
    private function __construct(private readonly array $children, private readonly array $all)
    {
    }

    /**
     * @param  iterable<Piece>  $all  of the project
     * @param  iterable<Piece>  $spent  those to live again
     */
    public static function of(iterable $all, iterable $spent): self
    {
        $children = $byId = [];
        foreach ($all as $piece) {
            $byId[$piece->id] = $piece;
            foreach ($piece->parentIds() as $parent) {
                $children[$parent][] = $piece;
            }
        }
        $undoing = new self($children, $byId);
        foreach ($spent as $piece) {
            $undoing->revive($piece);
        }
        $undoing->revived = array_diff_key($undoing->revived, $undoing->gone);

        return $undoing;
    }

    /** What its last step made of it goes; what it only helped to make before stays. */
    private function revive(Piece $piece): void
    {
        if ($piece->spent_by === null || isset($this->revived[$piece->id])) {
            return;
        }
        $this->revived[$piece->id] = $piece;
        $this->untaken[$piece->spent_by][$piece->name] = true;
        foreach ($this->children[$piece->id] ?? [] as $child) {
            if ($child->made_by === $piece->spent_by) {
                $this->strike($child);
            }
        }
    }

    /** It goes, with everything that was made of it; what was used up for it lives again. */
    private function strike(Piece $piece): void
    {
        if (isset($this->gone[$piece->id])) {
            return;
        }
        $this->gone[$piece->id] = $piece;
        if ($piece->made_by !== null) {
            $this->ungiven[$piece->made_by][$piece->name] = true;
        }
        if ($piece->spent_by !== null) {
            $this->untaken[$piece->spent_by][$piece->name] = true;
        }
        foreach ($this->children[$piece->id] ?? [] as $child) {
            $this->strike($child);
        }
        foreach ($piece->parentIds() as $parent) {
            $parent = $this->all[$parent] ?? null;
            if ($parent !== null && $parent->spent_by === $piece->made_by) {
                $this->revive($parent);
            }
        }
    }
}
