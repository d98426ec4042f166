<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Closure;
use Isotome\Cells\Bounds;
use Isotome\Cells\Grain;
use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/**
 * A flat blade with a grain: a surface of heights over its plane, triangulated evenly where the body is cut. With a kerf it is there twice, so that both sides keep their distance along the facing.
 *
 * A surface of heights never crosses itself, whatever its grain is.
 */
final readonly class RoughBlade implements Dividing
{
    /** Triangles of the surface. */
    private const MOST = 150_000;

    /** How far beyond the body it goes on, flat, as a share of the body's extent. */
    private const BEYOND = 0.1;

    /** Share of that by which another attempt moves the surface. */
    private const ATTEMPT = 1e-7;

    public function __construct(
        public Plane $plane,
        public Grain $grain,
        public float $kerf = 0.0,
        public KerfSide $kerfSide = KerfSide::Centre,
        public Keep $keep = Keep::Both,
    ) {
    }

    /** @param  array{float, float, float}  $by  mm */
    public function movedBy(array $by): self
    {
        [$x, $y, $z] = $this->plane->facing();

        return new self(Plane::at($this->plane->offset + $x * $by[0] + $y * $by[1] + $z * $by[2], [$x, $y, $z]), $this->grain, $this->kerf, $this->kerfSide, $this->keep);
    }

    /** Does a side stay: 1 ahead, −1 behind? */
    public function keeps(int $side): bool
    {
        return $this->keep !== ($side > 0 ? Keep::Behind : Keep::Ahead);
    }

    /**
     * The space around a body, divided; all of it on one side when the blade passes the body by.
     *
     * @throws BadBlade when the surface would have too many triangles
     */
    public function space(Mesh $body, int $attempt = 0, ?Closure $progress = null): Space
    {
        [$x, $y, $z] = $this->plane->facing();
        // Looked at from ahead: the distance grows against the facing.
        $sight = Sight::along([-$x, -$y, -$z]);
        [$ahead, $behind] = match ($this->kerfSide) {
            KerfSide::Centre => [$this->kerf / 2, $this->kerf / 2],
            KerfSide::Ahead => [$this->kerf, 0.0],
            KerfSide::Behind => [0.0, $this->kerf],
        };
        $reach = $this->grain->reach();
        [$all, $near] = $this->extents($body, $sight, $this->plane->offset - $reach - $behind, $this->plane->offset + $reach + $ahead);
        if ($near === null) {
            return $this->oneSide($sight, $all);
        }
        $edge = $this->grain->edge;
        $across = (int) ceil(($near[1] - $near[0]) / $edge) + 2;
        $up = (int) ceil(($near[3] - $near[2]) / $edge) + 2;
        if (2 * $across * $up > self::MOST) {
            throw new BadBlade(sprintf('The grain would have about %s triangles; give it edges of at least %.2f mm, or a larger size.', number_format(2 * $across * $up), $edge * sqrt(2 * $across * $up / self::MOST)));
        }
        $margin = self::BEYOND * max($all[1] - $all[0], $all[3] - $all[2], $all[5] - $all[4]) + 2 * $edge + $reach + $this->kerf;
        [$points, $polygons, $heights] = $this->sheet($near, $across, $up, $all, $margin, $attempt * self::ATTEMPT * $margin);
        $count = count($points);
        $cells = count($polygons);
        $at = -$this->plane->offset;
        $surface = static fn (float $moved): array => array_map(static fn (float $h): float => $at - $h - $moved, $heights);
        $levels = [array_fill(0, $count, $all[4] - $margin), $surface($ahead), ...($this->kerf > 0.0 ? [$surface(-$behind)] : []), array_fill(0, $count, $all[5] + $margin)];
        // Shard 0 is ahead, 1 behind, 2 between.
        $label = [...array_fill(0, $cells, 0), ...($this->kerf > 0.0 ? array_fill(0, $cells, 2) : []), ...array_fill(0, $cells, 1)];

        $bounds = new Bounds([[$x, $y, $z, $this->plane->offset + $reach + $ahead], [-$x, -$y, -$z, -($this->plane->offset - $reach - $behind)]], [0, 1]);

        return new Space(Space::stacked($points, $polygons, $sight, $levels, $label, $bounds), $this->kerf > 0.0 ? [1, -1, 0] : [1, -1]);
    }

    /** @param  array{float, float, float, float, float, float}  $all */
    private function oneSide(Sight $sight, array $all): Space
    {
        $margin = 1.0 + $all[1] - $all[0] + $all[3] - $all[2] + $all[5] - $all[4];
        [$a, $b, $c, $d] = [$all[0] - $margin, $all[1] + $margin, $all[2] - $margin, $all[3] + $margin];
        $levels = [array_fill(0, 4, $all[4] - $margin), array_fill(0, 4, $all[5] + $margin)];

        // The distance grows against the facing: what is nearer than the blade is ahead of it.
        return new Space(Space::stacked([[$a, $c], [$b, $c], [$b, $d], [$a, $d]], [[0, 1, 2, 3]], $sight, $levels, [0]), [$all[5] < -$this->plane->offset ? 1 : -1]);
    }

    /**
     * @return array{array{float, float, float, float, float, float}, array{float, float, float, float}|null} least and greatest u, v, w of the body; least and greatest u, v of the triangles that
     *     reach between two offsets
     */
    private function extents(Mesh $body, Sight $sight, float $low, float $high): array
    {
        $us = $vs = $ws = [];
        $xyz = $body->xyz;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            [$us[], $vs[], $ws[]] = $sight->page([$xyz[$i], $xyz[$i + 1], $xyz[$i + 2]]);
        }
        if ($us === [] || $vs === [] || $ws === []) {
            return [[0.0, 0.0, 0.0, 0.0, 0.0, 0.0], null];
        }
        [$u0, $u1, $v0, $v1] = [INF, -INF, INF, -INF];
        $corners = $body->corners;
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            [$a, $b, $c] = [$corners[$i], $corners[$i + 1], $corners[$i + 2]];
            if (max(-$ws[$a], -$ws[$b], -$ws[$c]) >= $low && min(-$ws[$a], -$ws[$b], -$ws[$c]) <= $high) {
                $u0 = min($u0, $us[$a], $us[$b], $us[$c]);
                $u1 = max($u1, $us[$a], $us[$b], $us[$c]);
                $v0 = min($v0, $vs[$a], $vs[$b], $vs[$c]);
                $v1 = max($v1, $vs[$a], $vs[$b], $vs[$c]);
            }
        }

        return [[min($us), max($us), min($vs), max($vs), min($ws), max($ws)], $u0 > $u1 ? null : [$u0, $u1, $v0, $v1]];
    }

    /**
     * Triangles on a grid, with heights; around them four flat frames.
     *
     * @param  array{float, float, float, float}  $near
     * @param  array{float, float, float, float, float, float}  $all
     * @return array{list<array{float, float}>, list<list<int>>, list<float>} points, polygons, heights
     */
    private function sheet(array $near, int $across, int $up, array $all, float $margin, float $shift): array
    {
        $edge = $this->grain->edge;
        // On a grid of the page's own, so that a neighbour with the same blade has the same surface.
        $u0 = floor($near[0] / $edge) * $edge - 1.5 * $edge + $shift;
        $v0 = floor($near[2] / $edge) * $edge - 1.5 * $edge + 0.6180339887 * $shift;
        $across += 2;
        $up += 2;
        $points = $heights = $polygons = [];
        for ($j = 0; $j <= $up; $j++) {
            for ($i = 0; $i <= $across; $i++) {
                [$u, $v] = [$u0 + $i * $edge, $v0 + $j * $edge];
                $points[] = [$u, $v];
                $heights[] = $i === 0 || $j === 0 || $i === $across || $j === $up ? 0.0 : $this->grain->at($u, $v);
            }
        }
        $w = $across + 1;
        for ($j = 0; $j < $up; $j++) {
            for ($i = 0; $i < $across; $i++) {
                $p = $j * $w + $i;
                // Diagonals in turn, so that no direction is preferred.
                if (($i + $j) % 2 === 0) {
                    $polygons[] = [$p, $p + 1, $p + $w + 1];
                    $polygons[] = [$p, $p + $w + 1, $p + $w];
                } else {
                    $polygons[] = [$p, $p + 1, $p + $w];
                    $polygons[] = [$p + 1, $p + $w + 1, $p + $w];
                }
            }
        }
        // Its rim, and the corners of the rectangle around the body.
        $n = count($points);
        [$a, $b] = [min($all[0], $u0) - $margin, max($all[1], $u0 + $across * $edge) + $margin];
        [$c, $d] = [min($all[2], $v0) - $margin, max($all[3], $v0 + $up * $edge) + $margin];
        array_push($points, [$a, $c], [$b, $c], [$b, $d], [$a, $d]);
        array_push($heights, 0.0, 0.0, 0.0, 0.0);
        $bottom = range(0, $across);
        $right = range($across, $up * $w + $across, $w);
        $top = range($up * $w, $up * $w + $across);
        $left = range(0, $up * $w, $w);
        // Each frame has the rim on one side; straight corners are allowed.
        $polygons[] = [$n, $n + 1, ...array_reverse($bottom)];
        $polygons[] = [$n + 1, $n + 2, ...array_reverse($right)];
        $polygons[] = [$n + 2, $n + 3, ...$top];
        $polygons[] = [$n + 3, $n, ...$left];

        return [$points, $polygons, $heights];
    }
}
