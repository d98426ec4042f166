<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Isotome\Geometry\Box;

/**
 * Takes a mesh that lies far from the origin for its size next to it, and what is made of it back, so that numbers keep their digits for its shape.
 *
 * The mesh's own coordinates come back to the last bit: x − o is exact for o/2 ≤ x ≤ 2o (P. H. Sterbenz, "Floating-point computation", 1974).
 */
final readonly class NearOrigin
{
    /** How many times its size a mesh is away before it is moved. */
    private const FAR = 16.0;

    /** @param  array{float, float, float}  $by  mm */
    private function __construct(public array $by)
    {
    }

    /** Null for a mesh that is near enough. */
    public static function of(Mesh $mesh): ?self
    {
        if ($mesh->isEmpty()) {
            return null;
        }
        $box = Box::of($mesh->xyz);
        $size = max($box->size());
        $by = [0.0, 0.0, 0.0];
        foreach ($by as $k => $_) {
            $middle = ($box->min[$k] + $box->max[$k]) / 2;
            $by[$k] = abs($middle) > self::FAR * $size ? $middle : 0.0;
        }

        return $by === [0.0, 0.0, 0.0] ? null : new self($by);
    }

    public function there(Mesh $mesh): Mesh
    {
        return self::moved($mesh, -$this->by[0], -$this->by[1], -$this->by[2]);
    }

    public function back(Mesh $mesh): Mesh
    {
        return self::moved($mesh, ...$this->by);
    }

    private static function moved(Mesh $mesh, float $dx, float $dy, float $dz): Mesh
    {
        $xyz = $mesh->xyz;
        $moved = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $moved[] = $xyz[$i] + $dx;
            $moved[] = $xyz[$i + 1] + $dy;
            $moved[] = $xyz[$i + 2] + $dz;
        }

        return Mesh::of($moved, $mesh->corners, $mesh->tags);
    }
}
