<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Closure;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Geometry\Plane;
use SplObjectStorage;

/**
 * Plans for a part that does not fit: cut by cut, each through one part, those drafts kept that promise the least cost in the end.
 *
 * A beam search over trees of flat cuts (L. Luo, I. Baran, S. Rusinkiewicz, W. Matusik 2012), with a bound: drafts that will have more pieces than a plan that was found, and one more, are left. Nothing is random and nothing
 * depends on time: the same part has the same plans.
 */
final class Search
{
    /** Plans that are kept at most. */
    private const KEPT = 6;

    /** Pieces' worth by which a draft may cost more than the best plan. */
    private const MORE = 1.5;

    /** Parts that are looked at before it settles for one draft at a time. */
    private const PATIENCE = 48;

    /** Parts that are looked at at all. */
    private const MOST = 120;

    /** @var SplObjectStorage<Part, list<Split>> */
    private SplObjectStorage $known;

    /**
     * @param  Frames  $frames  in which its parts are measured
     * @param  list<array{float, float, float}>  $facings  along which it is cut
     * @param  int  $tries  cuts that are made through each part
     * @param  Closure(float): mixed|null  $progress  told the share done, about; it may throw to cancel
     */
    public function __construct(
        private readonly Wishes $wishes,
        private readonly Frames $frames,
        private readonly array $facings,
        private readonly ?Plane $symmetry,
        private readonly float $size,
        private readonly int $tries,
        private readonly ?Closure $progress = null,
    ) {
        $this->known = new SplObjectStorage;
    }

    /**
     * @param  int  $width  drafts that are followed at a time
     * @param  float  $most  drafts that will cost more by MORE are left: what the best plan so far costs
     * @param  Split|null  $first  a cut to begin with
     * @return list<Draft> finished ones, the best first; none when no cut was found for a part
     */
    public function plans(Part $whole, int $width, float $most = INF, ?Split $first = null): array
    {
        $begin = Draft::of($whole);
        $drafts = [$first === null ? $begin : $begin->with($first, $whole->volume)];
        $done = [];
        $fewest = PHP_INT_MAX;
        while ($drafts !== [] && count($this->known) < self::MOST) {
            $next = [];
            foreach ($drafts as $draft) {
                if ($draft->isDone()) {
                    $done[] = $draft;
                    $fewest = min($fewest, count($draft->done));
                    $most = min($most, $draft->cost());

                    continue;
                }
                $part = $draft->next();
                foreach ($part === null ? [] : $this->splits($part) as $split) {
                    $other = $draft->with($split, $whole->volume);
                    if ($other->least() <= $fewest + 1 && $other->cost() <= $most + self::MORE) {
                        $next[$other->key()] ??= $other;
                    }
                }
            }
            usort($next, static fn (Draft $a, Draft $b): int => $a->cost() <=> $b->cost());
            $drafts = array_slice($next, 0, count($this->known) < self::PATIENCE ? $width : 1);
        }
        usort($done, static fn (Draft $a, Draft $b): int => $a->cost() <=> $b->cost());

        return array_slice($done, 0, self::KEPT);
    }

    /** A cut made and measured; null when it leaves nothing on a side, or goes through what must stay whole. */
    public function split(Part $part, Cut $cut): ?Split
    {
        if ($this->wishes->forbids($cut)) {
            return null;
        }
        $outcome = FlatCut::of($part->mesh, new FlatBlade($cut->plane()), 1);
        if ($outcome === null || count($outcome->bodies) < 2) {
            return null;
        }
        $gave = array_map(fn ($body): Part => Part::of($body, $this->wishes, $this->frames), $outcome->bodies);

        return new Split($part, $cut, $gave, CutCost::of($part->mesh, $cut, $this->wishes, $this->symmetry, $this->size)->terms);
    }

    /** @return list<Split> */
    private function splits(Part $part): array
    {
        if (! isset($this->known[$part])) {
            $splits = [];
            foreach (Candidates::of($part, $this->wishes, $this->facings, $this->tries) as $cut) {
                $split = $this->split($part, $cut);
                if ($split !== null) {
                    $splits[] = $split;
                }
            }
            $part->forget();
            $this->known[$part] = $splits;
            $this->progress === null || ($this->progress)(1 - 0.9 ** count($this->known));
        }

        return $this->known[$part];
    }
}
