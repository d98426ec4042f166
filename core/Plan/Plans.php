<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Closure;
use Isotome\Exception\BadBed;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * Proposes sets of flat cuts after which every piece fits a printer, clearly different ones, the one that costs least first.
 *
 * Guarantees: every piece of every alternative was made and fits in a turn that is told; no alternative has fewer pieces than the bound.
 */
final readonly class Plans
{
    /** More pieces than this are not planned. */
    public const MOST_PIECES = 500;

    /** With more pieces than this, only slices are looked at. */
    private const SEARCHED = 40;

    /** @param  list<Alternative>  $alternatives */
    private function __construct(
        public int $least,
        public array $alternatives,
    ) {
    }

    /**
     * @param  Mesh  $mesh  closed
     * @param  Closure(float): mixed|null  $progress  told the share done; it may throw to cancel
     *
     * @throws BadBed
     */
    public static function of(Mesh $mesh, Wishes $wishes, ?Closure $progress = null): self
    {
        $tell = static fn (float $share): mixed => $progress === null ? null : $progress($share);
        if (Volume::of($mesh) <= 0.0) {
            throw new BadBed('The body encloses nothing: it is flat, or turned inside out; mend it first, or give it a thickness.');
        }
        $least = FewestPieces::of($mesh, $wishes);
        if ($least > self::MOST_PIECES) {
            throw new BadBed("The body must become at least $least pieces, and plans have at most ".self::MOST_PIECES.'; choose a larger printer, or cut it into parts first.');
        }
        $tell(0.1);
        $step = 0;
        $model = Model::of($mesh, $wishes, true, static function (float $share) use ($tell, &$step): void {
            $tell(0.1 + (0.4 * ($step + $share)) / 4);
        });
        if ($least === 1) {
            $asItIs = Carrying::out($mesh, Draft::of($model->whole), $model, $wishes);
            if (count($asItIs->pieces) === 1) {
                return new self($least, [$asItIs]);
            }
        }
        $drafts = self::drafts($model, static function () use (&$step): void {
            $step++;
        });
        if ($drafts === []) {
            throw new BadBed('Every cut that would make all pieces fit goes through a place that must stay whole; mark smaller places, or choose a larger printer.');
        }
        $tell(0.5);
        $size = Box::of($mesh->xyz)->diagonal();
        $alternatives = [];
        $tried = [];
        $refused = null;
        foreach ($drafts as $draft) {
            $cuts = array_column($draft->splits, 'cut');
            foreach ($tried as $others) {
                if (Alternative::areAlike($cuts, $others, $size)) {
                    continue 2;
                }
            }
            $tried[] = $cuts;
            $done = count($tried);
            try {
                $alternative = Carrying::out($mesh, $draft, $model, $wishes, static fn (): mixed => $tell(0.5 + 0.5 * min(0.95, $done / ($wishes->alternatives + 2))));
            } catch (BadBed $refused) {
                continue;
            }
            foreach ($alternatives as $other) {
                if ($alternative->isLike($other, $size)) {
                    continue 2;
                }
            }
            $alternatives[] = $alternative;
            if (count($alternatives) === $wishes->alternatives || count($tried) === $wishes->alternatives + 3) {
                break;
            }
        }
        if ($alternatives === []) {
            throw $refused ?? new BadBed('No plan was found; choose a larger printer.');
        }
        usort($alternatives, static fn (Alternative $a, Alternative $b): int => $a->cost() <=> $b->cost());
        $tell(1.0);

        return new self($least, $alternatives);
    }

    /**
     * The plan with cuts that were set by hand; its pieces may be too large.
     *
     * @param  list<array{list<int>, Cut}>  $cuts  with the path of the piece that each goes through, see Made
     * @param  bool  $goesOn  whether a piece that is still too large is cut further, until all fit
     *
     * @throws BadBed
     */
    public static function revised(Mesh $mesh, Wishes $wishes, array $cuts, bool $goesOn = false): Alternative
    {
        return Carrying::exactly($mesh, array_map(static fn (array $one): Made => new Made($one[0], $one[1], []), $cuts), Model::of($mesh, $wishes), $wishes, $goesOn);
    }

    /**
     * @param  Closure(): void  $next  called before each way of searching
     * @return list<Draft> the one with the fewest pieces, then all others by cost
     */
    private static function drafts(Model $model, Closure $next): array
    {
        $whole = $model->whole;
        $drafts = Slices::plans($whole, $model->wishes, $model->search(true, 1));
        $most = $drafts === [] ? INF : $drafts[0]->cost();
        $tries = $model->isMany ? 6 : 10;
        $width = $model->isMany ? 1 : 4;
        $hopeful = $model->isMany ? $model->otherwise() : $model;
        if ($whole->needs() <= self::SEARCHED) {
            $any = $hopeful->search(false, $tries);
            array_push($drafts, ...$any->plans($hopeful->whole, $width, $most));
            $next();
            if ($model->symmetry !== null && ! $model->isMany) {
                $first = $any->split($hopeful->whole, new Cut($model->symmetry->facing(), $model->symmetry->offset));
                array_push($drafts, ...($first === null ? [] : $any->plans($hopeful->whole, $width, $most, $first)));
            }
            $next();
            array_push($drafts, ...$model->search(true, $tries)->plans($whole, $width, $most));
            $next();
        }
        usort($drafts, static fn (Draft $a, Draft $b): int => $a->cost() <=> $b->cost());

        return self::fewestFirst($drafts);
    }

    /**
     * Whatever else it costs, a plan with the fewest pieces is carried out.
     *
     * @param  list<Draft>  $drafts  by cost
     * @return list<Draft>
     */
    private static function fewestFirst(array $drafts): array
    {
        $fewest = 0;
        foreach ($drafts as $n => $draft) {
            if (count($draft->done) < count($drafts[$fewest]->done)) {
                $fewest = $n;
            }
        }
        $first = array_splice($drafts, $fewest, 1);

        return [...$first, ...$drafts];
    }
}
