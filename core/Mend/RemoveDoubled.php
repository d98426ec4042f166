<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Isotome\Check\FaceCheck;
use Isotome\Mesh\Mesh;

/**
 * Removes faces that lie on the same three corners as another. One stays, unless two lie back to back with nothing else on their
 * edges: such a pair is nothing at all.
 */
final class RemoveDoubled
{
    /** @return array{mesh: Mesh, removed: int} */
    public static function of(Mesh $mesh): array
    {
        $gone = array_fill_keys(FaceCheck::of($mesh)->doubledFaces, true);
        if ($gone === []) {
            return ['mesh' => $mesh, 'removed' => 0];
        }
        $names = [];
        foreach ($gone as $t => $_) {
            $names[self::name($mesh, $t)] = true;
        }
        $first = [];
        foreach ($mesh->tags as $t => $_) {
            $name = self::name($mesh, $t);
            if (isset($names[$name]) && ! isset($gone[$t])) {
                $first[$name] = $t;
            }
        }
        $uses = array_count_values($mesh->corners);
        foreach ($first as $t) {
            $alone = true;
            for ($h = 3 * $t; $h < 3 * $t + 3; $h++) {
                $alone = $alone && $uses[$mesh->corners[$h]] === 2;
            }
            if ($alone) {
                $gone[$t] = true;
            }
        }

        return ['mesh' => RemoveFaces::of($mesh, $gone), 'removed' => count($gone)];
    }

    private static function name(Mesh $mesh, int $t): string
    {
        $three = [$mesh->corners[3 * $t], $mesh->corners[3 * $t + 1], $mesh->corners[3 * $t + 2]];
        sort($three);

        return implode(' ', $three);
    }
}
