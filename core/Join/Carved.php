<?php

declare(strict_types=1);

namespace Isotome\Join;

use Closure;
use Isotome\Mesh\Mesh;
use Isotome\Solid\Combined;
use Isotome\Solid\FileProof;

/** A piece with what pegs and marks add to it and take out of it. */
final class Carved
{
    /**
     * @param  list<Tool>  $tools
     * @param  int  $tag  of the faces that these leave
     * @param  Closure(float): void|null  $progress
     * @return list<Mesh> its bodies, the largest first
     */
    public static function of(Mesh $mesh, array $tools, int $tag, ?Closure $progress = null): array
    {
        $carving = new Carving($mesh, $tag);
        foreach ($tools as $n => $tool) {
            if (! $carving->work($tool)) {
                return self::whole($mesh, $tools, $tag, $progress);
            }
            $progress !== null && $progress(($n + 1) / count($tools));
        }

        return [$carving->mesh()];
    }

    /**
     * @param  list<Tool>  $tools
     * @param  Closure(float): void|null  $progress
     * @return list<Mesh>
     */
    private static function whole(Mesh $mesh, array $tools, int $tag, ?Closure $progress): array
    {
        $isAdded = array_column($tools, 'isAdded');
        $rule = static function (array $windings) use ($isAdded): bool {
            $isIn = $windings[0] > 0;
            foreach ($isAdded as $n => $adds) {
                if ($windings[$n + 1] > 0) {
                    if (! $adds) {
                        return false;
                    }
                    $isIn = true;
                }
            }

            return $isIn;
        };

        return array_map(static fn (array $body): Mesh => FileProof::of($body[0], $progress), Combined::bodies([$mesh, ...array_map(static fn (Tool $tool): Mesh => $tool->mesh(), $tools)], $rule, $tag, $progress));
    }
}
