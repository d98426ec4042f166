<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Check\Crossings;
use Isotome\Check\EdgePlaces;
use Isotome\Check\NearVertices;
use Isotome\Check\Rims;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Direction;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;

/**
 * Copies of a mesh turned about an axis, n of them in a full turn, joined where they meet.
 *
 * Where the end of one copy meets the beginning of the next, within the weld distance, their rims are joined at shared vertices; flat faces that lie in a plane
 * through the axis are taken for such ends and left out if their rims meet. Copies that meet nowhere stay bodies of their own; where they
 * overlap it is said.
 */
final class Copies
{
    public const MOST = 360;

    /** Parts of a full turn in which a span is told. */
    private const PARTS = 3600;

    /** Triangles up to which the faces of copies are compared; more that could overlap are taken to. */
    private const COMPARED = 300_000;

    /**
     * @param  array{float, float, float}  $through  a point of the axis, mm
     * @param  array{float, float, float}  $axis  its direction
     * @param  float  $weld  mm; a hundred-thousandth of the size when 0
     *
     * @throws BadBlade
     */
    public static function of(Mesh $mesh, array $through, array $axis, int $count, float $weld = 0.0): MirrorOutcome
    {
        $axis = Direction::unit($axis);
        if ($axis === null || $count < 2 || $count > self::MOST) {
            throw new BadBlade("The copies are $count about an axis; give 2 to ".self::MOST.' and a direction that is not 0, 0, 0.');
        }
        $size = Box::of($mesh->xyz)->size();
        $weld = max($weld, 1e-5 * max($size));
        $open = self::withoutEnds($mesh, $through, $axis, $weld);
        [$whole, $joined, $left] = self::joined($open, $through, $axis, $count, $weld);
        if ($open !== $mesh && $left > 0) {
            // The ends are no ends: they do not meet.
            [$whole, $joined, $left] = self::joined($mesh, $through, $axis, $count, $weld);
        }
        $unjoined = [];
        foreach (Rims::of($whole)->list as $rim) {
            $unjoined[] = array_map(static fn (int $v): array => [$whole->xyz[3 * $v], $whole->xyz[3 * $v + 1], $whole->xyz[3 * $v + 2]], $rim['vertices']);
        }

        return new MirrorOutcome(Bodies::of($whole), $joined, $joined > 0 ? $unjoined : [], 0.0, 0.0, self::overlap($mesh, $whole, $through, $axis, $count), 0.0, 0);
    }

    /**
     * How much of a full turn about an axis a mesh takes: all but the largest part without any of it.
     *
     * @param  array{float, float, float}  $through  mm
     * @param  array{float, float, float}  $axis
     * @return float degrees, at most a fifth of a degree too much
     */
    public static function span(Mesh $mesh, array $through, array $axis): float
    {
        $axis = Direction::unit($axis) ?? [0.0, 0.0, 1.0];
        [$ux, $uy, $uz] = abs($axis[2]) < 0.9 ? [-$axis[1], $axis[0], 0.0] : [0.0, -$axis[2], $axis[1]];
        [$vx, $vy, $vz] = [$axis[1] * $uz - $axis[2] * $uy, $axis[2] * $ux - $axis[0] * $uz, $axis[0] * $uy - $axis[1] * $ux];
        $u = sqrt($ux * $ux + $uy * $uy + $uz * $uz);
        $v = sqrt($vx * $vx + $vy * $vy + $vz * $vz);
        $angles = [];
        for ($i = 0, $n = count($mesh->xyz); $i < $n; $i += 3) {
            $x = $mesh->xyz[$i] - $through[0];
            $y = $mesh->xyz[$i + 1] - $through[1];
            $z = $mesh->xyz[$i + 2] - $through[2];
            $angles[] = (atan2(($vx * $x + $vy * $y + $vz * $z) / $v, ($ux * $x + $uy * $y + $uz * $z) / $u) / (2 * M_PI) + 1) * self::PARTS;
        }
        $taken = array_fill(0, self::PARTS, false);
        $corners = $mesh->corners;
        for ($i = 0, $n = count($corners); $i < $n; $i++) {
            $from = $angles[$corners[$i]];
            $to = $angles[$corners[$i % 3 === 2 ? $i - 2 : $i + 1]];
            // Seen from the axis an edge goes the shorter way.
            if ($from > $to) {
                [$from, $to] = [$to, $from];
            }
            if ($to - $from > self::PARTS / 2) {
                [$from, $to] = [$to, $from + self::PARTS];
            }
            for ($k = (int) floor($from), $last = (int) floor($to); $k <= $last; $k++) {
                $taken[$k % self::PARTS] = true;
            }
        }
        $longest = $free = 0;
        for ($k = 0; $k < 2 * self::PARTS; $k++) {
            $free = $taken[$k % self::PARTS] ? 0 : $free + 1;
            $longest = max($longest, $free);
        }

        return 360 * (1 - min($longest, self::PARTS) / self::PARTS);
    }

    /**
     * Do copies overlap? Not where each keeps to its own part of the turn; else their faces are compared, if they are not too many.
     *
     * @param  array{float, float, float}  $through
     * @param  array{float, float, float}  $axis
     */
    private static function overlap(Mesh $mesh, Mesh $whole, array $through, array $axis, int $count): bool
    {
        if (self::span($mesh, $through, $axis) <= 360 / $count + 0.25) {
            return false;
        }

        return $whole->triangleCount() > self::COMPARED || (Crossings::of($whole)->pairs !== [] && Crossings::of($mesh)->pairs === []);
    }

    /**
     * Without the faces that lie in a plane through the axis.
     *
     * @param  array{float, float, float}  $through
     * @param  array{float, float, float}  $axis
     */
    private static function withoutEnds(Mesh $mesh, array $through, array $axis, float $weld): Mesh
    {
        $xyz = $mesh->xyz;
        $corners = $tags = [];
        foreach ($mesh->tags as $t => $tag) {
            $three = [$mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]];
            [$a, $b, $c] = [3 * $three[0], 3 * $three[1], 3 * $three[2]];
            [$ux, $uy, $uz] = [$xyz[$b] - $xyz[$a], $xyz[$b + 1] - $xyz[$a + 1], $xyz[$b + 2] - $xyz[$a + 2]];
            [$vx, $vy, $vz] = [$xyz[$c] - $xyz[$a], $xyz[$c + 1] - $xyz[$a + 1], $xyz[$c + 2] - $xyz[$a + 2]];
            [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $isEnd = $length > 0.0
                && abs($nx * $axis[0] + $ny * $axis[1] + $nz * $axis[2]) < 1e-6 * $length
                && abs($nx * ($xyz[$a] - $through[0]) + $ny * ($xyz[$a + 1] - $through[1]) + $nz * ($xyz[$a + 2] - $through[2])) < $weld * $length;
            if (! $isEnd) {
                array_push($corners, ...$three);
                $tags[] = $tag;
            }
        }

        return count($tags) === $mesh->triangleCount() ? $mesh : Mesh::of($xyz, $corners, $tags);
    }

    /**
     * @param  array{float, float, float}  $through
     * @param  array{float, float, float}  $axis
     * @return array{Mesh, int, int} the copies, edges joined, and open edges left at the ends
     */
    private static function joined(Mesh $mesh, array $through, array $axis, int $count, float $weld): array
    {
        $vertices = $mesh->vertexCount();
        $xyz = $corners = $tags = [];
        for ($n = 0; $n < $count; $n++) {
            foreach (self::turned($mesh->xyz, $through, $axis, 2 * M_PI * $n / $count) as $c) {
                $xyz[] = $c;
            }
            foreach ($mesh->corners as $v) {
                $corners[] = $n * $vertices + $v;
            }
            foreach ($mesh->tags as $tag) {
                $tags[] = $tag;
            }
        }
        $open = EdgePlaces::of($mesh)->open;
        if ($open === []) {
            return [Mesh::of($xyz, $corners, $tags), 0, 0];
        }
        $rim = [];
        foreach ($open as [$a, $b]) {
            $rim[$a] = $rim[$b] = true;
        }
        $all = [];
        for ($n = 0; $n < $count; $n++) {
            foreach ($rim as $v => $_) {
                $all[] = $n * $vertices + $v;
            }
        }
        $to = [];
        foreach (NearVertices::of(Mesh::of($xyz, $corners, $tags), $weld, $all) as [$v, $w]) {
            if (isset($rim[$v % $vertices], $rim[$w % $vertices]) && intdiv($v, $vertices) !== intdiv($w, $vertices)) {
                [$low, $high] = [min($v, $w), max($v, $w)];
                $to[$high] = min($to[$high] ?? $low, $low);
            }
        }
        $root = static function (int $v) use ($to): int {
            while (isset($to[$v])) {
                $v = $to[$v];
            }

            return $v;
        };
        $sewn = $sewnTags = [];
        foreach ($tags as $t => $tag) {
            [$a, $b, $c] = [$root($corners[3 * $t]), $root($corners[3 * $t + 1]), $root($corners[3 * $t + 2])];
            if ($a !== $b && $b !== $c && $c !== $a) {
                array_push($sewn, $a, $b, $c);
                $sewnTags[] = $tag;
            }
        }
        $whole = Mesh::of($xyz, $sewn, $sewnTags);
        $left = count(EdgePlaces::of($whole)->open);

        return [$whole, intdiv($count * count($open) - $left, 2), $left];
    }

    /**
     * By the formula of O. Rodrigues (1840).
     *
     * @param  list<float>  $xyz
     * @param  array{float, float, float}  $through
     * @param  array{float, float, float}  $axis
     * @return list<float>
     */
    private static function turned(array $xyz, array $through, array $axis, float $angle): array
    {
        if ($angle === 0.0) {
            return $xyz;
        }
        [$kx, $ky, $kz] = $axis;
        $sin = sin($angle);
        $cos = cos($angle);
        $places = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $x = $xyz[$i] - $through[0];
            $y = $xyz[$i + 1] - $through[1];
            $z = $xyz[$i + 2] - $through[2];
            $d = ($kx * $x + $ky * $y + $kz * $z) * (1 - $cos);
            $places[] = $through[0] + $x * $cos + ($ky * $z - $kz * $y) * $sin + $kx * $d;
            $places[] = $through[1] + $y * $cos + ($kz * $x - $kx * $z) * $sin + $ky * $d;
            $places[] = $through[2] + $z * $cos + ($kx * $y - $ky * $x) * $sin + $kz * $d;
        }

        return $places;
    }
}
