<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Mesh\Mesh;

/**
 * A dressed millstone: a disc with a hole (the eye), its face divided into ten harps of furrows that slope up on one side
 * and stand square on the other. All edges are hard. 480 mm across, 70 mm thick.
 */
final class Millstone
{
    private const HARPS = 10;

    private const THICKNESS = 70.0;

    private const DEPTH = 9.0;

    /** Radii at which furrows may begin or end, mm. */
    private const RADII = [46.0, 66.0, 92.0, 120.0, 150.0, 180.0, 210.0, 240.0];

    /** Cells of one harp round the stone; each furrow begins at a ring: a number instead of null. */
    private const HARP = [0, null, null, null, null, 3, null, null, null, null, 1, null, null, null, null, 4, null, null, null, null, 2, null, null, null, null];

    /** @var array<string, int> */
    private array $index = [];

    /** @var list<float> */
    private array $xyz = [];

    /** @var list<int> */
    private array $corners = [];

    private function __construct()
    {
    }

    public static function mesh(): Mesh
    {
        $stone = new self;
        $stone->build();

        return Rounded::of(Mesh::of($stone->xyz, $stone->corners));
    }

    private function build(): void
    {
        $across = self::HARPS * count(self::HARP);
        $rings = count(self::RADII) - 1;
        $top = self::THICKNESS;
        for ($i = 0; $i < $rings; $i++) {
            for ($j = 0; $j < $across; $j++) {
                $right = $this->right($i, $j);
                $this->face([[$i, $j, $top], [$i + 1, $j, $top], [$i + 1, $j + 1, $right], [$i, $j + 1, $right]]);
                $this->face([[$i, $j, 0.0], [$i, $j + 1, 0.0], [$i + 1, $j + 1, 0.0], [$i + 1, $j, 0.0]]);
                // The square side of the furrow, up to the next land.
                if ($right < $top) {
                    $this->face([[$i, $j + 1, $right], [$i + 1, $j + 1, $right], [$i + 1, $j + 1, $top], [$i, $j + 1, $top]]);
                }
                // Where a furrow begins, the land inside it ends in a step.
                if ($i > 0 && $right < ($before = $this->right($i - 1, $j))) {
                    $this->face([[$i, $j, $top], [$i, $j + 1, $right], [$i, $j + 1, $before]]);
                }
            }
        }
        for ($j = 0; $j < $across; $j++) {
            $this->side($rings, $j, $this->right($rings - 1, $j), $this->right($rings - 1, $j - 1), false);
            $this->side(0, $j, $this->right(0, $j), $this->right(0, $j - 1), true);
        }
    }

    /** Height of a cell's right-hand edge; its left-hand edge is always as high as the land. */
    private function right(int $ring, int $cell): float
    {
        $across = count(self::HARP);
        $begins = self::HARP[($cell + $across) % $across];

        return $begins !== null && $ring >= $begins ? self::THICKNESS - self::DEPTH : self::THICKNESS;
    }

    /** A strip of the outer side, or of the eye's: from the ground up, with the corner where the cell before is lower. */
    private function side(int $ring, int $j, float $right, float $before, bool $eye): void
    {
        $points = [[$ring, $j + 1, $right], [$ring, $j, self::THICKNESS]];
        if ($before < self::THICKNESS) {
            $points[] = [$ring, $j, $before];
        }
        array_push($points, [$ring, $j, 0.0], [$ring, $j + 1, 0.0]);
        // The first point stays first: no other sees all of the strip.
        $this->face($eye ? [$points[0], ...array_reverse(array_slice($points, 1))] : $points);
    }

    /** @param  list<array{int, int, float}>  $points ring, cell edge and height; seen from outside counter-clockwise, convex */
    private function face(array $points): void
    {
        $ids = [];
        $across = self::HARPS * count(self::HARP);
        foreach ($points as [$ring, $cell, $z]) {
            $cell = ($cell + $across) % $across;
            $key = "$ring $cell $z";
            if (! isset($this->index[$key])) {
                $this->index[$key] = count($this->index);
                $radius = self::RADII[$ring];
                // Furrows run past the eye, not towards it: the angle falls behind as the radius grows.
                $angle = 2 * M_PI * $cell / $across - acos(38.0 / $radius) * 0.62;
                array_push($this->xyz, $radius * cos($angle), $radius * sin($angle), $z);
            }
            $ids[] = $this->index[$key];
        }
        for ($k = 1; $k + 1 < count($ids); $k++) {
            array_push($this->corners, $ids[0], $ids[$k], $ids[$k + 1]);
        }
    }
}
