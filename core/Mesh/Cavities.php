<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Isotome\Geometry\Box;

/** Which shells are cavities, and of which shell. */
final class Cavities
{
    /** Shells up to which their boxes are compared with each other. */
    private const FEW = 64;

    /** What encloses a cavity is larger; what fills it is not. */
    private const LARGER = 1 + 1e-12;

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
        $solids = $within = [];
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
                if ($volumes[$solid] > -$volume * self::LARGER && $around->holds($box) && self::encloses($within[$solid] ??= new Within($shells[$solid]), $shells[$s])) {
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

    /** Told by a vertex of the inner shell that no edge of the outer one stands exactly above. */
    private static function encloses(Within $outer, Mesh $inner): bool
    {
        $tries = min($inner->vertexCount(), 16);
        for ($t = 0; $t < $tries; $t++) {
            $inside = $outer->isSurely($inner->xyz[3 * $t], $inner->xyz[3 * $t + 1], $inner->xyz[3 * $t + 2]);
            if ($inside !== null) {
                return $inside;
            }
        }
        // All of these have one: a place between two vertices of the shell does not.
        $m = 3 * intdiv($inner->vertexCount(), 2);
        $share = 0.381966;

        return $outer->isSurely(
            $inner->xyz[0] + $share * ($inner->xyz[$m] - $inner->xyz[0]),
            $inner->xyz[1] + $share * ($inner->xyz[$m + 1] - $inner->xyz[1]),
            $inner->xyz[2] + $share * ($inner->xyz[$m + 2] - $inner->xyz[2]),
        ) ?? true;
    }
}
