<?php

declare(strict_types=1);

namespace Isotome\Plan;

/** A plan on its way: the cuts so far, and the parts that they leave. A value: a further cut makes another one. */
final readonly class Draft
{
    /**
     * @param  Part  $whole  what it begins with
     * @param  list<Split>  $splits  in the order in which they are made
     * @param  list<Part>  $open  parts that do not fit yet
     * @param  list<Part>  $done
     * @param  Terms  $terms  of all cuts, and of leftovers
     */
    private function __construct(
        public Part $whole,
        public array $splits,
        public array $open,
        public array $done,
        public Terms $terms,
    ) {
    }

    public static function of(Part $whole): self
    {
        return $whole->fits() ? new self($whole, [], [], [$whole], new Terms) : new self($whole, [], [$whole], [], new Terms);
    }

    public function isDone(): bool
    {
        return $this->open === [];
    }

    /** The part that is cut next: the one that needs most. */
    public function next(): ?Part
    {
        $next = null;
        foreach ($this->open as $part) {
            if ($next === null || $part->needs() > $next->needs()) {
                $next = $part;
            }
        }

        return $next;
    }

    public function with(Split $split, float $whole): self
    {
        $open = array_values(array_filter($this->open, static fn (Part $part): bool => $part !== $split->part));
        $done = $this->done;
        $leftovers = 0.0;
        foreach ($split->gave as $part) {
            $leftovers += CutCost::leftover($part->volume, $whole);
            if ($part->fits()) {
                $done[] = $part;
            } else {
                $open[] = $part;
            }
        }

        return new self($this->whole, [...$this->splits, $split], $open, $done, $this->terms->plus($split->terms)->plus(new Terms(leftovers: $leftovers)));
    }

    /** What it will about cost in the end. */
    public function cost(): float
    {
        $pieces = (float) count($this->done);
        foreach ($this->open as $part) {
            $pieces += $part->needs();
        }

        return $pieces + $this->terms->total();
    }

    /** Pieces that it has at least in the end. */
    public function least(): int
    {
        $pieces = count($this->done);
        foreach ($this->open as $part) {
            $pieces += max(2, $part->least);
        }

        return $pieces;
    }

    /** The same for drafts with the same cuts in another order. */
    public function key(): string
    {
        $cuts = array_map(static fn (Split $split): string => spl_object_id($split->part).':'.spl_object_id($split), $this->splits);
        sort($cuts);

        return implode(' ', $cuts);
    }
}
