<?php

declare(strict_types=1);

namespace Isotome\Join;

/** What a peg looks like across. Its corners lie on the circle of its diameter, so a shape needs no more room than a round peg. */
enum Shape: string
{
    /** Corners of a round one: their middles are 0.2 % of its radius within the circle. */
    private const ROUND = 48;

    case Round = 'round';
    case Square = 'square';
    case Hexagon = 'hexagon';
    case Dovetail = 'dovetail';

    /**
     * @param  float  $radius  mm
     * @return non-empty-list<array{float, float}> counter-clockwise around 0, 0
     */
    public function corners(float $radius): array
    {
        $degrees = match ($this) {
            self::Round => self::turns(self::ROUND),
            self::Square => self::turns(4),
            self::Hexagon => self::turns(6),
            // One side wide, one narrow.
            self::Dovetail => [-150.0, -30.0, 55.0, 125.0],
        };

        return array_map(static fn (float $at): array => [$radius * cos(deg2rad($at)), $radius * sin(deg2rad($at))], $degrees);
    }

    /**
     * The shape of the socket: every side is farther out by the clearance; round ones are nowhere nearer to the peg.
     *
     * @param  float  $radius  of the peg, mm
     * @param  float  $clearance  mm
     * @return non-empty-list<array{float, float}>
     */
    public function widened(float $radius, float $clearance): array
    {
        $corners = $this->corners($radius);
        $count = count($corners);
        // Round pegs end at the circle, round sockets begin at theirs.
        $by = $this === self::Round ? $clearance + $radius * (1.0 - cos(M_PI / self::ROUND)) : $clearance;
        $widened = [];
        foreach ($corners as $n => [$x, $y]) {
            [$px, $py] = $corners[($n + $count - 1) % $count];
            [$qx, $qy] = $corners[($n + 1) % $count];
            // The normals of both sides that meet here, to the right of their way.
            $in = hypot($x - $px, $y - $py);
            $out = hypot($qx - $x, $qy - $y);
            [$ax, $ay] = [($y - $py) / $in, -($x - $px) / $in];
            [$bx, $by_] = [($qy - $y) / $out, -($qx - $x) / $out];
            $along = $by / (1.0 + $ax * $bx + $ay * $by_);
            $widened[] = [$x + $along * ($ax + $bx), $y + $along * ($ay + $by_)];
        }

        return $widened;
    }

    /** How far its socket reaches from its middle, mm. */
    public function reach(float $radius, float $clearance): float
    {
        return max(array_map(static fn (array $corner): float => hypot(...$corner), $this->widened($radius, $clearance)));
    }

    /** In how many ways it fits when it is turned; 0 for all. */
    public function ways(): int
    {
        return match ($this) {
            self::Round => 0,
            self::Square => 4,
            self::Hexagon => 6,
            self::Dovetail => 1,
        };
    }

    /** @return non-empty-list<float> */
    private static function turns(int $corners): array
    {
        return array_map(static fn (int $n): float => 360.0 * ($n + 0.5) / $corners, range(0, max(1, $corners) - 1));
    }
}
