<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Closure;
use Isotome\Cells\Grain;
use Isotome\Cells\RoughWalls;
use Isotome\Cut\Keep;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;

/**
 * What is drawn across the view, carried along the line of sight: as settings, and as a division of the space around a body.
 *
 * A stroke's left side, seen by who draws, is ahead, its right side behind. What an outline goes round lies behind, the rest ahead.
 */
final readonly class DrawnBlade implements Dividing
{
    /** Corners of all lines together. */
    public const MOST_CORNERS = 5000;

    /** How far beyond the body's box the division reaches, as a share of its diagonal. */
    private const BEYOND = 0.1;

    /** Share of that by which another attempt moves the lines. */
    private const ATTEMPT = 1e-7;

    /**
     * @param  list<list<array{float, float, float}>>  $lines  mm; anywhere along the line of sight
     * @param  float|null  $depth  mm along the sight, from the foremost corner; null for through everything
     * @param  bool  $runsOn  the ends go on straight, beyond the body
     * @param  Grain|null  $grain  roughness of its walls
     */
    public function __construct(
        public Shape $shape,
        public array $lines,
        public Sight $sight,
        public bool $isSmooth = false,
        public ?float $depth = null,
        public float $kerf = 0.0,
        public Keep $keep = Keep::Both,
        public bool $runsOn = false,
        public ?Grain $grain = null,
    ) {
        if ($depth !== null && $kerf <= 0.0 && $shape !== Shape::Outline) {
            throw new BadBlade('A line that goes down to a depth parts nothing; give it a kerf, which makes it a groove, or let it go through.');
        }
    }

    /** @param  array{float, float, float}  $by  mm */
    public function movedBy(array $by): self
    {
        $lines = array_map(static fn (array $line): array => array_map(static fn (array $p): array => [$p[0] + $by[0], $p[1] + $by[1], $p[2] + $by[2]], $line), $this->lines);

        return new self($this->shape, $lines, $this->sight->moved($by), $this->isSmooth, $this->depth, $this->kerf, $this->keep, $this->runsOn, $this->grain);
    }

    /** The same with another roughness of its walls, or none. */
    public function withGrain(?Grain $grain): self
    {
        return new self($this->shape, $this->lines, $this->sight, $this->isSmooth, $this->depth, $this->kerf, $this->keep, $this->runsOn, $grain);
    }

    /**
     * The lines on the page, as they cut.
     *
     * @return list<non-empty-list<array{float, float}>> no two neighbours at one place; closed ones without their first point again
     */
    public function drawn(): array
    {
        $isClosed = $this->shape === Shape::Outline;
        $drawn = [];
        foreach ($this->lines as $line) {
            $flat = array_map(function (array $place): array {
                [$u, $v] = $this->sight->page($place);

                return [$u, $v];
            }, $line);
            $flat = $this->isSmooth ? Smooth::of(self::apart($flat, $isClosed), $isClosed) : $flat;
            $flat = self::apart($flat, $isClosed);
            if (count($flat) >= ($isClosed ? 3 : 2)) {
                $drawn[] = $flat;
            }
        }
        if ($drawn === []) {
            throw new BadBlade($isClosed ? 'The outline has no three corners apart from each other; draw it larger.' : 'The line has no two corners apart from each other; draw it longer.');
        }

        return $drawn;
    }

    /**
     * @param  list<array{float, float}>  $line
     * @return list<array{float, float}>
     */
    private static function apart(array $line, bool $isClosed): array
    {
        $apart = [];
        foreach ($line as $point) {
            if ($apart === [] || $point !== $apart[count($apart) - 1]) {
                $apart[] = $point;
            }
        }
        if ($isClosed && count($apart) > 1 && $apart[0] === $apart[count($apart) - 1]) {
            array_pop($apart);
        }

        return $apart;
    }

    /**
     * The space around a body, divided.
     *
     * @param  int  $attempt  from 0: another one moves the lines by a ten-millionth of the body, where rounding did not close
     * @param  Closure(float): mixed|null  $progress  called with the share done; it may throw to cancel
     *
     * @throws BadBlade
     */
    public function space(Mesh $body, int $attempt = 0, ?Closure $progress = null): Space
    {
        $apart = $this->roughApart($body, $attempt, $progress);
        if ($apart !== null) {
            return $apart;
        }
        [$low, $high] = $this->sight->box(Box::of($body->xyz));
        $silhouette = [$low[0], $high[0], $low[1], $high[1]];
        $margin = self::BEYOND * hypot($high[0] - $low[0], $high[1] - $low[1]) + 2 * $this->half($low[2]);
        $shift = $attempt * self::ATTEMPT * $margin;
        $lines = [];
        foreach ($this->drawn() as $line) {
            $line = $this->runsOn ? self::runOn($line, $silhouette, $margin) : $line;
            $lines[] = array_map(static fn (array $point): array => [$point[0] + $shift, $point[1] + 0.6180339887 * $shift], $line);
        }
        $laid = new Segments;
        $bands = $this->kerf > 0.0 ? $this->banded($lines, $laid, $this->half($low[2])) : [];
        $ends = $this->kerf > 0.0 ? [] : $this->plain($lines, $laid, new WayOut($body, $this->sight, $silhouette, $margin));
        $rectangle = $laid->around($silhouette, $margin);
        foreach ($ends as [$u, $v]) {
            // From beyond the body straight to the rim.
            $laid->add([[$u, $v], $u < $low[0] ? [$rectangle[0], $v] : ($u > $high[0] ? [$rectangle[1], $v] : [$u, $v < $low[1] ? $rectangle[2] : $rectangle[3]])]);
        }
        $division = Division::of($laid->segments, $rectangle);
        $sides = match ($this->shape) {
            Shape::Stroke => $laid->beside($division),
            Shape::Outline => self::around($division, $lines),
            // Lines that cross have no sides.
            Shape::Grid => array_fill(0, max(1, $division->regions()), 1),
        };
        foreach ($bands === [] ? [] : $division->middles() as $region => [$u, $v]) {
            if (Winding::total($bands, $u, $v) !== 0) {
                $sides[$region] = 0;
            }
        }

        $space = Space::of($division, array_values($sides), $this->sight, $low[2], $high[2], $this->floor(), $this->kerf > 0.0 || $this->shape === Shape::Outline ? 0 : 2 * count($lines) - count($ends));
        if ($this->grain === null) {
            return $space;
        }

        return new Space(RoughWalls::of($space->complex, $this->grain, Box::of($body->xyz), progress: $progress), $space->sides, $space->loose);
    }

    /**
     * With a grain and a kerf both sides are walls of the line without a kerf, apart from each other; null where such a line parts nothing, so that only a groove or a slot is left.
     *
     * @param  Closure(float): mixed|null  $progress
     *
     * @throws BadBlade
     */
    private function roughApart(Mesh $body, int $attempt, ?Closure $progress): ?Space
    {
        if ($this->grain === null || $this->kerf <= 0.0 || ($this->depth !== null && $this->shape !== Shape::Outline)) {
            return null;
        }
        $flat = (new self($this->shape, $this->lines, $this->sight, $this->isSmooth, $this->depth, 0.0, $this->keep, $this->runsOn))->space($body, $attempt);
        $removed = count($flat->sides);

        return $flat->loose > 0 ? null : new Space(RoughWalls::of($flat->complex, $this->grain, Box::of($body->xyz), $this->kerf, $removed, $progress), [...$flat->sides, 0]);
    }

    /**
     * Lines without a width. Beyond their ends, where the body is not, they go on, so that their sides are told apart.
     *
     * @param  list<non-empty-list<array{float, float}>>  $lines
     * @return list<array{float, float}> where they are beyond the body
     */
    private function plain(array $lines, Segments $laid, WayOut $out): array
    {
        $isClosed = $this->shape === Shape::Outline;
        $ends = [];
        foreach ($lines as $line) {
            $laid->add($line, $isClosed, 1, -1);
            foreach ($isClosed ? [] : [array_reverse($line), $line] as $way) {
                $n = count($way);
                $on = $out->from($way[$n - 1], $way[$n - 2]);
                if ($on !== null) {
                    $laid->add([$way[$n - 1], ...$on]);
                    $ends[] = $on[count($on) - 1];
                }
            }
        }

        return $ends;
    }

    /**
     * Both sides of lines that have a width. Outside is what lies to the left of either: the right one runs back.
     *
     * @param  list<non-empty-list<array{float, float}>>  $lines
     * @return list<list<array{float, float}>> loops that wind around what is removed
     */
    private function banded(array $lines, Segments $laid, float $half): array
    {
        $bands = [];
        foreach ($lines as $line) {
            $isClosed = $this->shape === Shape::Outline;
            [[$one], [$two]] = Widened::of($line, $isClosed, $half);
            $laid->add($one, $isClosed, 1);
            $laid->add($two, $isClosed, -1);
            if ($isClosed) {
                array_push($bands, $one, $two);
            } else {
                $laid->add([$one[count($one) - 1], $two[0]]);
                $laid->add([$two[count($two) - 1], $one[0]]);
                $bands[] = [...$one, ...$two];
            }
        }

        return $bands;
    }

    /** Does a side stay: 1 ahead, −1 behind? */
    public function keeps(int $side): bool
    {
        return $this->keep !== ($side > 0 ? Keep::Behind : Keep::Ahead);
    }

    /** Half of the kerf on the page: from an eye, what it is at that distance. */
    private function half(float $distance): float
    {
        return $this->kerf / 2 / ($this->sight->eye === null ? 1.0 : $distance);
    }

    /** How far down it goes, as a distance along the sight; null for through everything. */
    public function floor(): ?float
    {
        if ($this->depth === null) {
            return null;
        }
        $foremost = INF;
        foreach ($this->lines as $line) {
            foreach ($line as $place) {
                $foremost = min($foremost, $this->sight->page($place)[2]);
            }
        }

        return $foremost + $this->depth;
    }

    /**
     * Both ends carried on straight until they are beyond the body.
     *
     * @param  non-empty-list<array{float, float}>  $line
     * @param  array{float, float, float, float}  $silhouette
     * @return non-empty-list<array{float, float}>
     */
    private static function runOn(array $line, array $silhouette, float $margin): array
    {
        [$u0, $u1, $v0, $v1] = $silhouette;
        $far = $margin + hypot($u1 - $u0, $v1 - $v0);
        foreach ($line as [$u, $v]) {
            $far = max($far, $margin + hypot($u1 - $u0, $v1 - $v0) + hypot($u - ($u0 + $u1) / 2, $v - ($v0 + $v1) / 2));
        }
        $n = count($line);
        $first = StraightOn::from($line[1], $line[0], $far);
        $line[$n - 1] = StraightOn::from($line[$n - 2], $line[$n - 1], $far);
        $line[0] = $first;

        return $line;
    }

    /**
     * Within or around outlines: by how often they go round a place.
     *
     * @param  list<list<array{float, float}>>  $outlines
     * @return list<int> of each region
     */
    private static function around(Division $division, array $outlines): array
    {
        return array_map(static fn (array $middle): int => Winding::crossings($outlines, ...$middle) % 2 === 1 ? -1 : 1, $division->middles());
    }
}
