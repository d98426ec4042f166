<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Closure;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Exception\BadBed;
use Isotome\Fit\Turned;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Plate\Rests;
use SplObjectStorage;

/**
 * Carries a draft out on the body itself: makes its cuts, with the gap, looks at every piece whether it fits, and plans again for one that does not because the stand-in was only about the body.
 *
 * Guarantees: every piece of the alternative fits in the turn that is told.
 */
final class Carrying
{
    /** Cuts above one piece. */
    private const DEEPEST = 48;

    /** Turns that are looked at before a piece counts as too large. */
    private const PATIENCE = 400;

    /** Places of a body by which it is told on which side of a cut it is. */
    private const SOME = 500;

    /** Cuts that are tried through each part when it is planned again. */
    private const TRIES = 6;

    /** @var list<Made> */
    private array $cuts = [];

    /** @var list<Fitting> */
    private array $pieces = [];

    private Terms $terms;

    /** @var SplObjectStorage<Part, Split> */
    private SplObjectStorage $splits;

    /** @var array<string, Cut>|null cuts that were set by hand, by the path of the piece that each goes through */
    private ?array $set = null;

    /** Whether pieces that do not fit after those are cut further. */
    private bool $goesOn = false;

    /**
     * @param  float  $volume  of the whole, mm³
     * @param  Closure(): mixed|null  $beat  called after every cut; it may throw to cancel
     */
    private function __construct(
        private readonly Wishes $wishes,
        private readonly ?Plane $symmetry,
        private readonly float $size,
        private readonly float $volume,
        private readonly ?Closure $beat,
    ) {
        $this->terms = new Terms;
        $this->splits = new SplObjectStorage;
    }

    /**
     * @param  Closure(): mixed|null  $beat
     *
     * @throws BadBed when a piece cannot be brought into the space
     */
    public static function out(Mesh $mesh, Draft $draft, Model $model, Wishes $wishes, ?Closure $beat = null): Alternative
    {
        $carrying = new self($wishes, $model->symmetry, $model->size, abs(Volume::of($mesh)), $beat);
        $carrying->plan($draft);
        $carrying->piece($mesh, [], $draft->whole, []);

        return new Alternative($carrying->cuts, $carrying->pieces, $carrying->terms);
    }

    /**
     * Makes cuts that were set by hand, and tells of every piece whether it fits.
     *
     * @param  list<Made>  $cuts
     * @param  bool  $goesOn  whether a piece that does not fit is then cut further, until all do
     *
     * @throws BadBed when there is nothing to cut where one of them says
     */
    public static function exactly(Mesh $mesh, array $cuts, Model $model, Wishes $wishes, bool $goesOn = false): Alternative
    {
        $carrying = new self($wishes, $model->symmetry, $model->size, abs(Volume::of($mesh)), null);
        $set = [];
        foreach ($cuts as $made) {
            $set[implode(' ', $made->path)] = $made->cut;
        }
        $carrying->set = $set;
        $carrying->goesOn = $goesOn;
        $carrying->piece($mesh, [], null, []);
        if (count($carrying->cuts) < count($cuts)) {
            throw new BadBed('One of the cuts goes through a piece that is not there any more after the others were moved; move them back, or look for cuts again.');
        }

        return new Alternative($carrying->cuts, $carrying->pieces, $carrying->terms);
    }

    private function plan(Draft $draft): void
    {
        foreach ($draft->splits as $split) {
            $this->splits[$split->part] = $split;
        }
    }

    /**
     * @param  list<int>  $path
     * @param  Part|null  $part  what it is in the draft
     * @param  list<array{float, float, float}>  $faces  the way its cut faces look
     */
    private function piece(Mesh $mesh, array $path, ?Part $part, array $faces): void
    {
        if ($this->set !== null) {
            $this->asSet($mesh, $path, $faces, $this->set);

            return;
        }
        $split = $part !== null && isset($this->splits[$part]) ? $this->splits[$part] : null;
        $vector = $split === null ? self::turn($mesh, $this->wishes, $part?->turn()) : self::asItStands($mesh, $this->wishes);
        if ($vector !== null) {
            $this->keep($mesh, $path, $vector, 0.0, $faces);

            return;
        }
        if (count($path) > self::DEEPEST) {
            throw new BadBed('There is a piece that does not fit after '.self::DEEPEST.' cuts; choose a larger printer, or mark fewer places that must stay whole.');
        }
        if ($split !== null && $this->cut($mesh, $path, $split->cut, $split, $faces)) {
            return;
        }
        $model = Model::of($mesh, $this->wishes, false);
        $draft = $model->whole->fits() ? null : $model->search(false, self::TRIES)->plans($model->whole, 1)[0] ?? null;
        if ($draft !== null) {
            $this->plan($draft);
            $split = $this->splits[$model->whole] ?? null;
            if ($split !== null && $this->cut($mesh, $path, $split->cut, $split, $faces)) {
                return;
            }
        }
        // The stand-in fits and the body does not, by a hair: the best cut all the same.
        foreach (Candidates::of($model->whole, $this->wishes, $model->frames->facings(false), self::TRIES) as $cut) {
            if ($this->cut($mesh, $path, $cut, null, $faces)) {
                return;
            }
        }
        throw new BadBed('Every cut that would make all pieces fit goes through a place that must stay whole; mark smaller places, or choose a larger printer.');
    }

    /**
     * @param  list<int>  $path
     * @param  list<array{float, float, float}>  $faces
     * @param  array<string, Cut>  $set
     */
    private function asSet(Mesh $mesh, array $path, array $faces, array $set): void
    {
        $cut = $set[implode(' ', $path)] ?? null;
        if ($cut === null) {
            $stands = self::asItStands($mesh, $this->wishes);
            $turned = $stands === null ? Turned::into($mesh->xyz, $this->wishes->space, 0.5, self::PATIENCE) : null;
            if ($this->goesOn && $turned !== null && ! $turned->fits()) {
                $this->set = null;
                $this->piece($mesh, $path, null, $faces);
                $this->set = $set;

                return;
            }
            $this->keep($mesh, $path, $stands ?? $turned->vector ?? [0.0, 0.0, 0.0], $turned === null || $turned->fits() ? 0.0 : $turned->over, $faces);
        } elseif (! $this->cut($mesh, $path, $cut, null, $faces)) {
            throw new BadBed('Cut '.(count($this->cuts) + 1).' of the plan misses its piece there; move it back.');
        }
    }

    /**
     * @param  list<int>  $path
     * @param  list<array{float, float, float}>  $faces
     */
    private function cut(Mesh $mesh, array $path, Cut $cut, ?Split $split, array $faces): bool
    {
        $outcome = FlatCut::of($mesh, new FlatBlade($cut->plane(), kerf: $this->wishes->gap), 1);
        if ($outcome === null || count($outcome->bodies) < 2) {
            return false;
        }
        $this->beat === null || ($this->beat)();
        $cost = CutCost::of($mesh, $cut, $this->wishes, $this->symmetry, $this->size);
        $this->cuts[] = new Made($path, $cut, $cost->outlines);
        $this->terms = $this->terms->plus($cost->terms);
        $parts = $split === null ? [] : $split->gave;
        foreach ($outcome->bodies as $n => $body) {
            $isAhead = self::isAhead($body, $cut);
            $part = self::nearest($parts, $body, $cut, $isAhead);
            $parts = array_values(array_filter($parts, static fn (Part $other): bool => $other !== $part));
            $facing = $isAhead ? [-$cut->facing[0], -$cut->facing[1], -$cut->facing[2]] : $cut->facing;
            $this->piece($body, [...$path, $n], $part, [...$faces, $facing]);
        }

        return true;
    }

    /**
     * @param  list<int>  $path
     * @param  array{float, float, float}  $vector
     * @param  list<array{float, float, float}>  $faces
     */
    private function keep(Mesh $mesh, array $path, array $vector, float $over, array $faces): void
    {
        $measures = Volume::measure($mesh);
        $overhang = min(Rests::overhangs($mesh, [[0.0, 0.0, -1.0], ...$faces]));
        $this->pieces[] = new Fitting($path, $vector, $over, Box::of($mesh->xyz)->size(), abs($measures->volume));
        $this->terms = $this->terms->plus(new Terms(
            pieces: 1.0,
            leftovers: $path === [] ? 0.0 : CutCost::leftover(abs($measures->volume), $this->volume),
            supports: $measures->area > 0.0 ? Terms::SUPPORTS * $overhang / $measures->area : 0.0,
        ));
    }

    /**
     * @param  array{float, float, float}|null  $guess  a turn that may be the right one
     * @return array{float, float, float}|null the turn in which it fits
     */
    private static function turn(Mesh $mesh, Wishes $wishes, ?array $guess): ?array
    {
        $stands = self::asItStands($mesh, $wishes);
        if ($stands !== null) {
            return $stands;
        }
        $near = $guess === null ? null : Turned::from($mesh->xyz, $wishes->space, $guess);
        if ($near?->fits() === true) {
            return $near->vector;
        }
        $turned = Turned::into($mesh->xyz, $wishes->space, 0.1, self::PATIENCE, false);

        return $turned->fits() ? $turned->vector : null;
    }

    /** @return array{float, float, float}|null */
    private static function asItStands(Mesh $mesh, Wishes $wishes): ?array
    {
        return $wishes->space->holds(Box::of($mesh->xyz)->size())['how'] === 'stands' ? [0.0, 0.0, 0.0] : null;
    }

    /** Whether a body is ahead of the cut that it comes from: all of it is on one side, but for rounding. */
    private static function isAhead(Mesh $mesh, Cut $cut): bool
    {
        [$x, $y, $z] = $cut->facing;
        $xyz = $mesh->xyz;
        $farthest = 0.0;
        $some = 3 * max(1, intdiv(count($xyz), 3 * self::SOME));
        for ($i = 0, $count = count($xyz); $i < $count; $i += $some) {
            $d = $x * $xyz[$i] + $y * $xyz[$i + 1] + $z * $xyz[$i + 2] - $cut->offset;
            if (abs($d) > abs($farthest)) {
                $farthest = $d;
            }
        }

        return $farthest > 0.0;
    }

    /**
     * Which part of the draft a body is: on the same side of the cut, the one with the nearest centre of mass.
     *
     * @param  list<Part>  $parts
     */
    private static function nearest(array $parts, Mesh $body, Cut $cut, bool $isAhead): ?Part
    {
        $parts = array_values(array_filter($parts, static fn (Part $part): bool => self::isAhead($part->mesh, $cut) === $isAhead));
        if (count($parts) < 2) {
            return $parts[0] ?? null;
        }
        $centre = Volume::measure($body)->centroid;
        $squares = array_map(static fn (Part $part): float => ($part->centre[0] - $centre[0]) ** 2 + ($part->centre[1] - $centre[1]) ** 2 + ($part->centre[2] - $centre[2]) ** 2, $parts);

        return $parts[(int) array_search(min($squares), $squares, true)];
    }
}
