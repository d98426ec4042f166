<?php

declare(strict_types=1);

namespace Isotome\Motion;

/**
 * Faces by which bodies hold together, each as a joint of three axes along which its middle is held and three about which it is not turned, until it is asked too much of it (Glue).
 *
 * Soft constraints solved by sequential impulses, as contacts are: see RigidBodies.
 */
final class GluedFaces
{
    /** Times that glue is gone through in a small step. */
    private const HOLDS = 4;

    /** @var array<int, array{a: int, b: int, glue: Glue, strength: float, impulses: list<float>}> as the pieces stood, and how strongly they were held at last */
    private array $glued = [];

    /** @var array<int, int> by pair, how many faces hold it */
    private array $holds = [];

    public function __construct(private readonly RigidBodies $world)
    {
    }

    /**
     * Holds two bodies together, until they are pulled apart, bent or sheared by more than the glue bears anywhere. Bodies that are glued do not touch each other. What has been moved apart or turned before is not glued.
     *
     * @param  float  $strength  g/(mm s²), by area
     */
    public function add(int $a, int $b, Glue $glue, float $strength): void
    {
        [$x, $y, $z] = $this->held($a, $glue);
        [$u, $v, $w] = $this->held($b, $glue);
        $turn = $this->twist($a, $b);
        if (($u - $x) ** 2 + ($v - $y) ** 2 + ($w - $z) ** 2 > Glue::REACH ** 2 || max(array_map(abs(...), $turn)) > 1e-3) {
            return;
        }
        $this->glued[] = ['a' => $a, 'b' => $b, 'glue' => $glue, 'strength' => $strength, 'impulses' => [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]];
        $pair = self::pair($a, $b);
        $this->holds[$pair] = ($this->holds[$pair] ?? 0) + 1;
    }

    private static function pair(int $a, int $b): int
    {
        return $a < $b ? $a << 20 | $b : $b << 20 | $a;
    }

    /** @return array{float, float, float} where a body has the middle of a glued face */
    private function held(int $n, Glue $glue): array
    {
        $centre = $this->world->centre($n);
        $at = Quaternion::turned($this->world->turns[$n], [$glue->middle[0] - $centre[0], $glue->middle[1] - $centre[1], $glue->middle[2] - $centre[2]]);

        return [$this->world->places[$n][0] + $at[0], $this->world->places[$n][1] + $at[1], $this->world->places[$n][2] + $at[2]];
    }

    /** @return array{float, float, float} by how much the second body is turned against the first, as a rotation vector; of small turns */
    private function twist(int $a, int $b): array
    {
        [$x, $y, $z, $w] = $this->world->turns[$a];
        [$p, $q, $r, $s] = Quaternion::then([-$x, -$y, -$z, $w], $this->world->turns[$b]);
        $by = $s < 0.0 ? -2.0 : 2.0;

        return [$by * $p, $by * $q, $by * $r];
    }

    /** Faces that still hold. */
    public function count(): int
    {
        return count($this->glued);
    }

    /** Whether two bodies are glued, by pair. */
    public function holds(int $pair): bool
    {
        return isset($this->holds[$pair]);
    }

    /** @return list<array{int, int}> bodies that hold each other */
    public function pairs(): array
    {
        return array_values(array_map(static fn (array $one): array => [$one['a'], $one['b']], $this->glued));
    }

    /**
     * What is glued, for the small steps; faces whose bodies are at rest are left out. Of each six axes: along which its middle is held (normal, along, across), and about which it is not turned (the same).
     *
     * @return array<int, array{glue: int, a: int, b: int, apart: list<float>, axes: list<float>, impulses: list<float>, massA: float, massB: float}>
     */
    public function now(): array
    {
        $now = [];
        foreach ($this->glued as $g => ['a' => $a, 'b' => $b, 'glue' => $glue, 'impulses' => $impulses]) {
            $massA = $this->world->mass($a);
            $massB = $this->world->mass($b);
            if ($massA <= 0.0 && $massB <= 0.0) {
                continue;
            }
            $p = $this->held($a, $glue);
            $q = $this->held($b, $glue);
            $off = [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]];
            $twist = $this->twist($a, $b);
            [$nx, $ny, $nz] = $normal = Quaternion::turned($this->world->turns[$a], $glue->normal);
            [$lx, $ly, $lz] = $along = Quaternion::turned($this->world->turns[$a], $glue->along);
            $ways = [$normal, $along, [$ny * $lz - $nz * $ly, $nz * $lx - $nx * $lz, $nx * $ly - $ny * $lx]];
            $axes = $apart = [];
            foreach ($ways as $way) {
                $onA = self::cross([$p[0] + $off[0] / 2 - $this->world->places[$a][0], $p[1] + $off[1] / 2 - $this->world->places[$a][1], $p[2] + $off[2] / 2 - $this->world->places[$a][2]], $way);
                $onB = self::cross([$p[0] + $off[0] / 2 - $this->world->places[$b][0], $p[1] + $off[1] / 2 - $this->world->places[$b][1], $p[2] + $off[2] / 2 - $this->world->places[$b][2]], $way);
                array_push($axes, ...$this->axis($a, $b, $way, $onA, $onB, $massA, $massB));
                $apart[] = $off[0] * $way[0] + $off[1] * $way[1] + $off[2] * $way[2];
            }
            foreach ($ways as $way) {
                array_push($axes, ...$this->axis($a, $b, [0.0, 0.0, 0.0], $way, $way, $massA, $massB));
                $apart[] = $twist[0] * $way[0] + $twist[1] * $way[1] + $twist[2] * $way[2];
            }
            $now[] = ['glue' => $g, 'a' => $a, 'b' => $b, 'apart' => $apart, 'axes' => $axes, 'impulses' => $impulses, 'massA' => $massA, 'massB' => $massB];
        }

        return $now;
    }

    /**
     * An axis as push() reads it, and last the mass that it moves.
     *
     * @param  array{float, float, float}  $way
     * @param  array{float, float, float}  $onA
     * @param  array{float, float, float}  $onB
     * @return list<float>
     */
    private function axis(int $a, int $b, array $way, array $onA, array $onB, float $massA, float $massB): array
    {
        $byA = $massA <= 0.0 ? [0.0, 0.0, 0.0] : Tensor::times($this->world->now[$a], $onA);
        $byB = $massB <= 0.0 ? [0.0, 0.0, 0.0] : Tensor::times($this->world->now[$b], $onB);
        $k = ($massA + $massB) * ($way[0] * $way[0] + $way[1] * $way[1] + $way[2] * $way[2]) + $onA[0] * $byA[0] + $onA[1] * $byA[1] + $onA[2] * $byA[2] + $onB[0] * $byB[0] + $onB[1] * $byB[1] + $onB[2] * $byB[2];

        return [...$way, ...$onA, ...$onB, ...$byA, ...$byB, $k > 0.0 ? 1.0 / $k : 0.0];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @return array{float, float, float}
     */
    private static function cross(array $a, array $b): array
    {
        return [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
    }

    /**
     * Keeps glued faces together: springs with much damping in the first pass, then the speed that pulling them together gave is taken away.
     *
     * @param  array<int, array{glue: int, a: int, b: int, apart: list<float>, axes: list<float>, impulses: list<float>, massA: float, massB: float}>  $glue
     * @param  array<int, float>  $v
     * @param  array<int, float>  $gone
     */
    public function hold(array &$glue, array &$v, array $gone, float $h, bool $isBiased): void
    {
        $omega = 2 * M_PI * 0.25 / $h;
        $damping = 2.0 + $h * $omega;
        $c1 = $h * $omega * $damping;
        [$rate, $soft, $less] = $isBiased ? [$omega / $damping, $c1 / (1.0 + $c1), 1.0 / (1.0 + $c1)] : [0.0, 1.0, 0.0];
        if ($isBiased) {
            foreach ($glue as $c) {
                foreach ($c['impulses'] as $k => $impulse) {
                    Impulse::push($c, 16 * $k, $impulse, $v);
                }
            }
        }
        for ($round = 0; $round < self::HOLDS; $round++) {
            // To and fro, so that a push goes through a body in one round.
            $order = array_keys($glue);
            foreach ($round % 2 === 0 ? $order : array_reverse($order) as $n) {
                $c = $glue[$n];
                $axes = $c['axes'];
                $impulses = $c['impulses'];
                $a = 6 * $c['a'];
                $b = 6 * $c['b'];
                foreach ($c['apart'] as $k => $apart) {
                    $at = 16 * $k;
                    $x = $axes[$at];
                    $y = $axes[$at + 1];
                    $z = $axes[$at + 2];
                    $speed = ($v[$b] - $v[$a]) * $x + ($v[$b + 1] - $v[$a + 1]) * $y + ($v[$b + 2] - $v[$a + 2]) * $z + $v[$b + 3] * $axes[$at + 6] + $v[$b + 4] * $axes[$at + 7] + $v[$b + 5] * $axes[$at + 8]
                        - $v[$a + 3] * $axes[$at + 3] - $v[$a + 4] * $axes[$at + 4] - $v[$a + 5] * $axes[$at + 5];
                    if ($isBiased) {
                        $speed += $rate * ($apart + ($gone[$b] - $gone[$a]) * $x + ($gone[$b + 1] - $gone[$a + 1]) * $y + ($gone[$b + 2] - $gone[$a + 2]) * $z
                            + $gone[$b + 3] * $axes[$at + 6] + $gone[$b + 4] * $axes[$at + 7] + $gone[$b + 5] * $axes[$at + 8] - $gone[$a + 3] * $axes[$at + 3] - $gone[$a + 4] * $axes[$at + 4] - $gone[$a + 5] * $axes[$at + 5]);
                    }
                    $by = -$axes[$at + 15] * $soft * $speed - $less * $impulses[$k];
                    $impulses[$k] += $by;
                    Impulse::push($c, $at, $by, $v);
                }
                $c['impulses'] = array_values($impulses);
                $glue[$n] = $c;
            }
        }
    }

    /**
     * Faces of which some place is pulled or sheared by more than it bears give way.
     *
     * @param  array<int, array{glue: int, a: int, b: int, apart: list<float>, axes: list<float>, impulses: list<float>, massA: float, massB: float}>  $glue
     * @return array<int, true> pairs that nothing holds any more
     */
    public function tear(array &$glue, float $h): array
    {
        $parted = [];
        foreach ($glue as $n => $c) {
            ['glue' => $face, 'strength' => $strength] = $this->glued[$c['glue']];
            [$push, $along, $across, $twist, $acrossLong, $acrossShort] = $c['impulses'];
            // The normal goes from the first into the second: what is below 0 is a pull. About the long direction bending pulls at the places of the short one, and the other way round.
            $pull = max(0.0, -$push / 4 + max(abs($acrossLong) / (2 * $face->short), abs($acrossShort) / (2 * $face->long)));
            $shear = hypot($along, $across) / 4 + abs($twist) * max($face->long, $face->short) / (2 * ($face->long ** 2 + $face->short ** 2));
            if (hypot($pull, $shear) > $strength * $h * $face->area / 4) {
                unset($glue[$n], $this->glued[$c['glue']]);
                $pair = self::pair($c['a'], $c['b']);
                if (--$this->holds[$pair] === 0) {
                    unset($this->holds[$pair]);
                    $parted[$pair] = true;
                }
            } else {
                $this->glued[$c['glue']]['impulses'] = $c['impulses'];
            }
        }

        return $parted;
    }
}
