<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BrokenPromise;
use Isotome\Geometry\ErrorBound;
use Isotome\Geometry\Expansion;
use Isotome\Geometry\Extent;
use Isotome\Geometry\Orientation;
use Isotome\Geometry\Orientation3;
use Isotome\Mesh\Mesh;

/**
 * Where the skin of a body and the facets of cells meet: new vertices on edges of either, and the chords between them.
 *
 * Every sign is exact, facets being taken as fans of triangles; where a sign is 0 the body counts as moved by a step smaller than any
 * number, first along x, then y, then z (H. Edelsbrunner, E. P. Mücke, "Simulation of simplicity", ACM Transactions on Graphics 9, 1990). So a
 * skin without open edges is crossed in a way that closes, whatever the place. Vertices within a hair of a facet are taken a hair
 * into the body first: faces that lie on a facet stay wholly on the side whose material they bound. Diagonals of the fans leave no trace.
 *
 * Vertices are numbered: those of the mesh, then those of the cells, then the new ones.
 */
final class Crossings
{
    private const FILTER = ErrorBound::TRIPLE;

    /** @var array<int, list<array{int, int, int}>> triangle → chords: from, to, facet; what is behind the facet lies on the left, seen from outside */
    public array $chords = [];

    /** @var array<int, list<array{float, int, int, int, int}>> edge of the skin (lower vertex << 32 | higher) → share of the way, shard left, shard entered, new vertex, facet */
    public array $onSkin = [];

    /** @var array<int, list<array{float, int, int, int}>> edge of the cells → share of the way, 1 into the body or −1 out of it, new vertex, triangle */
    public array $onCells = [];

    /** @var list<float> coordinates of the new vertices */
    public array $made = [];

    /** @var list<int> the triangles that were looked at: all that can touch a facet */
    public array $near = [];

    /** @var list<int> shard of each vertex of the mesh; −2 where a facet is too near to tell */
    public array $label = [];

    private int $next;

    private readonly float $extent;

    /** Distance that rounding cannot reach when a place is computed, mm. */
    private readonly float $unsure;

    /** @var array<int, list<float>> planes through the rim edges of a facet, see wallsOf */
    private array $walls = [];

    /**
     * @param  float  $hair  mm; see above
     * @param  float  $extent  mm: largest absolute coordinate of the mesh
     * @param  float  $reach  mm: how far from a cell's own facets the facets that cut may lie
     */
    private function __construct(
        private readonly Mesh $mesh,
        private readonly Complex $complex,
        private readonly Complex $space,
        private readonly float $hair,
        float $extent,
        private readonly float $reach,
    ) {
        $this->next = $mesh->vertexCount() + intdiv(count($complex->xyz), 3);
        $this->extent = max(1e-300, $extent, Extent::of($complex->xyz));
        $this->unsure = 1e-13 * $this->extent;
    }

    /**
     * @param  Complex  $complex  the facets that cut
     * @param  Complex  $space  the same cells without a kerf: they fill the space, and tell which cell a place is in
     * @param  float  $hair  mm; see above
     * @param  float  $extent  mm: largest absolute coordinate of the mesh
     * @param  float  $reach  mm: how far from a cell's own facets the facets that cut may lie
     */
    public static function of(Mesh $mesh, Complex $complex, Complex $space, float $hair, float $extent, float $reach = 0.0): self
    {
        $crossings = new self($mesh, $complex, $space, $hair, $extent, $reach);
        if ($complex->isRough) {
            return $crossings->onRough();
        }
        if ($space === $complex && $space->bounds !== null) {
            return $crossings->within($space->bounds);
        }
        [$cells, $close] = Locate::of($mesh->xyz, $space, 8 * $hair, 8 * $hair + $reach);
        foreach ($cells as $v => $cell) {
            $crossings->label[] = $close[$v] ? -2 : $complex->label[$cell];
        }
        $crossings->near = self::touched($mesh, array_keys($mesh->tags), $cells, $close);
        $crossings->cross($cells, $crossings->movedIn($close));

        return $crossings;
    }

    /** Walls around shards of any shape: those near a triangle are found by a grid, and the shards later, by going along the skin. */
    private function onRough(): self
    {
        $xyz = $this->mesh->xyz;
        $corners = $this->mesh->corners;
        $planes = $this->complex->planes;
        $boxes = self::boxes($this->complex);
        $grid = new FacetGrid($boxes);
        $far = $grid->far($xyz);
        $most = $grid->size - 16 * $this->hair;
        $band = 8 * $this->hair;
        $this->label = array_fill(0, $this->mesh->vertexCount(), -2);
        $close = array_fill(0, $this->mesh->vertexCount(), false);
        /** @var array<int, list<int>> $facets near each triangle */
        $facets = [];
        for ($i = 0, $t = 0, $count = count($corners); $i < $count; $i += 3, $t++) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            // Most triangles are far from all walls.
            if ($far[$corners[$i]] && abs($xyz[$b] - $xyz[$a]) < $most && abs($xyz[$c] - $xyz[$a]) < $most && abs($xyz[$b + 1] - $xyz[$a + 1]) < $most && abs($xyz[$c + 1] - $xyz[$a + 1]) < $most
                && abs($xyz[$b + 2] - $xyz[$a + 2]) < $most && abs($xyz[$c + 2] - $xyz[$a + 2]) < $most) {
                continue;
            }
            $box = self::around($xyz, $a, $b, $c, $band);
            foreach ($grid->near(...$box) as $f) {
                $k = 4 * $f;
                $da = $planes[$k] * $xyz[$a] + $planes[$k + 1] * $xyz[$a + 1] + $planes[$k + 2] * $xyz[$a + 2] - $planes[$k + 3];
                $db = $planes[$k] * $xyz[$b] + $planes[$k + 1] * $xyz[$b + 1] + $planes[$k + 2] * $xyz[$b + 2] - $planes[$k + 3];
                $dc = $planes[$k] * $xyz[$c] + $planes[$k + 1] * $xyz[$c + 1] + $planes[$k + 2] * $xyz[$c + 2] - $planes[$k + 3];
                if (($da > $band && $db > $band && $dc > $band) || ($da < -$band && $db < -$band && $dc < -$band)) {
                    continue;
                }
                $facets[$t][] = $f;
                foreach ([[$a, $da], [$b, $db], [$c, $dc]] as [$v, $d]) {
                    $k = 6 * $f;
                    if ($d <= $band && $d >= -$band && $xyz[$v] >= $boxes[$k] - $band && $xyz[$v] <= $boxes[$k + 3] + $band && $xyz[$v + 1] >= $boxes[$k + 1] - $band
                        && $xyz[$v + 1] <= $boxes[$k + 4] + $band && $xyz[$v + 2] >= $boxes[$k + 2] - $band && $xyz[$v + 2] <= $boxes[$k + 5] + $band) {
                        $close[intdiv($v, 3)] = true;
                    }
                }
            }
        }
        // All triangles at a vertex that is moved are looked at.
        for ($i = 0, $t = 0; $i < $count; $i += 3, $t++) {
            if (isset($facets[$t]) || $close[$corners[$i]] || $close[$corners[$i + 1]] || $close[$corners[$i + 2]]) {
                $this->near[] = $t;
            }
        }
        $xyz = $this->movedIn(array_values($close));
        foreach ($facets as $t => $some) {
            $a = 3 * $corners[3 * $t];
            $b = 3 * $corners[3 * $t + 1];
            $c = 3 * $corners[3 * $t + 2];
            $box = self::around($xyz, $a, $b, $c, $band);
            foreach ($some as $f) {
                $k = 4 * $f;
                $da = $planes[$k] * $xyz[$a] + $planes[$k + 1] * $xyz[$a + 1] + $planes[$k + 2] * $xyz[$a + 2] - $planes[$k + 3];
                $db = $planes[$k] * $xyz[$b] + $planes[$k + 1] * $xyz[$b + 1] + $planes[$k + 2] * $xyz[$b + 2] - $planes[$k + 3];
                $dc = $planes[$k] * $xyz[$c] + $planes[$k + 1] * $xyz[$c + 1] + $planes[$k + 2] * $xyz[$c + 2] - $planes[$k + 3];
                $isClear = ($da > $band || $da < -$band) && ($db > $band || $db < -$band) && ($dc > $band || $dc < -$band);
                $chord = $isClear
                    ? $this->clearChord($t, $a, $b, $c, $xyz, $f, $this->complex->loops[$f], $da, $db, $dc, $box)
                    : $this->chord($t, $a, $b, $c, $xyz, $f, $this->complex->loops[$f]);
                if ($chord !== null) {
                    $this->chords[$t][] = $chord;
                }
            }
        }

        return $this;
    }

    /**
     * @param  list<float>  $xyz
     * @return array{float, float, float, float, float, float} least x, y, z of a triangle and greatest, a band wider
     */
    private static function around(array $xyz, int $a, int $b, int $c, float $band): array
    {
        return [
            min($xyz[$a], $xyz[$b], $xyz[$c]) - $band, min($xyz[$a + 1], $xyz[$b + 1], $xyz[$c + 1]) - $band, min($xyz[$a + 2], $xyz[$b + 2], $xyz[$c + 2]) - $band,
            max($xyz[$a], $xyz[$b], $xyz[$c]) + $band, max($xyz[$a + 1], $xyz[$b + 1], $xyz[$c + 1]) + $band, max($xyz[$a + 2], $xyz[$b + 2], $xyz[$c + 2]) + $band,
        ];
    }

    /** Only triangles that reach between the bounds can be cut, and only of their vertices it must be known in which cell they are. */
    private function within(Bounds $bounds): self
    {
        $xyz = $this->mesh->xyz;
        $corners = $this->mesh->corners;
        $beyond = $bounds->beyond($xyz, 64 * $this->hair);
        $vertices = $this->mesh->vertexCount();
        $isNear = array_fill(0, max(1, $vertices), false);
        $near = [];
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $n = $beyond[$a];
            if ($n >= 0 && $n === $beyond[$b] && $n === $beyond[$c]) {
                continue;
            }
            $near[] = intdiv($i, 3);
            $isNear[$a] = $isNear[$b] = $isNear[$c] = true;
        }
        $some = [];
        foreach ($isNear as $v => $is) {
            if ($is) {
                $some[] = $xyz[3 * $v];
                $some[] = $xyz[3 * $v + 1];
                $some[] = $xyz[3 * $v + 2];
            }
        }
        [$found, $isClose] = Locate::of($some, $this->space, 8 * $this->hair, 8 * $this->hair);
        $shards = [-1 => -1, ...$bounds->shards];
        $cells = $close = $label = [];
        $n = 0;
        foreach ($beyond as $v => $plane) {
            if (! $isNear[$v]) {
                $cells[] = 0;
                $close[] = false;
                $label[] = $shards[$plane];

                continue;
            }
            $cells[] = $found[$n];
            $close[] = $isClose[$n];
            $label[] = $isClose[$n] ? -2 : $this->complex->label[$found[$n]];
            $n++;
        }
        $this->label = $label;
        $this->near = self::touched($this->mesh, $near, $cells, $close);
        $this->cross($cells, $this->movedIn($close));

        return $this;
    }

    /**
     * @param  list<int>  $triangles
     * @param  list<int>  $cells
     * @param  list<bool>  $close
     * @return list<int>
     */
    private static function touched(Mesh $mesh, array $triangles, array $cells, array $close): array
    {
        $near = [];
        $corners = $mesh->corners;
        foreach ($triangles as $t) {
            $a = $corners[3 * $t];
            $b = $corners[3 * $t + 1];
            $c = $corners[3 * $t + 2];
            if ($cells[$a] !== $cells[$b] || $cells[$b] !== $cells[$c] || $close[$a] || $close[$b] || $close[$c]) {
                $near[] = $t;
            }
        }

        return $near;
    }

    /**
     * The coordinates by which all is decided.
     *
     * @param  list<bool>  $close
     * @return list<float>
     */
    private function movedIn(array $close): array
    {
        $xyz = $this->mesh->xyz;
        if (! in_array(true, $close, true)) {
            return $xyz;
        }
        $corners = $this->mesh->corners;
        $normal = [];
        foreach ($this->near as $t) {
            $p = [$corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]];
            if (! $close[$p[0]] && ! $close[$p[1]] && ! $close[$p[2]]) {
                continue;
            }
            [$a, $b, $c] = [3 * $p[0], 3 * $p[1], 3 * $p[2]];
            $ux = $xyz[$b] - $xyz[$a];
            $uy = $xyz[$b + 1] - $xyz[$a + 1];
            $uz = $xyz[$b + 2] - $xyz[$a + 2];
            $vx = $xyz[$c] - $xyz[$a];
            $vy = $xyz[$c + 1] - $xyz[$a + 1];
            $vz = $xyz[$c + 2] - $xyz[$a + 2];
            $n = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $length = sqrt($n[0] * $n[0] + $n[1] * $n[1] + $n[2] * $n[2]);
            if ($length == 0.0) {
                continue;
            }
            foreach ($p as $v) {
                if ($close[$v]) {
                    $normal[$v] ??= [0.0, 0.0, 0.0];
                    foreach ($n as $k => $part) {
                        $normal[$v][$k] += $part / $length;
                    }
                }
            }
        }
        foreach ($normal as $v => $n) {
            $length = sqrt($n[0] * $n[0] + $n[1] * $n[1] + $n[2] * $n[2]);
            if ($length > 1e-6) {
                foreach ($n as $k => $part) {
                    $xyz[3 * $v + $k] -= $this->hair * $part / $length;
                }
            }
        }

        return array_values($xyz);
    }

    /**
     * @param  list<int>  $cells
     * @param  list<float>  $xyz
     */
    private function cross(array $cells, array $xyz): void
    {
        $corners = $this->mesh->corners;
        $isSame = $this->space === $this->complex;
        $planes = $this->space->planes;
        $behind = $this->space->behind;
        $ahead = $this->space->ahead;
        $facetsOf = $this->space->facetsOf;
        $boxes = self::boxes($this->space);
        $cutting = $isSame ? $boxes : self::boxes($this->complex);
        $cuts = $this->cutting();
        $loops = $this->complex->loops;
        $band = 8 * $this->hair + $this->reach;
        $seenFacet = array_fill(0, max(1, count($behind)), -1);
        $seenCell = array_fill(0, $this->space->cells(), -1);
        foreach ($this->near as $t) {
            $a = 3 * $corners[3 * $t];
            $b = 3 * $corners[3 * $t + 1];
            $c = 3 * $corners[3 * $t + 2];
            $ax = $xyz[$a];
            $ay = $xyz[$a + 1];
            $az = $xyz[$a + 2];
            $bx = $xyz[$b];
            $by = $xyz[$b + 1];
            $bz = $xyz[$b + 2];
            $cx = $xyz[$c];
            $cy = $xyz[$c + 1];
            $cz = $xyz[$c + 2];
            $lowX = ($ax < $bx ? ($ax < $cx ? $ax : $cx) : ($bx < $cx ? $bx : $cx)) - $band;
            $lowY = ($ay < $by ? ($ay < $cy ? $ay : $cy) : ($by < $cy ? $by : $cy)) - $band;
            $lowZ = ($az < $bz ? ($az < $cz ? $az : $cz) : ($bz < $cz ? $bz : $cz)) - $band;
            $highX = ($ax > $bx ? ($ax > $cx ? $ax : $cx) : ($bx > $cx ? $bx : $cx)) + $band;
            $highY = ($ay > $by ? ($ay > $cy ? $ay : $cy) : ($by > $cy ? $by : $cy)) + $band;
            $highZ = ($az > $bz ? ($az > $cz ? $az : $cz) : ($bz > $cz ? $bz : $cz)) + $band;
            $queue = [];
            foreach ([$cells[intdiv($a, 3)], $cells[intdiv($b, 3)], $cells[intdiv($c, 3)]] as $cell) {
                if ($seenCell[$cell] !== $t) {
                    $seenCell[$cell] = $t;
                    $queue[] = $cell;
                }
            }
            for ($at = 0; $at < count($queue); $at++) {
                foreach ($facetsOf[$queue[$at]] as $f) {
                    if ($seenFacet[$f] === $t) {
                        continue;
                    }
                    $seenFacet[$f] = $t;
                    $k = 6 * $f;
                    if ($boxes[$k] > $highX || $boxes[$k + 3] < $lowX || $boxes[$k + 1] > $highY || $boxes[$k + 4] < $lowY || $boxes[$k + 2] > $highZ || $boxes[$k + 5] < $lowZ) {
                        continue;
                    }
                    $k = 4 * $f;
                    $nx = $planes[$k];
                    $ny = $planes[$k + 1];
                    $nz = $planes[$k + 2];
                    $d = $planes[$k + 3];
                    $da = $nx * $ax + $ny * $ay + $nz * $az - $d;
                    $db = $nx * $bx + $ny * $by + $nz * $bz - $d;
                    $dc = $nx * $cx + $ny * $cy + $nz * $cz - $d;
                    if (($da > $band && $db > $band && $dc > $band) || ($da < -$band && $db < -$band && $dc < -$band)) {
                        continue;
                    }
                    foreach ([$behind[$f], $ahead[$f]] as $cell) {
                        if ($cell >= 0 && $seenCell[$cell] !== $t) {
                            $seenCell[$cell] = $t;
                            $queue[] = $cell;
                        }
                    }
                    if ($isSame && $cuts[$f]) {
                        $isClear = ($da > $band || $da < -$band) && ($db > $band || $db < -$band) && ($dc > $band || $dc < -$band);
                        $chord = $isClear
                            ? $this->clearChord($t, $a, $b, $c, $xyz, $f, $loops[$f], $da, $db, $dc, [$lowX, $lowY, $lowZ, $highX, $highY, $highZ])
                            : $this->chord($t, $a, $b, $c, $xyz, $f, $loops[$f]);
                        if ($chord !== null) {
                            $this->chords[$t][] = $chord;
                        }
                    }
                }
                if ($isSame) {
                    continue;
                }
                // With a kerf a facet belongs to one cell alone.
                foreach ($this->complex->facetsOf[$queue[$at]] as $f) {
                    $k = 6 * $f;
                    if (! $cuts[$f] || $cutting[$k] > $highX || $cutting[$k + 3] < $lowX || $cutting[$k + 1] > $highY || $cutting[$k + 4] < $lowY || $cutting[$k + 2] > $highZ || $cutting[$k + 5] < $lowZ) {
                        continue;
                    }
                    $chord = $this->chord($t, $a, $b, $c, $xyz, $f, $loops[$f]);
                    if ($chord !== null) {
                        $this->chords[$t][] = $chord;
                    }
                }
            }
        }
    }

    /** @return list<float> lowest and highest corner of each facet */
    private static function boxes(Complex $complex): array
    {
        $boxes = [];
        $xyz = $complex->xyz;
        foreach ($complex->loops as $loop) {
            $lowX = $lowY = $lowZ = INF;
            $highX = $highY = $highZ = -INF;
            foreach ($loop as $v) {
                $v *= 3;
                $x = $xyz[$v];
                $y = $xyz[$v + 1];
                $z = $xyz[$v + 2];
                $lowX = $x < $lowX ? $x : $lowX;
                $highX = $x > $highX ? $x : $highX;
                $lowY = $y < $lowY ? $y : $lowY;
                $highY = $y > $highY ? $y : $highY;
                $lowZ = $z < $lowZ ? $z : $lowZ;
                $highZ = $z > $highZ ? $z : $highZ;
            }
            array_push($boxes, $lowX, $lowY, $lowZ, $highX, $highY, $highZ);
        }

        return $boxes;
    }

    /** @return list<bool> whether each facet cuts */
    private function cutting(): array
    {
        $cuts = [];
        foreach ($this->complex->loops as $f => $_) {
            $cuts[] = $this->complex->cuts($f);
        }

        return $cuts;
    }

    /**
     * The chord of a triangle none of whose corners is near the facet's plane: whether an edge passes within the facet is told by its rim alone,
     * by rounded numbers where these are certain. The exact signs say the same.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $loop
     * @param  array{float, float, float, float, float, float}  $box  of the triangle, a band wider
     * @return array{int, int, int}|null
     */
    private function clearChord(int $t, int $a, int $b, int $c, array $xyz, int $f, array $loop, float $da, float $db, float $dc, array $box): ?array
    {
        $beside = $this->beside($xyz, $a, $b, $c, $loop);
        if ($beside === null) {
            return null;
        }
        [$sides, $away, $steep] = $beside;
        $all = $this->complex->xyz;
        $start = $end = null;
        $n = count($loop);
        $vertices = [$a, $b, $c];
        $p = $n - 1;
        for ($q = 0; $q < $n; $p = $q++) {
            if ($sides[$p] === $sides[$q]) {
                continue;
            }
            // Where the rim passes the triangle's plane, and how sure that place is.
            $u = 3 * $loop[$p];
            $v = 3 * $loop[$q];
            $across = $away[$p] - $away[$q];
            $s = $across == 0.0 ? 0.5 : $away[$p] / $across;
            $dx = $all[$v] - $all[$u];
            $dy = $all[$v + 1] - $all[$u + 1];
            $dz = $all[$v + 2] - $all[$u + 2];
            $slack = $across == 0.0 ? INF : $this->unsure * (1 + (abs($dx) + abs($dy) + abs($dz)) * $steep / abs($across));
            $x = $all[$u] + $s * $dx;
            $y = $all[$u + 1] + $s * $dy;
            $z = $all[$u + 2] + $s * $dz;
            if ($x < $box[0] - $slack || $x > $box[3] + $slack || $y < $box[1] - $slack || $y > $box[4] + $slack || $z < $box[2] - $slack || $z > $box[5] + $slack) {
                continue;
            }
            $sum = $this->edges($xyz, $a, $b, $u, $v) + $this->edges($xyz, $b, $c, $u, $v) + $this->edges($xyz, $c, $a, $u, $v);
            if ($sum === 3 || $sum === -3) {
                $id = $this->atCells($loop[$p], $loop[$q], $away[$p], $away[$q], $t, $sides[$p] > 0);
                $sides[$p] > 0 ? $start = $id : $end = $id;
            }
        }
        if ($start !== null && $end !== null) {
            return [$start, $end, $f];
        }
        $far = [$da, $db, $dc];
        $walls = $this->walls[$f] ??= $this->wallsOf($f);
        for ($i = 0; $i < 3; $i++) {
            $j = $i === 2 ? 0 : $i + 1;
            $isAhead = $far[$i] < 0;
            if ($isAhead === ($far[$j] < 0)) {
                continue;
            }
            $k = $vertices[$i];
            $l = $vertices[$j];
            $across = $far[$i] - $far[$j];
            $s = $far[$i] / $across;
            $dx = $xyz[$l] - $xyz[$k];
            $dy = $xyz[$l + 1] - $xyz[$k + 1];
            $dz = $xyz[$l + 2] - $xyz[$k + 2];
            $slack = $this->unsure * (1 + (abs($dx) + abs($dy) + abs($dz)) / abs($across));
            $x = $xyz[$k] + $s * $dx;
            $y = $xyz[$k + 1] + $s * $dy;
            $z = $xyz[$k + 2] + $s * $dz;
            $isWithin = true;
            $w = 0;
            for ($m = 0; $m < $n; $m++) {
                $e = $walls[$w] * $x + $walls[$w + 1] * $y + $walls[$w + 2] * $z - $walls[$w + 3];
                $w += 4;
                if ($e < -$slack) {
                    continue;
                }
                if ($e > $slack || $this->edges($xyz, $k, $l, 3 * $loop[$m], 3 * $loop[$m + 1 < $n ? $m + 1 : 0]) !== ($isAhead ? 1 : -1)) {
                    $isWithin = false;
                    break;
                }
            }
            if ($isWithin) {
                $id = $this->atSkin($k, $l, $far[$i], $far[$j], $f, $isAhead);
                $isAhead ? $start = $id : $end = $id;
            }
        }
        if (($start === null) !== ($end === null)) {
            throw new BrokenPromise("A facet of the cells and triangle $t of the skin meet in one point only; give the cells another seed.");
        }

        return $start === null || $end === null ? null : [$start, $end, $f];
    }

    /**
     * A facet's vertices beside the plane of the skin's triangle a, b, c.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $loop
     * @return array{list<int>, list<float>, float}|null 1 outside, −1 within; distances times the last number; null when all are on one side
     */
    private function beside(array $xyz, int $a, int $b, int $c, array $loop): ?array
    {
        $all = $this->complex->xyz;
        $ax = $xyz[$a];
        $ay = $xyz[$a + 1];
        $az = $xyz[$a + 2];
        $bx = $xyz[$b] - $ax;
        $by = $xyz[$b + 1] - $ay;
        $bz = $xyz[$b + 2] - $az;
        $cx = $xyz[$c] - $ax;
        $cy = $xyz[$c + 1] - $ay;
        $cz = $xyz[$c + 2] - $az;
        $tx = ($p1 = $by * $cz) - ($p2 = $bz * $cy);
        $ty = ($q1 = $bz * $cx) - ($q2 = $bx * $cz);
        $tz = ($r1 = $bx * $cy) - ($r2 = $by * $cx);
        $ex = self::FILTER * (abs($p1) + abs($p2));
        $ey = self::FILTER * (abs($q1) + abs($q2));
        $ez = self::FILTER * (abs($r1) + abs($r2));
        $sides = $away = [];
        $reach = 0;
        foreach ($loop as $v) {
            $x = $all[3 * $v] - $ax;
            $y = $all[3 * $v + 1] - $ay;
            $z = $all[3 * $v + 2] - $az;
            $d = $tx * $x + $ty * $y + $tz * $z;
            $e = $ex * abs($x) + $ey * abs($y) + $ez * abs($z);
            $sides[] = $side = $d > $e ? 1 : ($d < -$e ? -1 : $this->facetSide($xyz, $a, $b, $c, 3 * $v));
            $away[] = $d;
            $reach |= $side > 0 ? 1 : 2;
        }

        return $reach === 3 ? [$sides, $away, sqrt($tx * $tx + $ty * $ty + $tz * $tz)] : null;
    }

    /** @return list<float> 4 a rim edge: the plane through it square to the facet, facing outwards */
    private function wallsOf(int $f): array
    {
        $loop = $this->complex->loops[$f];
        $xyz = $this->complex->xyz;
        [$nx, $ny, $nz] = [$this->complex->planes[4 * $f], $this->complex->planes[4 * $f + 1], $this->complex->planes[4 * $f + 2]];
        $walls = [];
        foreach ($loop as $i => $v) {
            $w = 3 * $loop[$i + 1 < count($loop) ? $i + 1 : 0];
            $v *= 3;
            $dx = $xyz[$w] - $xyz[$v];
            $dy = $xyz[$w + 1] - $xyz[$v + 1];
            $dz = $xyz[$w + 2] - $xyz[$v + 2];
            $x = $dy * $nz - $dz * $ny;
            $y = $dz * $nx - $dx * $nz;
            $z = $dx * $ny - $dy * $nx;
            $length = sqrt($x * $x + $y * $y + $z * $z);
            // A rim edge without length decides nothing by rounded numbers.
            [$x, $y, $z] = $length > 0.0 ? [$x / $length, $y / $length, $z / $length] : [0.0, 0.0, 0.0];
            array_push($walls, $x, $y, $z, $x * $xyz[$v] + $y * $xyz[$v + 1] + $z * $xyz[$v + 2]);
        }

        return $walls;
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $loop
     * @return array{int, int, int}|null
     */
    private function chord(int $t, int $a, int $b, int $c, array $xyz, int $f, array $loop): ?array
    {
        $beside = $this->beside($xyz, $a, $b, $c, $loop);
        if ($beside === null) {
            return null;
        }
        [$sides, $away] = $beside;
        $all = $this->complex->xyz;
        $starts = [];
        $ends = [];
        $n = count($loop);
        $o = 3 * $loop[0];
        $ox = $all[$o];
        $oy = $all[$o + 1];
        $oz = $all[$o + 2];
        $vertices = [$a, $b, $c];
        for ($m = 1; $m + 1 < $n; $m++) {
            if ($sides[0] === $sides[$m] && $sides[$m] === $sides[$m + 1]) {
                continue;
            }
            $u = 3 * $loop[$m];
            $w = 3 * $loop[$m + 1];
            $ux = $all[$u] - $ox;
            $uy = $all[$u + 1] - $oy;
            $uz = $all[$u + 2] - $oz;
            $wx = $all[$w] - $ox;
            $wy = $all[$w + 1] - $oy;
            $wz = $all[$w + 2] - $oz;
            $nx = ($p1 = $uy * $wz) - ($p2 = $uz * $wy);
            $ny = ($q1 = $uz * $wx) - ($q2 = $ux * $wz);
            $nz = ($r1 = $ux * $wy) - ($r2 = $uy * $wx);
            $fx = self::FILTER * (abs($p1) + abs($p2));
            $fy = self::FILTER * (abs($q1) + abs($q2));
            $fz = self::FILTER * (abs($r1) + abs($r2));
            $skin = [];
            $far = [];
            foreach ($vertices as $v) {
                $x = $xyz[$v] - $ox;
                $y = $xyz[$v + 1] - $oy;
                $z = $xyz[$v + 2] - $oz;
                $d = $nx * $x + $ny * $y + $nz * $z;
                $e = $fx * abs($x) + $fy * abs($y) + $fz * abs($z);
                $skin[] = $d > $e ? 1 : ($d < -$e ? -1 : $this->skinSide($xyz, $v, $o, $u, $w));
                $far[] = $d;
            }
            // A fan triangle at a straight corner is a line: nothing crosses it, but its outer edge ends the chord.
            if ($skin[0] === $skin[1] && $skin[1] === $skin[2] && $skin[0] !== 0) {
                continue;
            }
            $fanLoop = [$o, $u, $w];
            $fanAt = [0, $m, $m + 1];
            /** @var array<int, int> $turn whether the triangle's edge i passes the fan triangle's edge j on its left */
            $turn = [];
            $start = $end = null;
            for ($i = 0; $i < 3; $i++) {
                $j = $i === 2 ? 0 : $i + 1;
                if ($skin[$i] === $skin[$j]) {
                    continue;
                }
                $sum = 0;
                for ($k = 0; $k < 3; $k++) {
                    $sum += $turn[3 * $i + $k] ??= $this->edges($xyz, $vertices[$i], $vertices[$j], $fanLoop[$k], $fanLoop[$k === 2 ? 0 : $k + 1]);
                }
                if ($sum === 3 || $sum === -3) {
                    $id = $this->atSkin($vertices[$i], $vertices[$j], $far[$i], $far[$j], $f, $skin[$i] < 0);
                    $skin[$i] < 0 ? $start = $id : $end = $id;
                }
            }
            for ($k = 0; $k < 3; $k++) {
                $l = $k === 2 ? 0 : $k + 1;
                [$g, $h] = [$fanAt[$k], $fanAt[$l]];
                if ($sides[$g] === $sides[$h]) {
                    continue;
                }
                $sum = 0;
                for ($i = 0; $i < 3; $i++) {
                    $sum += $turn[3 * $i + $k] ??= $this->edges($xyz, $vertices[$i], $vertices[$i === 2 ? 0 : $i + 1], $fanLoop[$k], $fanLoop[$l]);
                }
                if ($sum === 3 || $sum === -3) {
                    $isDiagonal = ($k === 0 && $m > 1) || ($k === 2 && $m + 2 < $n);
                    $id = $isDiagonal ? -1 - ($k === 0 ? $m : $m + 1) : $this->atCells($loop[$g], $loop[$h], $away[$g], $away[$h], $t, $sides[$g] > 0);
                    $sides[$g] > 0 ? $start = $id : $end = $id;
                }
            }
            if (($start === null) !== ($end === null)) {
                throw new BrokenPromise("A facet of the cells and triangle $t of the skin meet in one point only; give the cells another seed.");
            }
            if ($start !== null && $end !== null) {
                $starts[] = $start;
                $ends[] = $end;
            }
        }
        if ($starts === []) {
            return null;
        }
        // Through the fan's diagonals from the first point to the last.
        $from = $to = null;
        foreach ($starts as $i => $start) {
            $from = $start >= 0 ? $start : $from;
            $to = $ends[$i] >= 0 ? $ends[$i] : $to;
        }
        if ($from === null || $to === null) {
            throw new BrokenPromise("A facet of the cells passes triangle $t of the skin without an end; give the cells another seed.");
        }

        return [$from, $to, $f];
    }

    private function atSkin(int $p, int $q, float $dp, float $dq, int $f, bool $isAhead): int
    {
        $p = intdiv($p, 3);
        $q = intdiv($q, 3);
        if ($p > $q) {
            [$p, $q, $dp, $dq, $isAhead] = [$q, $p, $dq, $dp, ! $isAhead];
        }
        $edge = $p << 32 | $q;
        foreach ($this->onSkin[$edge] ?? [] as $hit) {
            if ($hit[4] === $f) {
                return $hit[3];
            }
        }
        $share = $this->make($this->mesh->xyz, $p, $q, $dp, $dq);
        $behind = $this->complex->behind[$f];
        $ahead = $this->complex->ahead[$f];
        $behind = $behind < 0 ? -1 : $this->complex->label[$behind];
        $ahead = $ahead < 0 ? -1 : $this->complex->label[$ahead];
        $this->onSkin[$edge][] = [$share, $isAhead ? $behind : $ahead, $isAhead ? $ahead : $behind, $this->next, $f];

        return $this->next++;
    }

    private function atCells(int $u, int $v, float $du, float $dv, int $t, bool $isInto): int
    {
        if ($u > $v) {
            [$u, $v, $du, $dv, $isInto] = [$v, $u, $dv, $du, ! $isInto];
        }
        $edge = $u << 32 | $v;
        foreach ($this->onCells[$edge] ?? [] as $hit) {
            if ($hit[3] === $t) {
                return $hit[2];
            }
        }
        $share = $this->make($this->complex->xyz, $u, $v, $du, $dv);
        $this->onCells[$edge][] = [$share, $isInto ? 1 : -1, $this->next, $t];

        return $this->next++;
    }

    /**
     * A new vertex on the way from p to q, which lie so far on either side of what is crossed.
     *
     * @param  list<float>  $xyz
     * @return float share of the way
     */
    private function make(array $xyz, int $p, int $q, float $from, float $to): float
    {
        $share = $from === $to ? 0.5 : $from / ($from - $to);
        $share = $share < 0.0 ? 0.0 : ($share > 1.0 ? 1.0 : $share);
        for ($k = 0; $k < 3; $k++) {
            $this->made[] = $xyz[3 * $p + $k] + $share * ($xyz[3 * $q + $k] - $xyz[3 * $p + $k]);
        }

        return $share;
    }

    /**
     * Vertex a of the skin, seen from the facet's triangle u, v, w: 1 ahead, −1 behind; 0 when the triangle is a line.
     *
     * @param  list<float>  $xyz
     */
    private function skinSide(array $xyz, int $a, int $u, int $v, int $w): int
    {
        $c = $this->complex->xyz;
        $sign = Orientation3::of([...array_slice($c, $u, 3), ...array_slice($c, $v, 3), ...array_slice($c, $w, 3), ...array_slice($xyz, $a, 3)], 0, 3, 6, 9);

        return $sign !== 0 ? $sign : self::leading($c, $u, $v, $w);
    }

    /**
     * Vertex u of the facets, seen from the skin's triangle a, b, c: 1 outside, −1 within.
     *
     * @param  list<float>  $xyz
     */
    private function facetSide(array $xyz, int $a, int $b, int $c, int $u): int
    {
        $sign = Orientation3::of([...array_slice($xyz, $a, 3), ...array_slice($xyz, $b, 3), ...array_slice($xyz, $c, 3), ...array_slice($this->complex->xyz, $u, 3)], 0, 3, 6, 9);

        return $sign !== 0 ? $sign : (-self::leading($xyz, $a, $b, $c) ?: 1);
    }

    /**
     * Sign of the normal's first part that is not 0.
     *
     * @param  list<float>  $xyz
     */
    private static function leading(array $xyz, int $a, int $b, int $c): int
    {
        foreach ([[1, 2], [2, 0], [0, 1]] as [$k, $l]) {
            $sign = Orientation::of($xyz[$a + $k], $xyz[$a + $l], $xyz[$b + $k], $xyz[$b + $l], $xyz[$c + $k], $xyz[$c + $l]);
            if ($sign !== 0) {
                return $sign;
            }
        }

        return 0;
    }

    /**
     * How the skin's edge a→b passes the facets' edge u→v: sign of their signed volume.
     *
     * @param  list<float>  $xyz
     */
    private function edges(array $xyz, int $a, int $b, int $u, int $v): int
    {
        $c = $this->complex->xyz;
        $ax = $xyz[$a];
        $ay = $xyz[$a + 1];
        $az = $xyz[$a + 2];
        $bx = $xyz[$b] - $ax;
        $by = $xyz[$b + 1] - $ay;
        $bz = $xyz[$b + 2] - $az;
        $ux = $c[$u] - $ax;
        $uy = $c[$u + 1] - $ay;
        $uz = $c[$u + 2] - $az;
        $vx = $c[$v] - $ax;
        $vy = $c[$v + 1] - $ay;
        $vz = $c[$v + 2] - $az;
        $p1 = $uy * $vz;
        $p2 = $uz * $vy;
        $q1 = $uz * $vx;
        $q2 = $ux * $vz;
        $r1 = $ux * $vy;
        $r2 = $uy * $vx;
        $d = $bx * ($p1 - $p2) + $by * ($q1 - $q2) + $bz * ($r1 - $r2);
        $e = self::FILTER * (abs($bx) * (abs($p1) + abs($p2)) + abs($by) * (abs($q1) + abs($q2)) + abs($bz) * (abs($r1) + abs($r2)));
        if ($d > $e) {
            return 1;
        }
        if ($d < -$e) {
            return -1;
        }
        $sign = Orientation3::of([...array_slice($xyz, $a, 3), ...array_slice($xyz, $b, 3), ...array_slice($c, $u, 3), ...array_slice($c, $v, 3)], 0, 3, 6, 9);
        if ($sign !== 0) {
            return $sign;
        }
        foreach ([[1, 2], [2, 0], [0, 1]] as [$k, $l]) {
            $sign = Expansion::sign(Expansion::sum(
                Expansion::product(Expansion::difference($xyz[$b + $k], $xyz[$a + $k]), Expansion::difference($c[$v + $l], $c[$u + $l])),
                Expansion::negative(Expansion::product(Expansion::difference($xyz[$b + $l], $xyz[$a + $l]), Expansion::difference($c[$v + $k], $c[$u + $k]))),
            ));
            if ($sign !== 0) {
                return $sign;
            }
        }

        return 1;
    }
}
