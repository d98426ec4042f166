<?php

declare(strict_types=1);

namespace Isotome\Join;

use Isotome\Exception\BadBlade;
use Isotome\Mesh\Mesh;
use Isotome\Seal\RimTriangulation;

/** A straight body, its ends square to a common face, that is added to a piece through that face or taken out of it. */
final readonly class Tool
{
    /**
     * @param  int  $side  the piece's side of the face: 0 for the first, 1 for the second
     * @param  bool  $isAdded  else it is taken out
     * @param  non-empty-list<array{float, float}>  $corners  on the page, counter-clockwise, of an outline that does not cross itself
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
        $top = (count($this->levels) - 1) * $count;
        foreach ($this->end() as [$a, $b, $c]) {
            array_push($corners, $a, $c, $b, $top + $a, $top + $b, $top + $c);
        }

        return Mesh::of($xyz, $corners);
    }

    /** @return list<array{int, int, int}> triangles of an end, counter-clockwise on the page */
    public function end(): array
    {
        $count = count($this->corners);
        $from = range(0, $count - 1);
        $to = [...array_slice($from, 1), 0];
        $end = RimTriangulation::exact(array_column($this->corners, 0), array_column($this->corners, 1), $from, $to) ?? throw new BadBlade('An outline of a peg or a mark crosses itself, which must not happen; keep the mesh and the recipe and report them.');
        $triangles = [];
        for ($i = 0; $i + 2 < count($end); $i += 3) {
            $triangles[] = [$end[$i], $end[$i + 1], $end[$i + 2]];
        }

        return $triangles;
    }

    /**
     * Triangles around rings that lie one above the other, seen from outside.
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

        return $corners;
    }
}
