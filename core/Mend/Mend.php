<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;
use Isotome\Check\Crossings;
use Isotome\Check\EdgePlaces;
use Isotome\Check\InnerFaces;
use Isotome\Check\Shells;
use Isotome\Geometry\Box;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Boundary;
use Isotome\Mesh\Compact;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Together;
use Isotome\Mesh\Tree;
use Isotome\Mesh\Volume;
use Isotome\Solid\FileProof;

/**
 * Makes a mesh solid. What closes but for edges at which too many faces meet is resolved by winding numbers at once (Uncross). Of anything else, gentle single mends
 * come first: join coincident vertices at open edges, remove what has no area, what is doubled and loose scraps, remove inner faces, make directions agree and face
 * outward, close the rims. What is open then is closed whatever it crosses (CloseChain), and resolved by winding numbers too. Bodies stay apart, each for itself.
 *
 * Guarantees: never worse than before. A watertight mesh that is not turned inside out and has no body that crosses itself comes back as it is. What encloses a
 * volume ends watertight: triangles that do not touch are joined across gaps that are small beside them (JoinGaps); of what still does not close, a new surface is drawn around all that
 * it winds around more than half (Enclose). A sheet that encloses nothing comes back as it was. What it did is told in numbers, what is left too.
 *
 * @phpstan-type Did array{joined: int, slivers: int, doubled: int, scraps: int, inner: int, turned: int, rims_closed: int, faces_added: int, uncrossed: int, redrawn: int}
 */
final readonly class Mend
{
    /** Volume by area^1.5, below which nothing is enclosed; a ball has 0.094, a square plate a thousandth as thick as it is wide 0.00035. What rounding leaves of a closed sheet is far smaller. */
    private const NOTHING = 1e-9;

    /** Share of the volume that an open mesh encloses with its middle, below which closing it rim by rim has lost what it encloses. */
    private const ENOUGH = 0.9;

    /** Share of the open shells' triangles: where one has more, the others are beside it. */
    private const NEARLY_ALL = 0.95;

    /** Share of the volume of what was joined across gaps, or drawn anew, below which that is better: both move faces. */
    private const FAR_LESS = 0.75;

    /** @param  Did  $did */
    private function __construct(
        public Mesh $mesh,
        public array $did,
        public EdgeCheck $before,
        public EdgeCheck $after,
        public bool $changed,
    ) {
    }

    /** @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel */
    public static function of(Mesh $mesh, int $tag = 0, ?Closure $progress = null): self
    {
        $before = EdgeCheck::of($mesh);
        $none = ['joined' => 0, 'slivers' => 0, 'doubled' => 0, 'scraps' => 0, 'inner' => 0, 'turned' => 0, 'rims_closed' => 0, 'faces_added' => 0, 'uncrossed' => 0, 'redrawn' => 0];
        $did = $none;
        if ($before->isWatertight() && Shells::of($mesh, true)->inverted === []) {
            ['mesh' => $now, 'bodies' => $did['uncrossed']] = Uncross::of($mesh, $progress);

            return new self($now, $did, $before, $now === $mesh ? $before : EdgeCheck::of($now), $now !== $mesh);
        }
        $part = static fn (float $from, float $to): Closure => static fn (float $share) => $progress === null ? null : $progress($from + ($to - $from) * $share);
        [$xyz, $corners] = Compact::of($mesh->xyz, $mesh->corners);
        $now = $compact = Mesh::of($xyz, $corners, $mesh->tags);
        if (! $before->isWatertight() && Boundary::of($now) === []) {
            // It closes, only too many faces meet at some edges: nothing of it needs to go but what the kernel finds within.
            [$solid, $did['turned'], $did['uncrossed']] = self::solid($now, $part(0.0, 1.0));
            if ($solid !== null) {
                return new self($solid, $did, $before, EdgeCheck::of($solid), true);
            }
            $did = $none;
        }
        if ($before->isWatertight()) {
            // Turned inside out, and no more.
            ['mesh' => $now, 'turned' => $did['turned']] = Orient::of($now);
            ['mesh' => $now, 'bodies' => $did['uncrossed']] = Uncross::of($now, $part(0.2, 1.0));

            return new self($now, $did, $before, EdgeCheck::of($now), $now !== $mesh);
        }
        [$now, $did] = self::closed($now, $did, $tag, $part(0.0, 0.8));
        $enclosed = self::isInParts($compact) ? self::enclosedBy($compact) : 0.0;
        if ($enclosed > 0.0 && ($now === null || self::volume($now) < self::ENOUGH * $enclosed)) {
            // The rims are gaps between parts: closed each by itself, the parts would enclose next to nothing.
            [$joined, $joinedDid] = self::joinedAcross($compact, $none, $tag, $part(0.8, 0.85));
            if ($joined !== null && self::volume($joined) >= self::ENOUGH * $enclosed && self::isFarLess($now, $joined)) {
                [$now, $did] = [$joined, $joinedDid];
            } else {
                [$drawn, $gone] = self::redrawn($compact, $tag, $part(0.85, 1.0));
                if ($drawn !== null && self::isFarLess($now, $drawn)) {
                    [$now, $did] = [$drawn, ['redrawn' => $gone] + $none];
                }
            }
        }
        if ($now === null) {
            return new self($mesh, $none, $before, $before, false);
        }

        return new self($now, $did, $before, EdgeCheck::of($now), true);
    }

    /**
     * A mesh with open edges, mended gently and rim by rim; what is open then is closed whatever it crosses.
     *
     * @param  Did  $did
     * @param  Closure(float): void  $progress
     * @return array{Mesh|null, Did} null when that makes nothing of it, or what is worse than it was
     */
    private static function closed(Mesh $mesh, array $did, int $tag, Closure $progress): array
    {
        $part = static fn (float $from, float $to): Closure => static fn (float $share) => $progress($from + ($to - $from) * $share);
        $none = $did;
        $before = EdgeCheck::of($mesh);
        $now = self::joined($mesh, $did);
        $progress(0.04);
        ['mesh' => $now, 'joined' => $across] = JoinGaps::of($now);
        $did['joined'] += $across;
        $progress(0.08);
        ['mesh' => $now, 'removed' => $did['doubled']] = RemoveDoubled::of($now);
        ['mesh' => $now, 'removed' => $did['slivers']] = RemoveSlivers::of($now);
        $progress(0.12);
        $again = RemoveDoubled::of($now);
        $now = $again['mesh'];
        $did['doubled'] += $again['removed'];
        $progress(0.16);
        [$now, $did['scraps']] = self::withoutScraps($now);
        $progress(0.2);
        ['mesh' => $now, 'turned' => $did['turned']] = Orient::of($now);
        [$now, $did['inner']] = self::withoutInner($now, $part(0.25, 0.5));
        if ($did['inner'] > 0) {
            $again = Orient::of($now);
            $now = $again['mesh'];
            $did['turned'] += $again['turned'];
        }
        for ($round = 0; $round < 3; $round++) {
            $step = CloseRims::of($now, null, $tag, $part(0.5 + 0.15 * $round, 0.65 + 0.15 * $round));
            $now = $step['mesh'];
            $did['rims_closed'] += $step['closed'];
            $did['faces_added'] += $step['added'];
            if ($step['closed'] === 0) {
                break;
            }
        }
        $again = Orient::of($now);
        $now = $again['mesh'];
        $did['turned'] += $again['turned'];
        $after = EdgeCheck::of($now);
        $faults = static fn (EdgeCheck $check): int => $check->openEdges + $check->nonmanifoldEdges + $check->flippedEdges;
        $isWorse = $now->isEmpty() || $faults($after) > $faults($before);
        if (! $after->isWatertight()) {
            $chain = CloseChain::of($isWorse ? Orient::of($mesh)['mesh'] : $now, $tag, $part(0.9, 0.92));
            [$solid, $turned, $uncrossed] = self::solid($chain['mesh'], $part(0.92, 1.0));
            if ($solid !== null) {
                $base = $isWorse ? $none : $did;

                return [$solid, ['turned' => $base['turned'] + $turned, 'rims_closed' => $base['rims_closed'] + $chain['closed'], 'faces_added' => $base['faces_added'] + $chain['added'], 'uncrossed' => $uncrossed] + $base];
            }
        }
        if ($isWorse || ($after->isWatertight() && self::isNothing($now))) {
            return [null, $none];
        }
        if ($after->isWatertight()) {
            ['mesh' => $now, 'bodies' => $did['uncrossed']] = Uncross::of($now, $part(0.95, 1.0));
        }

        return [$now, $did];
    }

    /**
     * The same after vertices along rims were joined across the gaps between them.
     *
     * @param  Did  $did
     * @param  Closure(float): void  $progress
     * @return array{Mesh|null, Did} null when there was nothing to join
     */
    private static function joinedAcross(Mesh $mesh, array $did, int $tag, Closure $progress): array
    {
        ['mesh' => $joined, 'joined' => $count] = JoinGaps::of($mesh, true);
        if ($count === 0) {
            return [null, $did];
        }
        [$closed, $more] = self::closed($joined, $did, $tag, $progress);

        return [$closed, ['joined' => $count + $more['joined']] + $more];
    }

    private static function volume(Mesh $mesh): float
    {
        return $mesh->isEmpty() ? 0.0 : Volume::of($mesh);
    }

    private static function isFarLess(?Mesh $one, Mesh $other): bool
    {
        return $one === null || self::volume($one) < self::FAR_LESS * self::volume($other);
    }

    /** Is it open in several shells of which not one is nearly all? */
    private static function isInParts(Mesh $mesh): bool
    {
        $shells = Bodies::shells($mesh);
        $sizes = [];
        foreach (Boundary::of($mesh) as [$p]) {
            $sizes[$shells[$p]] = 0;
        }
        foreach ($mesh->tags as $t => $_) {
            $shell = $shells[$mesh->corners[3 * $t]];
            if (isset($sizes[$shell])) {
                $sizes[$shell]++;
            }
        }

        return count($sizes) > 1 && max($sizes) < self::NEARLY_ALL * array_sum($sizes);
    }

    /** The volume that an open mesh encloses together with the middle of all of it, mm³. */
    private static function enclosedBy(Mesh $mesh): float
    {
        $box = Box::of($mesh->xyz);
        $xyz = [];
        foreach ($mesh->xyz as $i => $c) {
            $k = $i % 3;
            $xyz[] = $c - ($box->min[$k] + $box->max[$k]) / 2;
        }

        return abs(Volume::of(Mesh::of($xyz, $mesh->corners)));
    }

    /** A sheet closed with itself: it has no volume beside what doubles lose. */
    private static function isNothing(Mesh $mesh): bool
    {
        $measured = Volume::measure($mesh);

        return abs($measured->volume) <= self::NOTHING * $measured->area ** 1.5;
    }

    /**
     * A mesh that closes, made solid by the kernel, body by body.
     *
     * @param  Closure(float): void  $progress
     * @return array{Mesh|null, int, int} null when no watertight mesh comes of it; faces turned over, and bodies made solid
     */
    private static function solid(Mesh $mesh, Closure $progress): array
    {
        ['mesh' => $mesh, 'turned' => $turned] = Orient::of($mesh);
        ['mesh' => $solid, 'bodies' => $bodies] = Uncross::of($mesh, $progress);

        return [EdgeCheck::of($solid)->isWatertight() ? $solid : null, $turned, $bodies];
    }

    /**
     * A closed surface around what the shells that do not close wind around; the others stay.
     *
     * @param  Closure(float): void  $progress
     * @return array{Mesh|null, int} null when they enclose nothing; and how many triangles are gone for it
     */
    private static function redrawn(Mesh $mesh, int $tag, Closure $progress): array
    {
        $shells = Bodies::shells($mesh);
        $open = [];
        foreach (Boundary::of($mesh) as [$p]) {
            $open[$shells[$p]] = true;
        }
        $gone = $closed = [];
        foreach ($mesh->tags as $t => $_) {
            if (isset($open[$shells[$mesh->corners[3 * $t]]])) {
                $gone[$t] = true;
            } else {
                $closed[$t] = true;
            }
        }
        $drawn = Enclose::of(RemoveFaces::of($mesh, $closed), $tag, $progress);
        if ($drawn === null) {
            return [null, 0];
        }
        $whole = Together::of([$drawn, RemoveFaces::of($mesh, $gone)]);

        return EdgeCheck::of($whole)->isWatertight() ? [$whole, count($gone)] : [null, 0];
    }

    /**
     * What could not be done, one sentence each.
     *
     * @return list<string>
     */
    public function left(): array
    {
        $left = [];
        if ($this->after->openEdges > 0 && ! $this->changed && self::isNothing($this->mesh)) {
            return [$this->after->openEdges.' open edges stay: it is a sheet that encloses nothing; give it a thickness instead.'];
        }
        if ($this->after->openEdges > 0) {
            $left[] = $this->after->openEdges.' open edges stay: their rims could not be closed without crossing what is there; close them one by one.';
        }
        if ($this->after->nonmanifoldEdges > 0) {
            $left[] = $this->after->nonmanifoldEdges.' edges with more than two faces stay: it cannot be told which faces belong together; remove one of the parts there.';
        }
        if ($this->after->flippedEdges > 0) {
            $left[] = $this->after->flippedEdges.' edges whose faces disagree stay: the surface has one side only there; cut it open first.';
        }
        $crossing = count(array_unique(array_merge(...Uncross::pairs($this->mesh))));
        if ($crossing > 0) {
            $left[] = "$crossing faces cross others: bodies that overlap are not united by mending; combine them to make one of them.";
        }
        $fine = FileProof::crossing($this->mesh);
        if ($fine > 0) {
            $left[] = FileProof::sentence($fine);
        }

        return $left;
    }

    /** @param  Did  $did */
    private static function joined(Mesh $mesh, array &$did): Mesh
    {
        $size = Box::of($mesh->xyz)->size();
        $distance = 1e-5 * sqrt($size[0] ** 2 + $size[1] ** 2 + $size[2] ** 2);
        $open = EdgePlaces::of($mesh)->open;
        if ($open === [] || $distance <= 0) {
            return $mesh;
        }
        $joined = JoinVertices::of($mesh, $distance, array_values(array_unique([...array_column($open, 0), ...array_column($open, 1)])));
        $did['joined'] = $joined['joined'];

        return $joined['mesh'];
    }

    /**
     * Open shells of a few triangles beside something large.
     *
     * @return array{Mesh, int} and the number of triangles removed
     */
    private static function withoutScraps(Mesh $mesh): array
    {
        $shells = Bodies::shells($mesh);
        $sizes = [];
        foreach ($mesh->tags as $t => $_) {
            $s = $shells[$mesh->corners[3 * $t]];
            $sizes[$s] = ($sizes[$s] ?? 0) + 1;
        }
        if ($sizes === [] || max($sizes) < 1000) {
            return [$mesh, 0];
        }
        $most = max($sizes);
        $open = [];
        foreach (EdgePlaces::of($mesh)->open as [$a]) {
            $open[$shells[$a]] = true;
        }
        $gone = [];
        foreach ($mesh->tags as $t => $_) {
            $s = $shells[$mesh->corners[3 * $t]];
            if (isset($open[$s]) && $sizes[$s] <= 12 && $most > $sizes[$s] * 500) {
                $gone[$t] = true;
            }
        }

        return $gone === [] ? [$mesh, 0] : [RemoveFaces::of($mesh, $gone), count($gone)];
    }

    /**
     * @param  Closure(float): void  $progress
     * @return array{Mesh, int}
     */
    private static function withoutInner(Mesh $mesh, Closure $progress): array
    {
        $places = EdgePlaces::of($mesh);
        $shells = Shells::of($mesh);
        if ($places->nonmanifold === [] && $shells->count === 1) {
            return [$mesh, 0];
        }
        $tree = Tree::of($mesh);
        $inner = InnerFaces::of($mesh, $shells, $places, Crossings::of($mesh, $tree, $progress)->faces, $tree, false);
        if ($inner === []) {
            return [$mesh, 0];
        }
        $without = RemoveFaces::of($mesh, array_fill_keys($inner, true));

        return $without->isEmpty() ? [$mesh, 0] : [$without, count($inner)];
    }
}
