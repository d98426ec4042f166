<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Geometry\Box;
use Isotome\Mesh\Clusters;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * A closed mesh with far fewer triangles and nearly the same volume, for questions that a preview must answer at once: where points lie
 * within a body, and about how large its shards will be. A mesh that is small, or too fine to be stood in for, stands for itself.
 *
 * Vertices in one cell of a grid become one, at their mean place (J. Rossignac, P. Borrel 1993); every triangle that is left is kept, so what was
 * closed stays closed, though it may touch or cross itself. The same mesh always gives the same stand-in.
 */
final readonly class StandIn
{
    /** One more whenever another mesh would stand in: kept ones are worth nothing then. */
    public const VERSION = 3;

    private const SMALL = 4000;

    private const GRIDS = [20, 24, 28, 32, 36, 40, 48, 72];

    /** Share of the volume that may be lost or won. */
    private const OFF = 0.1;

    /** The same for a rough one. */
    private const ROUGHLY = 0.25;

    public function __construct(
        public Mesh $mesh,
        public Box $box,
        public float $volume,
        public bool $isItself,
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        return self::within($mesh, self::OFF);
    }

    /** One with fewer triangles yet: enough to draw what a setting does while it changes. Points are not placed by it: thin parts are missing. */
    public static function rough(Mesh $mesh): self
    {
        return self::within($mesh, self::ROUGHLY);
    }

    /** One with about so many triangles, as true as that allows, for what is tried many times. */
    public static function ofAbout(Mesh $mesh, int $triangles): self
    {
        $box = Box::of($mesh->xyz);
        $volume = abs(Volume::of($mesh));
        if (2 * $triangles >= $mesh->triangleCount()) {
            return new self($mesh, $box, $volume, true);
        }
        $cells = self::GRIDS[count(self::GRIDS) - 1];
        $rough = self::clustered($mesh, $box, $cells);
        $many = max(1, $rough->triangleCount());
        if ($many > 1.5 * $triangles || $many < 0.7 * $triangles) {
            $rough = self::clustered($mesh, $box, max(16, min(1000, (int) ($cells * sqrt($triangles / $many)))));
        }

        return new self($rough, $box, $volume, false);
    }

    private static function within(Mesh $mesh, float $off): self
    {
        $box = Box::of($mesh->xyz);
        $volume = abs(Volume::of($mesh));
        if ($mesh->triangleCount() > self::SMALL) {
            foreach (self::GRIDS as $cells) {
                $rough = self::clustered($mesh, $box, $cells);
                if (2 * $rough->triangleCount() < $mesh->triangleCount() && abs(abs(Volume::of($rough)) - $volume) < $off * $volume) {
                    return new self($rough, $box, $volume, false);
                }
            }
        }

        return new self($mesh, $box, $volume, true);
    }

    private static function clustered(Mesh $mesh, Box $box, int $cells): Mesh
    {
        $span = max($box->size());
        $clusters = Clusters::of($mesh, $box->min, $span, $cells);
        $of = $clusters->of;
        $corners = $tags = [];
        $all = $mesh->corners;
        for ($i = 0, $count = count($all); $i < $count; $i += 3) {
            $a = $of[$all[$i]];
            $b = $of[$all[$i + 1]];
            $c = $of[$all[$i + 2]];
            if ($a !== $b && $b !== $c && $c !== $a) {
                $corners[] = $a;
                $corners[] = $b;
                $corners[] = $c;
                $tags[] = 0;
            }
        }

        return Mesh::of($clusters->places, $corners, $tags);
    }
}
