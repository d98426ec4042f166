<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Closure;
use Isotome\Motion\Actor;
use Isotome\Motion\Movement;
use Isotome\Motion\Poses;

/** What a step is told while it works: its number, which is the tag of the faces it makes, its place in the recipe, and whom to tell how far it is. */
final readonly class Work
{
    /**
     * @param  Closure(float): mixed|null  $progress  it may throw to cancel
     * @param  Closure(Movement, list<Actor>): ?Poses|null  $poses  see poses()
     */
    public function __construct(
        public int $number,
        public string $at,
        private ?Closure $progress = null,
        private ?Closure $poses = null,
    ) {
    }

    /**
     * Where a movement has these pieces, if somebody has worked that out already: a fall takes long.
     *
     * @param  list<Actor>  $actors
     */
    public function poses(Movement $movement, array $actors): ?Poses
    {
        return $this->poses === null ? null : ($this->poses)($movement, $actors);
    }

    /** @param  float  $share  done, 0 to 1 */
    public function report(float $share): void
    {
        if ($this->progress !== null) {
            ($this->progress)($share);
        }
    }

    /** The same for one of several equal parts. */
    public function part(int $n, int $of): self
    {
        return new self($this->number, $this->at, fn (float $share) => $this->report(($n + $share) / $of), $this->poses);
    }

    /** @return Closure(float): void for a kernel */
    public function closure(): Closure
    {
        return function (float $share): void {
            $this->report($share);
        };
    }
}
