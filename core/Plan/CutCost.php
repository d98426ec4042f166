<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Isotome\Cut\Section;
use Isotome\Geometry\Plane;
use Isotome\Measure\LargestCircle;
use Isotome\Measure\NarrowestWidth;
use Isotome\Measure\Simplified;
use Isotome\Mesh\Mesh;

/** What one cut costs: its section's area, outlines, thin places and room for pegs, whether it is tilted and whether it lies in the plane of symmetry. */
final readonly class CutCost
{
    /** Material that stays around a peg: a share of its diameter. */
    private const WALL = 0.25;

    /** An outline with more points is simplified for its measures, by a share of its extent. */
    private const FINE = 1e-3;

    /** How near to the plane of symmetry a cut lies: degrees, and a share of the body's size. */
    private const DEGREES = 2.0;

    private const NEAR = 0.01;

    /** @param  list<list<array{float, float, float}>>  $outlines  of the section, simplified, mm */
    private function __construct(
        public Terms $terms,
        public array $outlines,
    ) {
    }

    public static function of(Mesh $mesh, Cut $cut, Wishes $wishes, ?Plane $symmetry, float $size): self
    {
        $section = Section::of($mesh, $cut->plane());
        $outer = count(array_filter($section->areas, static fn (float $area): bool => $area > 0.0));
        $outlines = Simplified::all($section->outlines, self::FINE);
        $narrowest = NarrowestWidth::of($outlines);
        $pegless = 0;
        foreach ($section->areas as $n => $area) {
            if ($area <= 0.0) {
                continue;
            }
            $circle = LargestCircle::in($outlines, max(0.1, $wishes->peg / 20), [], $n);
            $pegless += $circle === null || 2 * $circle->radius < $wishes->peg * (1 + 2 * self::WALL) ? 1 : 0;
        }

        return new self(new Terms(
            area: Terms::AREA * $section->area / ($wishes->space->x * $wishes->space->y),
            outlines: Terms::OUTLINE * max(0, $outer - 1),
            thin: $narrowest === null || $wishes->peg <= 0.0 ? 0.0 : Terms::THIN * max(0.0, 1 - $narrowest / $wishes->peg),
            pegs: Terms::PEGLESS * $pegless,
            tilt: $cut->isStraight() ? 0.0 : Terms::TILT,
            symmetry: $symmetry !== null && self::isIn($cut, $symmetry, $size) ? Terms::SYMMETRY : 0.0,
        ), array_map($section->inSpace(...), $outlines));
    }

    public static function leftover(float $volume, float $whole): float
    {
        return Terms::LEFTOVER * max(0.0, 1 - $volume / (Terms::SMALL * $whole));
    }

    private static function isIn(Cut $cut, Plane $symmetry, float $size): bool
    {
        $along = $cut->facing[0] * $symmetry->nx + $cut->facing[1] * $symmetry->ny + $cut->facing[2] * $symmetry->nz;

        return abs($along) > cos(deg2rad(self::DEGREES)) && abs($cut->offset - ($along > 0.0 ? 1 : -1) * $symmetry->offset) < self::NEAR * $size;
    }
}
