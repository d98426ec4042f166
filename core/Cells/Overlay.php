<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BrokenPromise;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Within;

/**
 * A body divided by cells, as outlines that are not filled yet: the parts of the skin's triangles, and the parts of the facets that lie
 * within the body. All share one list of vertices, and each edge of one outline is an edge of its neighbours: what is filled from
 * them closes by construction, and two shards have the facet between them in common.
 *
 * Vertices that would lie within a hair of each other on one edge are one vertex.
 */
final class Overlay
{
    /** Share of the box's diagonal by which faces on a facet are taken into the body, to decide; eight of it are near. */
    private const HAIR = 1e-10;

    /** Share of an edge within which two crossings may be in the wrong order. */
    private const SAME = 1e-9;

    /** @var list<float> */
    public array $xyz;

    /** @var list<int> shard of each triangle that is not divided; −1 where it is, −2 in what a kerf removes */
    public array $whole = [];

    /** @var array<int, array<int, list<array{int, int}>>> triangle → shard → edges of its part, the part to their left */
    public array $parts = [];

    /** @var array<int, list<array{int, int}>> facet → edges of what lies within the body, to their left, seen from ahead */
    public array $caps = [];

    /** @var array<int, array<int, true>> shard → vertices at which its skin may touch itself: more than one chord leaves them */
    public array $pinched = [];

    /** @var array<int, int> vertex → the one it was joined with */
    private array $joined = [];

    private ?Within $places = null;

    private readonly int $ofMesh;

    private readonly float $hair;

    private readonly Box $box;

    public readonly Crossings $crossings;

    private function __construct(public readonly Mesh $mesh, public readonly Complex $complex, private readonly Complex $space, float $reach)
    {
        $this->box = $box = Box::of($mesh->xyz);
        $diagonal = $extent = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $diagonal += ($box->max[$k] - $box->min[$k]) ** 2;
            $extent = max($extent, abs($box->max[$k]), abs($box->min[$k]));
        }
        $this->hair = self::HAIR * max(sqrt($diagonal), 1e-4 * $extent);
        $this->ofMesh = $mesh->vertexCount();
        $this->crossings = Crossings::of($mesh, $complex, $space, $this->hair, $extent, $reach);
        $xyz = $mesh->xyz;
        foreach ($complex->xyz as $c) {
            $xyz[] = $c;
        }
        foreach ($this->crossings->made as $c) {
            $xyz[] = $c;
        }
        $this->xyz = $xyz;
    }

    /**
     * @param  Complex  $complex  the facets that cut
     * @param  Complex|null  $space  when a kerf shrank the cells: what they were
     * @param  float  $reach  how far they shrank at most, mm
     * @param  float|null  $stretch  longest stretch of a rim, mm: longer ones are divided for an even seal
     * @param  bool  $isSkinOnly  only the skin is divided, which may be open; there are no caps
     *
     * @throws BrokenPromise when rounding won, or the skin has open edges and is not divided alone
     */
    public static function of(Mesh $mesh, Complex $complex, ?Complex $space = null, float $reach = 0.0, ?float $stretch = null, bool $isSkinOnly = false): self
    {
        $overlay = new self($mesh, $complex, $space ?? $complex, $reach);
        $edges = $overlay->labelled();
        $rims = $isSkinOnly ? [] : $overlay->withinBody();
        $overlay->join($edges, $rims);
        if ($stretch !== null) {
            $rims = $overlay->divided($rims, $stretch);
        }
        $overlay->divideSkin($edges);
        if (! $isSkinOnly) {
            $overlay->divideFacets($rims);
        }

        return $overlay;
    }

    /** Root of a vertex. */
    public function root(int $v): int
    {
        while (isset($this->joined[$v])) {
            $v = $this->joined[$v];
        }

        return $v;
    }

    /**
     * The shards along every edge of the triangles that were looked at; the vertices too near to a facet get theirs from their neighbours.
     *
     * @return array<int, list<array{int, int}>> edge → points from its lower to its higher end, each with the shard after it
     */
    private function labelled(): array
    {
        $corners = $this->mesh->corners;
        $label = &$this->crossings->label;
        $beside = [];
        $edges = [];
        foreach ($this->crossings->near as $t) {
            $p = $corners[3 * $t + 2];
            for ($k = 0; $k < 3; $k++) {
                $q = $corners[3 * $t + $k];
                $key = $p < $q ? $p << 32 | $q : $q << 32 | $p;
                if (! isset($edges[$key])) {
                    $edges[$key] = [];
                    if ($label[$p] === -2 || $label[$q] === -2) {
                        $beside[$p][] = $q;
                        $beside[$q][] = $p;
                    }
                }
                $p = $q;
            }
        }
        foreach ($this->crossings->onSkin as $key => $hits) {
            if (count($hits) > 1) {
                usort($this->crossings->onSkin[$key], static fn (array $a, array $b): int => $a[0] <=> $b[0]);
            }
        }
        if ($this->complex->isRough) {
            $label = AlongSkin::of($this->mesh, $this->complex, $this->crossings->onSkin);
        } else {
            $this->spread($beside);
        }
        foreach ($edges as $key => $_) {
            $low = $key >> 32;
            $current = $label[$low];
            $points = [[$low, $current]];
            foreach ($this->chain($key, $current) as $hit) {
                $points[] = [$hit[3], $current = $hit[2]];
            }
            $high = $key & 0xFFFFFFFF;
            if ($current !== $label[$high]) {
                throw new BrokenPromise("The cells met along an edge of the skin (from vertex $low to $high) do not follow each other; give the cells another seed.");
            }
            $points[] = [$high, $current];
            $edges[$key] = $points;
        }

        return $edges;
    }

    /** @param  array<int, list<int>>  $beside */
    private function spread(array $beside): void
    {
        $label = &$this->crossings->label;
        $queue = [];
        foreach ($beside as $v => $_) {
            if ($label[$v] !== -2) {
                $queue[] = $v;
            }
        }
        while (true) {
            for ($at = 0; $at < count($queue); $at++) {
                $v = $queue[$at];
                foreach ($beside[$v] as $w) {
                    if ($label[$w] !== -2) {
                        continue;
                    }
                    $current = $label[$v];
                    if ($v < $w) {
                        $hits = $this->crossings->onSkin[$v << 32 | $w] ?? [];
                        $current = $hits === [] ? $current : self::end($hits, 2, 1);
                    } else {
                        $hits = $this->crossings->onSkin[$w << 32 | $v] ?? [];
                        $current = $hits === [] ? $current : self::end($hits, 1, 2);
                    }
                    $label[$w] = $current;
                    $queue[] = $w;
                }
            }
            // A part all of whose vertices lie near facets: where its first vertex is, decides.
            $queue = [];
            foreach ($beside as $v => $_) {
                if ($label[$v] === -2) {
                    $label[$v] = $this->labelAt($v);
                    $queue[] = $v;
                    break;
                }
            }
            if ($queue === []) {
                return;
            }
        }
    }

    private function labelAt(int $v): int
    {
        foreach ($this->crossings->onSkin as $key => $hits) {
            if ($key >> 32 === $v) {
                return self::end($hits, 1, 2);
            }
            if (($key & 0xFFFFFFFF) === $v) {
                return self::end($hits, 2, 1);
            }
        }
        $at = array_slice($this->mesh->xyz, 3 * $v, 3);
        [$cells] = Locate::of($at, $this->space, 8 * $this->hair);
        if ($this->space !== $this->complex) {
            foreach ($this->complex->facetsOf[$cells[0]] as $f) {
                [$nx, $ny, $nz, $d] = array_slice($this->complex->planes, 4 * $f, 4);
                if ($nx * $at[0] + $ny * $at[1] + $nz * $at[2] > $d) {
                    return -1;
                }
            }
        }

        return $this->space->label[$cells[0]];
    }

    /**
     * The shard at one end of an edge, from its crossings in whatever order: left once more than entered, or the other way round.
     *
     * @param  list<array{float, int, int, int, int}>  $hits  by place, at least one
     * @param  1|2  $out
     * @param  1|2  $in
     */
    public static function end(array $hits, int $out, int $in): int
    {
        $surplus = [];
        foreach ($hits as $hit) {
            $surplus[$hit[$out]] = ($surplus[$hit[$out]] ?? 0) + 1;
            $surplus[$hit[$in]] = ($surplus[$hit[$in]] ?? 0) - 1;
        }
        $end = array_search(1, $surplus, true);

        return is_int($end) ? $end : $hits[$out === 1 ? 0 : count($hits) - 1][$out];
    }

    /**
     * The crossings of an edge in an order in which each shard follows on the one before: by place, and where rounding decides, by sense.
     *
     * @return list<array{float, int, int, int, int}>
     */
    private function chain(int $key, int $current): array
    {
        $hits = $this->crossings->onSkin[$key] ?? [];
        $n = count($hits);
        for ($i = 0; $i < $n; $i++) {
            for ($j = $i; $j < $n && $hits[$j][1] !== $current; $j++);
            if ($j === $n) {
                return $hits;
            }
            if ($j > $i) {
                $hit = $hits[$j];
                array_splice($hits, $j, 1);
                array_splice($hits, $i, 0, [$hit]);
                $this->crossings->onSkin[$key] = $hits;
            }
            $current = $hits[$i][2];
        }

        return $hits;
    }

    /**
     * The stretches of the cells' edges that lie within the body.
     *
     * @return array<int, list<array{int, int}>> edge → stretches from its lower to its higher end; an edge that is missing lies outside
     */
    private function withinBody(): array
    {
        $base = $this->ofMesh;
        $onCells = &$this->crossings->onCells;
        $loops = $this->complex->loops;
        $beside = [];
        $edges = [];
        foreach ($loops as $f => $loop) {
            if (! $this->complex->cuts($f)) {
                continue;
            }
            $p = $loop[count($loop) - 1];
            foreach ($loop as $q) {
                $key = $p < $q ? $p << 32 | $q : $q << 32 | $p;
                if (! isset($edges[$key])) {
                    $edges[$key] = true;
                    $beside[$p][] = $q;
                    $beside[$q][] = $p;
                }
                $p = $q;
            }
        }
        foreach ($onCells as $key => $hits) {
            if (count($hits) > 1) {
                usort($onCells[$key], static fn (array $a, array $b): int => $a[0] <=> $b[0]);
            }
        }
        /** @var array<int, int> $within 1 for a vertex of the cells in the body, 0 for one outside */
        $within = [];
        foreach ([...$this->beyond(array_keys($beside)), ...array_keys($beside)] as $start) {
            if (isset($within[$start])) {
                continue;
            }
            $within[$start] = $this->isWithin($start, $beside);
            $queue = [$start];
            while ($queue !== []) {
                $v = array_pop($queue);
                foreach ($beside[$v] as $w) {
                    if (isset($within[$w])) {
                        continue;
                    }
                    $sum = 0;
                    foreach ($onCells[$v < $w ? $v << 32 | $w : $w << 32 | $v] ?? [] as $hit) {
                        $sum += $hit[1];
                    }
                    $within[$w] = $within[$v] + ($v < $w ? $sum : -$sum);
                    $queue[] = $w;
                }
            }
        }
        $stretches = [];
        $state = 0;
        foreach ($edges as $key => $_) {
            $list = self::stretches(($key >> 32) + $base, ($key & 0xFFFFFFFF) + $base, $within[$key >> 32], $onCells[$key] ?? [], $state);
            if ($state !== $within[$key & 0xFFFFFFFF]) {
                throw new BrokenPromise('Where the cells\' edges enter and leave the body does not agree; give the cells another seed.');
            }
            if ($list !== []) {
                $stretches[$key] = $list;
            }
        }

        return $stretches;
    }

    /**
     * What lies within the body, as often as the body is around it: so outlines close where a body overlaps itself, too.
     *
     * @param  list<array{float, int, int, int}>  $hits  by place
     * @param  int  $state  how often the body is around the start; afterwards, around the end
     * @return list<array{int, int}>
     */
    private static function stretches(int $from, int $to, int $within, array $hits, int &$state): array
    {
        $state = $within;
        $list = [];
        $n = count($hits);
        for ($i = 0; $i <= $n; $i++) {
            // Of crossings in one place by rounding, the one that fits comes first.
            $wanted = $state > 0 ? -1 : 1;
            for ($j = $i; $j < $n && $hits[$j][1] !== $wanted && $hits[$j][0] - $hits[$i][0] < self::SAME; $j++);
            if ($j > $i && $j < $n && $hits[$j][1] === $wanted && $hits[$j][0] - $hits[$i][0] < self::SAME) {
                [$hits[$i], $hits[$j]] = [$hits[$j], $hits[$i]];
            }
            $next = $i < $n ? $hits[$i][2] : $to;
            for ($k = abs($state); $k > 0; $k--) {
                $list[] = $state > 0 ? [$from, $next] : [$next, $from];
            }
            $from = $next;
            $state += $i < $n ? $hits[$i][1] : 0;
        }

        return $list;
    }

    /**
     * The vertices of the cells that lie beyond the body's box: outside for certain, also where a body overlaps itself.
     *
     * @param  list<int>  $vertices
     * @return list<int>
     */
    private function beyond(array $vertices): array
    {
        $box = $this->box;
        $xyz = $this->complex->xyz;
        $beyond = [];
        foreach ($vertices as $v) {
            for ($k = 0; $k < 3; $k++) {
                $c = $xyz[3 * $v + $k];
                if ($c < $box->min[$k] - $this->hair || $c > $box->max[$k] + $this->hair) {
                    $beyond[] = $v;
                    break;
                }
            }
        }

        return $beyond;
    }

    /**
     * Whether the first crossings, in one place by rounding, lead into the body or out of it along the edge; 0 when none does.
     *
     * @param  list<array{float, int, int, int}>  $hits  in the order in which they are met
     */
    private static function first(array $hits): int
    {
        $sum = 0;
        foreach ($hits as $i => $hit) {
            if ($i > 0 && $sum !== 0 && abs($hit[0] - $hits[$i - 1][0]) >= self::SAME) {
                break;
            }
            $sum += $hit[1];
        }

        return $sum;
    }

    /**
     * Is a vertex of the cells in the body? Told by the first crossing of one of its edges, or else by how often a line from it leaves.
     *
     * @param  array<int, list<int>>  $beside
     */
    private function isWithin(int $v, array $beside): int
    {
        if ($this->beyond([$v]) !== []) {
            return 0;
        }
        foreach ($beside[$v] as $w) {
            $hits = $this->crossings->onCells[$v < $w ? $v << 32 | $w : $w << 32 | $v] ?? [];
            $first = self::first($v < $w ? $hits : array_reverse($hits));
            if ($first !== 0) {
                return ($first > 0) === ($v < $w) ? 0 : 1;
            }
        }
        // Places a hair apart on all sides of it: one may stand right below an edge of the skin, and a vertex on the skin is outside, as faces
        // on a facet are taken into the body.
        $this->places ??= new Within($this->mesh);
        [$x, $y, $z] = array_slice($this->complex->xyz, 3 * $v, 3);
        foreach ([[1.0, 0.3, 0.8], [-0.4, 1.0, -0.9], [-0.7, -0.9, 0.6], [0.8, -0.6, -1.0]] as [$dx, $dy, $dz]) {
            if (! $this->places->has($x + 16 * $this->hair * $dx, $y + 16 * $this->hair * $dy, $z + 16 * $this->hair * $dz)) {
                return 0;
            }
        }

        return 1;
    }

    /**
     * Joins the ends of all edges that are shorter than a hair's breadth; two vertices of the mesh stay apart.
     *
     * @param  array<int, list<array{int, int}>>  $edges
     * @param  array<int, list<array{int, int}>>  $rims
     */
    private function join(array $edges, array $rims): void
    {
        $near = 64 * $this->hair;
        $limit = $near ** 2;
        $xyz = $this->xyz;
        $short = [];
        foreach ($edges as $points) {
            $p = $points[0][0];
            for ($i = 1, $n = count($points); $i < $n; $i++) {
                $q = $points[$i][0];
                $x = $xyz[3 * $p] - $xyz[3 * $q];
                if ($x < $near && $x > -$near) {
                    $short[] = [$p, $q];
                }
                $p = $q;
            }
        }
        foreach ([$this->crossings->chords, $rims] as $lists) {
            foreach ($lists as $list) {
                foreach ($list as $edge) {
                    $x = $xyz[3 * $edge[0]] - $xyz[3 * $edge[1]];
                    if ($x < $near && $x > -$near) {
                        $short[] = [$edge[0], $edge[1]];
                    }
                }
            }
        }
        foreach ($short as [$p, $q]) {
            $this->joinShort($p, $q, $limit);
        }
    }

    /**
     * Rims and chords in parts of the given length at most, for both their sides alike.
     *
     * @param  array<int, list<array{int, int}>>  $rims
     * @return array<int, list<array{int, int}>>
     */
    private function divided(array $rims, float $stretch): array
    {
        foreach ($rims as $edge => $stretches) {
            $parts = [];
            foreach ($stretches as [$p, $q]) {
                array_push($parts, ...$this->parts($p, $q, $stretch));
            }
            $rims[$edge] = $parts;
        }
        foreach ($this->crossings->chords as $t => $chords) {
            $parts = [];
            foreach ($chords as [$p, $q, $f]) {
                foreach ($this->parts($p, $q, $stretch) as [$from, $to]) {
                    $parts[] = [$from, $to, $f];
                }
            }
            $this->crossings->chords[$t] = $parts;
        }

        return $rims;
    }

    /** @return list<array{int, int}> */
    private function parts(int $p, int $q, float $stretch): array
    {
        $p = $this->root($p);
        $q = $this->root($q);
        $x = $this->xyz[3 * $q] - $this->xyz[3 * $p];
        $y = $this->xyz[3 * $q + 1] - $this->xyz[3 * $p + 1];
        $z = $this->xyz[3 * $q + 2] - $this->xyz[3 * $p + 2];
        $many = (int) max(1, round(sqrt($x * $x + $y * $y + $z * $z) / $stretch));
        $parts = [];
        $from = $p;
        for ($k = 1; $k < $many; $k++) {
            $to = intdiv(count($this->xyz), 3);
            $share = $k / $many;
            array_push($this->xyz, $this->xyz[3 * $p] + $share * $x, $this->xyz[3 * $p + 1] + $share * $y, $this->xyz[3 * $p + 2] + $share * $z);
            $parts[] = [$from, $to];
            $from = $to;
        }
        $parts[] = [$from, $q];

        return $parts;
    }

    private function joinShort(int $p, int $q, float $limit): void
    {
        $x = $this->xyz[3 * $p] - $this->xyz[3 * $q];
        $y = $this->xyz[3 * $p + 1] - $this->xyz[3 * $q + 1];
        $z = $this->xyz[3 * $p + 2] - $this->xyz[3 * $q + 2];
        if ($x * $x + $y * $y + $z * $z > $limit) {
            return;
        }
        $p = $this->root($p);
        $q = $this->root($q);
        if ($p > $q) {
            [$p, $q] = [$q, $p];
        }
        if ($p !== $q && $q >= $this->ofMesh) {
            $this->joined[$q] = $p;
        }
    }

    /** @param  array<int, list<array{int, int}>>  $edges */
    private function divideSkin(array $edges): void
    {
        $corners = $this->mesh->corners;
        $label = $this->crossings->label;
        $whole = [];
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $of = $label[$corners[$i]];
            $whole[] = $of === -1 ? -2 : $of;
        }
        $behind = $this->complex->behind;
        $ahead = $this->complex->ahead;
        $shard = $this->complex->label;
        $isJoined = $this->joined !== [];
        $left = [];
        foreach ($this->crossings->near as $t) {
            $chords = $this->crossings->chords[$t] ?? [];
            $parts = [];
            $p = $corners[3 * $t + 2];
            $isCrossed = $chords !== [];
            for ($k = 0; $k < 3; $k++) {
                $q = $corners[3 * $t + $k];
                if ($p < $q) {
                    $points = $edges[$p << 32 | $q];
                    $n = count($points);
                    for ($i = 1; $i < $n; $i++) {
                        $parts[$points[$i - 1][1]][] = [$points[$i - 1][0], $points[$i][0]];
                    }
                } else {
                    $points = $edges[$q << 32 | $p];
                    $n = count($points);
                    for ($i = $n - 1; $i > 0; $i--) {
                        $parts[$points[$i - 1][1]][] = [$points[$i][0], $points[$i - 1][0]];
                    }
                }
                $isCrossed = $isCrossed || $n > 2;
                $p = $q;
            }
            if (! $isCrossed) {
                continue;
            }
            foreach ($chords as [$from, $to, $f]) {
                $b = $behind[$f] < 0 ? -1 : $shard[$behind[$f]];
                $a = $ahead[$f] < 0 ? -1 : $shard[$ahead[$f]];
                $parts[$b][] = [$from, $to];
                $parts[$a][] = [$to, $from];
                if ($isJoined) {
                    $from = $this->root($from);
                    $to = $this->root($to);
                    if ($from === $to) {
                        continue;
                    }
                }
                if (isset($left[$b][$from])) {
                    $this->pinched[$b][$from] = true;
                }
                if (isset($left[$a][$to])) {
                    $this->pinched[$a][$to] = true;
                }
                $left[$b][$from] = $left[$a][$to] = true;
            }
            foreach ($parts as $of => $list) {
                if ($of < 0) {
                    continue;
                }
                if ($isJoined) {
                    $list = $this->rooted($list);
                }
                if ($list !== []) {
                    $this->parts[$t][$of] = $list;
                }
            }
            $whole[$t] = isset($this->parts[$t]) ? -1 : -2;
        }
        $this->whole = array_values($whole);
    }

    /** @param  array<int, list<array{int, int}>>  $rims */
    private function divideFacets(array $rims): void
    {
        $caps = [];
        foreach ($this->crossings->chords as $chords) {
            foreach ($chords as [$from, $to, $f]) {
                $caps[$f][] = [$to, $from];
            }
        }
        foreach ($this->complex->loops as $f => $loop) {
            if (! $this->complex->cuts($f)) {
                continue;
            }
            $list = $caps[$f] ?? [];
            $p = $loop[count($loop) - 1];
            foreach ($loop as $q) {
                if ($p < $q) {
                    foreach ($rims[$p << 32 | $q] ?? [] as $stretch) {
                        $list[] = $stretch;
                    }
                } else {
                    foreach ($rims[$q << 32 | $p] ?? [] as [$from, $to]) {
                        $list[] = [$to, $from];
                    }
                }
                $p = $q;
            }
            if ($list === []) {
                continue;
            }
            if ($this->joined !== []) {
                $list = $this->rooted($list);
            }
            if ($list !== []) {
                $this->caps[$f] = $list;
            }
        }
    }

    /**
     * Edges between joined vertices; what became a point, and what runs both ways, is left out.
     *
     * @param  list<array{int, int}>  $edges
     * @return list<array{int, int}>
     */
    private function rooted(array $edges): array
    {
        $has = [];
        foreach ($edges as [$p, $q]) {
            $p = $this->root($p);
            $q = $this->root($q);
            if ($p === $q) {
                continue;
            }
            if (($has[$q][$p] ?? 0) > 0) {
                $has[$q][$p]--;
            } else {
                $has[$p][$q] = ($has[$p][$q] ?? 0) + 1;
            }
        }
        $left = [];
        foreach ($has as $p => $ends) {
            foreach ($ends as $q => $times) {
                for (; $times > 0; $times--) {
                    $left[] = [$p, $q];
                }
            }
        }

        return $left;
    }
}
