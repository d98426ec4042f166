<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Isotome\Geometry\Box;
use Isotome\Geometry\Orientation;

/** Which shells are cavities, and of which shell. */
final class Cavities
{
    /** Shells up to which their boxes are compared with each other. */
    private const FEW = 64;

    /**
     * A closed shell of negative volume belongs to the smallest closed shell of positive volume that encloses it; every other
     * shell, also a cavity with nothing around it, is at home with itself.
     *
     * @param  list<Mesh>  $shells
     * @return array<int, int> for each shell the number of its home
     */
    public static function homes(array $shells): array
    {
        $homes = array_keys($shells);
        // A box that no other one holds is that of no cavity: mostly that is all there is to know.
        $boxes = array_map(static fn (Mesh $shell): Box => Box::of($shell->xyz), $shells);
        if (count($shells) <= self::FEW && ! self::anyHeld($boxes)) {
            return $homes;
        }
        $volumes = [];
        foreach ($shells as $s => $shell) {
            $volumes[$s] = Volume::of($shell);
        }
        if ($volumes === [] || min($volumes) >= 0) {
            return $homes;
        }
        arsort($volumes);
        $solids = [];
        foreach (array_reverse($volumes, true) as $s => $volume) {
            if ($volume > 0 && EdgeCheck::of($shells[$s])->isWatertight()) {
                $solids[$s] = $boxes[$s];
            }
        }
        foreach ($volumes as $s => $volume) {
            if ($volume >= 0 || ! EdgeCheck::of($shells[$s])->isWatertight()) {
                continue;
            }
            $box = $boxes[$s];
            foreach ($solids as $solid => $around) {
                if ($volumes[$solid] >= -$volume && $around->holds($box) && self::encloses($shells[$solid], $shells[$s])) {
                    $homes[$s] = $solid;
                    break;
                }
            }
        }

        return $homes;
    }

    /**
     * Is any box within another one?
     *
     * @param  array<int, Box>  $boxes
     */
    private static function anyHeld(array $boxes): bool
    {
        foreach ($boxes as $s => $box) {
            foreach ($boxes as $o => $around) {
                if ($o !== $s && $around->holds($box)) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * Ray casting along z from a vertex of the inner shell, crossings counted in exact arithmetic on the page; a ray that
     * meets an edge or vertex is given up and the next vertex tried.
     */
    private static function encloses(Mesh $outer, Mesh $inner): bool
    {
        $tries = min($inner->vertexCount(), 16);
        for ($t = 0; $t < $tries; $t++) {
            $x = $inner->xyz[3 * $t];
            $y = $inner->xyz[3 * $t + 1];
            $z = $inner->xyz[3 * $t + 2];
            $inside = self::isInside($outer, $x, $y, $z);
            if ($inside !== null) {
                return $inside;
            }
        }
        // All of these rays met an edge: a middle between two vertices of the shell does not.
        $m = 3 * intdiv($inner->vertexCount(), 2);
        $share = 0.381966;

        return self::isInside(
            $outer,
            $inner->xyz[0] + $share * ($inner->xyz[$m] - $inner->xyz[0]),
            $inner->xyz[1] + $share * ($inner->xyz[$m + 1] - $inner->xyz[1]),
            $inner->xyz[2] + $share * ($inner->xyz[$m + 2] - $inner->xyz[2]),
        ) ?? true;
    }

    private static function isInside(Mesh $mesh, float $px, float $py, float $pz): ?bool
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $count = count($corners);
        $inside = false;
        for ($i = 0; $i < $count; $i += 3) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $ax = $xyz[$a];
            $bx = $xyz[$b];
            $cx = $xyz[$c];
            if (($ax < $px && $bx < $px && $cx < $px) || ($ax > $px && $bx > $px && $cx > $px)) {
                continue;
            }
            $ay = $xyz[$a + 1];
            $by = $xyz[$b + 1];
            $cy = $xyz[$c + 1];
            if (($ay < $py && $by < $py && $cy < $py) || ($ay > $py && $by > $py && $cy > $py)) {
                continue;
            }
            $one = Orientation::of($ax, $ay, $bx, $by, $px, $py);
            $two = Orientation::of($bx, $by, $cx, $cy, $px, $py);
            $three = Orientation::of($cx, $cy, $ax, $ay, $px, $py);
            if ($one * $two < 0 || $two * $three < 0 || $three * $one < 0) {
                continue;
            }
            if ($one === 0 || $two === 0 || $three === 0) {
                return null;
            }
            // Height of the triangle's plane over (px, py), by barycentric weights.
            $wa = ($bx - $px) * ($cy - $py) - ($by - $py) * ($cx - $px);
            $wb = ($cx - $px) * ($ay - $py) - ($cy - $py) * ($ax - $px);
            $wc = ($ax - $px) * ($by - $py) - ($ay - $py) * ($bx - $px);
            $z = ($wa * $xyz[$a + 2] + $wb * $xyz[$b + 2] + $wc * $xyz[$c + 2]) / ($wa + $wb + $wc);
            if ($z > $pz) {
                $inside = ! $inside;
            }
        }

        return $inside;
    }
}
