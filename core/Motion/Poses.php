<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Closure;

/**
 * Where pieces are, frame by frame: how far their centres of mass have come from where they stand, how they are turned and scaled about them.
 *
 * @phpstan-import-type Quat from Quaternion
 */
final class Poses
{
    /** @var array<int, array<int, float>> by piece, three numbers a frame, mm */
    public array $shifts = [];

    /** @var array<int, array<int, float>> four numbers a frame */
    public array $turns = [];

    /** @var array<int, array<int, float>> */
    public array $scales = [];

    /** @var (Closure(int): void)|null told of each frame that a layer has worked out for good, in their order */
    public ?Closure $reached = null;

    /** @param  list<Actor>  $actors */
    public function __construct(public readonly array $actors, public readonly int $frames, public readonly int $fps = 25)
    {
        foreach ($actors as $_) {
            $this->shifts[] = array_fill(0, 3 * $frames, 0.0);
            $turns = [];
            for ($k = 0; $k < $frames; $k++) {
                array_push($turns, ...Quaternion::NONE);
            }
            $this->turns[] = $turns;
            $this->scales[] = array_fill(0, $frames, 1.0);
        }
    }

    /**
     * Adds to what is there: shifts add up, turns follow each other, scales multiply.
     *
     * @param  array{float, float, float}  $shift
     * @param  Quat|null  $turn
     */
    public function add(int $piece, int $frame, array $shift, ?array $turn = null, float $scale = 1.0): void
    {
        $this->shifts[$piece][3 * $frame] += $shift[0];
        $this->shifts[$piece][3 * $frame + 1] += $shift[1];
        $this->shifts[$piece][3 * $frame + 2] += $shift[2];
        if ($turn !== null) {
            $next = Quaternion::then($this->turn($piece, $frame), $turn);
            foreach ($next as $k => $c) {
                $this->turns[$piece][4 * $frame + $k] = $c;
            }
        }
        $this->scales[$piece][$frame] *= $scale;
    }

    /**
     * Puts a piece somewhere at a frame, whatever was there.
     *
     * @param  array{float, float, float}  $place  of its centre of mass
     * @param  Quat  $turn
     */
    public function put(int $piece, int $frame, array $place, array $turn): void
    {
        foreach ([0, 1, 2] as $k) {
            $this->shifts[$piece][3 * $frame + $k] = $place[$k] - $this->actors[$piece]->centre[$k];
        }
        foreach ($turn as $k => $c) {
            $this->turns[$piece][4 * $frame + $k] = $c;
        }
        $this->scales[$piece][$frame] = 1.0;
    }

    /** Adds what others of the same pieces have at a frame. */
    public function join(self $others, int $frame): void
    {
        foreach ($this->actors as $n => $_) {
            $shift = $others->shifts[$n];
            $this->add($n, $frame, [$shift[3 * $frame], $shift[3 * $frame + 1], $shift[3 * $frame + 2]], $others->turn($n, $frame), $others->scales[$n][$frame]);
        }
    }

    /** Whether a piece is where it stands, to the last bit. */
    public function isUnmoved(int $piece, int $frame): bool
    {
        return $this->at($piece, $frame) === [...$this->actors[$piece]->centre, ...Quaternion::NONE, 1.0];
    }

    /** @return Quat */
    public function turn(int $piece, int $frame): array
    {
        $turns = $this->turns[$piece];

        return [$turns[4 * $frame], $turns[4 * $frame + 1], $turns[4 * $frame + 2], $turns[4 * $frame + 3]];
    }

    /** @return array{float, float, float, float, float, float, float, float} where the centre of mass is, mm, the turn x, y, z, w, and the scale: as poses.json has it */
    public function at(int $piece, int $frame): array
    {
        $centre = $this->actors[$piece]->centre;
        $shift = $this->shifts[$piece];

        return [$centre[0] + $shift[3 * $frame], $centre[1] + $shift[3 * $frame + 1], $centre[2] + $shift[3 * $frame + 2], ...$this->turn($piece, $frame), $this->scales[$piece][$frame]];
    }
}
