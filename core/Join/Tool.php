<?php

declare(strict_types=1);

namespace Isotome\Join;

use Isotome\Mesh\Mesh;

/** A straight body, its ends square to a common face, that is added to a piece through that face or taken out of it. */
final readonly class Tool
{
    /**
     * @param  int  $side  the piece's side of the face: 0 for the first, 1 for the second
     * @param  bool  $isAdded  else it is taken out
     * @param  non-empty-list<array{float, float}>  $corners  on the page, counter-clockwise; all around its place
     * @param  non-empty-list<array{float, float}>  $levels  height, mm, ascending, and how large it is there, 1 being whole
     */
    public function __construct(
        public CommonFace $face,
        public int $side,
        public bool $isAdded,
        public float $x,
        public float $y,
        public array $corners,
        public array $levels,
    ) {
    }

    /** How far it reaches around its place, mm. */
    public function reach(): float
    {
        return max(array_map(fn (array $at): float => hypot($at[0] - $this->x, $at[1] - $this->y), $this->corners));
    }

    /**
     * Its corners at a level, in space.
     *
     * @return list<float>
     */
    public function ring(float $height, float $size): array
    {
        $ring = [];
        foreach ($this->corners as [$x, $y]) {
            array_push($ring, ...$this->face->inSpace($this->x + $size * ($x - $this->x), $this->y + $size * ($y - $this->y), $height));
        }

        return $ring;
    }

    public function mesh(): Mesh
    {
        $xyz = [];
        foreach ($this->levels as [$height, $size]) {
            array_push($xyz, ...$this->ring($height, $size));
        }
        $count = count($this->corners);
        $corners = self::walls($count, count($this->levels));
        for ($n = 1; $n < $count - 1; $n++) {
            array_push($corners, 0, $n + 1, $n);
        }

        return Mesh::of($xyz, $corners);
    }

    /**
     * Triangles around rings that lie one above the other, and on the last of them, seen from outside.
     *
     * @return list<int>
     */
    public static function walls(int $count, int $rings): array
    {
        $corners = [];
        for ($from = 0; $from < ($rings - 1) * $count; $from += $count) {
            for ($n = 0; $n < $count; $n++) {
                [$a, $b] = [$from + $n, $from + ($n + 1) % $count];
                array_push($corners, $a, $b, $b + $count, $a, $b + $count, $a + $count);
            }
        }
        for ($n = 1; $n < $count - 1; $n++) {
            array_push($corners, $from, $from + $n, $from + $n + 1);
        }

        return $corners;
    }
}
