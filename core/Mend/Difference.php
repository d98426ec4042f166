<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Isotome\Geometry\Zero;
use Isotome\Mesh\Mesh;

/** What an operation took away from a surface and added to it, told by the triangles' places: numbering and first corner do not matter. */
final readonly class Difference
{
    /**
     * @param  list<int>  $removed  triangles of the mesh before
     * @param  list<int>  $added  triangles of the mesh after
     */
    private function __construct(
        public array $removed,
        public array $added,
    ) {
    }

    public static function of(Mesh $before, Mesh $after): self
    {
        $known = [];
        foreach (self::keys($before) as $t => $key) {
            $known[$key][] = $t;
        }
        $added = [];
        foreach (self::keys($after) as $t => $key) {
            if (isset($known[$key])) {
                array_pop($known[$key]);
                if ($known[$key] === []) {
                    unset($known[$key]);
                }
            } else {
                $added[] = $t;
            }
        }
        $removed = $known === [] ? [] : array_merge(...array_values($known));
        sort($removed);

        return new self($removed, $added);
    }

    /** @return iterable<int, string> */
    private static function keys(Mesh $mesh): iterable
    {
        $places = [];
        for ($i = 0, $count = count($mesh->xyz); $i < $count; $i += 3) {
            // −0 is 0.
            $places[] = pack('e3', Zero::plain($mesh->xyz[$i]), Zero::plain($mesh->xyz[$i + 1]), Zero::plain($mesh->xyz[$i + 2]));
        }
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
            $a = $places[$mesh->corners[3 * $t]];
            $b = $places[$mesh->corners[3 * $t + 1]];
            $c = $places[$mesh->corners[3 * $t + 2]];
            // Turned so that the least place comes first.
            yield $t => $a <= $b && $a <= $c ? $a.$b.$c : ($b <= $c ? $b.$c.$a : $c.$a.$b);
        }
    }
}
