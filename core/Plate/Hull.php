<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Geometry\Orientation3;

/**
 * The convex hull of points.
 *
 * Guarantees: every triangle runs counter-clockwise seen from outside, no point lies outside of any of them (decided exactly), and they close. Points in one plane give several triangles.
 *
 * Source: C. B. Barber, D. P. Dobkin, H. Huhdanpaa, "The Quickhull algorithm for convex hulls", ACM Transactions on Mathematical Software 22 (1996), with exact signs in place of thick facets (J. R. Shewchuk 1997).
 */
final class Hull
{
    /** @var list<float> */
    private readonly array $xyz;

    /** @var array<int, array{int, int, int}> vertices of each face, as offsets into the coordinates */
    private array $faces = [];

    /** @var array<int, int> the face across an edge, by from << 32 | to as that face runs through it the other way */
    private array $beside = [];

    /** @var array<int, list<int>> points outside of each face */
    private array $outside = [];

    private int $next = 0;

    /** @param  list<float>  $xyz */
    private function __construct(array $xyz)
    {
        $this->xyz = $xyz;
    }

    /**
     * @param  list<float>  $xyz  3 a point
     * @return list<int> vertices, three a triangle; none when all points lie in one plane
     */
    public static function of(array $xyz): array
    {
        $hull = new self($xyz);
        $first = $hull->first();
        if ($first === null) {
            return [];
        }
        $hull->begin($first);
        $open = array_keys($hull->outside);
        while ($open !== []) {
            $face = array_pop($open);
            if (($hull->outside[$face] ?? []) !== []) {
                array_push($open, ...$hull->grow($face));
            }
        }
        $corners = [];
        foreach ($hull->faces as [$a, $b, $c]) {
            array_push($corners, intdiv($a, 3), intdiv($b, 3), intdiv($c, 3));
        }

        return $corners;
    }

    /** @return array{int, int, int, int}|null four points that are not in one plane, the last one behind the others */
    private function first(): ?array
    {
        $xyz = $this->xyz;
        $count = count($xyz);
        if ($count === 0) {
            return null;
        }
        $low = $high = [0, 0, 0];
        for ($i = 0; $i < $count; $i += 3) {
            for ($k = 0; $k < 3; $k++) {
                $low[$k] = $xyz[$i + $k] < $xyz[$low[$k] + $k] ? $i : $low[$k];
                $high[$k] = $xyz[$i + $k] > $xyz[$high[$k] + $k] ? $i : $high[$k];
            }
        }
        $sizes = array_map(fn (int $k): float => $xyz[$high[$k] + $k] - $xyz[$low[$k] + $k], [0, 1, 2]);
        $axis = (int) array_search(max($sizes), $sizes, true);
        [$a, $b] = [$low[$axis], $high[$axis]];
        [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
        $farthest = 0.0;
        $c = -1;
        for ($i = 0; $i < $count; $i += 3) {
            [$vx, $vy, $vz] = [$xyz[$i] - $xyz[$a], $xyz[$i + 1] - $xyz[$a + 1], $xyz[$i + 2] - $xyz[$a + 2]];
            $far = ($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2;
            if ($far > $farthest) {
                [$farthest, $c] = [$far, $i];
            }
        }
        if ($c < 0) {
            return null;
        }
        $farthest = -1.0;
        $d = -1;
        [$nx, $ny, $nz, $offset] = $this->plane($a, $b, $c);
        for ($i = 0; $i < $count; $i += 3) {
            $far = abs($nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2] - $offset);
            // The farthest by doubles first; exactly, where that may be none.
            if ($far > $farthest && ($farthest >= 0.0 || Orientation3::of($xyz, $a, $b, $c, $i) !== 0)) {
                [$farthest, $d] = [$far, $i];
            }
        }
        if ($d < 0) {
            return null;
        }
        $side = Orientation3::of($xyz, $a, $b, $c, $d);

        return $side === 0 ? null : ($side > 0 ? [$a, $c, $b, $d] : [$a, $b, $c, $d]);
    }

    /** @param  array{int, int, int, int}  $four */
    private function begin(array $four): void
    {
        [$a, $b, $c, $d] = $four;
        $faces = [];
        foreach ([[$a, $b, $c], [$a, $d, $b], [$b, $d, $c], [$c, $d, $a]] as $three) {
            $faces[] = $this->put(...$three);
        }
        $points = [];
        for ($i = 0, $count = count($this->xyz); $i < $count; $i += 3) {
            $points[] = $i;
        }
        $this->share($points, $faces);
    }

    private function put(int $a, int $b, int $c): int
    {
        $face = $this->next++;
        $this->faces[$face] = [$a, $b, $c];
        $this->beside[$b << 32 | $a] = $face;
        $this->beside[$c << 32 | $b] = $face;
        $this->beside[$a << 32 | $c] = $face;
        $this->outside[$face] = [];

        return $face;
    }

    /** @return array{float, float, float, float} normal of any length, and offset */
    private function plane(int $a, int $b, int $c): array
    {
        $xyz = $this->xyz;
        [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
        [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
        [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];

        return [$nx, $ny, $nz, $nx * $xyz[$a] + $ny * $xyz[$a + 1] + $nz * $xyz[$a + 2]];
    }

    /**
     * Every point to the first face that it is outside of; the others are within.
     *
     * @param  list<int>  $points
     * @param  list<int>  $faces
     */
    private function share(array $points, array $faces): void
    {
        $xyz = $this->xyz;
        foreach ($faces as $face) {
            [$a, $b, $c] = $this->faces[$face];
            [$nx, $ny, $nz, $offset] = $this->plane($a, $b, $c);
            $size = abs($nx) + abs($ny) + abs($nz);
            $outside = $left = [];
            foreach ($points as $i) {
                $x = $xyz[$i];
                $y = $xyz[$i + 1];
                $z = $xyz[$i + 2];
                $d = $nx * $x + $ny * $y + $nz * $z - $offset;
                // Doubles decide what is clearly on one side.
                $unsure = 1e-13 * ($size * (abs($x) + abs($y) + abs($z)) + abs($offset));
                if ($d > $unsure || ($d >= -$unsure && Orientation3::of($xyz, $a, $b, $c, $i) > 0)) {
                    $outside[] = $i;
                } else {
                    $left[] = $i;
                }
            }
            $this->outside[$face] = $outside;
            $points = $left;
        }
    }

    /**
     * Takes in the farthest point outside of a face.
     *
     * @return list<int> the new faces
     */
    private function grow(int $face): array
    {
        $xyz = $this->xyz;
        [$nx, $ny, $nz] = $this->plane(...$this->faces[$face]);
        $point = -1;
        $farthest = -INF;
        foreach ($this->outside[$face] as $i) {
            $d = $nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2];
            if ($d > $farthest) {
                [$farthest, $point] = [$d, $i];
            }
        }
        $seen = [$face => true];
        $queue = [$face];
        $rim = $points = [];
        while ($queue !== []) {
            $f = array_pop($queue);
            array_push($points, ...$this->outside[$f]);
            [$a, $b, $c] = $this->faces[$f];
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $other = $this->beside[$p << 32 | $q];
                if (isset($seen[$other])) {
                    continue;
                }
                if (Orientation3::of($xyz, ...[...$this->faces[$other], $point]) > 0) {
                    $seen[$other] = true;
                    $queue[] = $other;
                } else {
                    $rim[] = [$p, $q];
                }
            }
        }
        foreach ($seen as $f => $_) {
            [$a, $b, $c] = $this->faces[$f];
            unset($this->beside[$b << 32 | $a], $this->beside[$c << 32 | $b], $this->beside[$a << 32 | $c], $this->faces[$f], $this->outside[$f]);
        }
        $made = [];
        foreach ($rim as [$p, $q]) {
            $made[] = $this->put($p, $q, $point);
        }
        $this->share(array_values(array_filter($points, static fn (int $i): bool => $i !== $point)), $made);

        return $made;
    }
}
