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

    // What holds within the step, in flat lists: as many numbers a face as is said at each.

    /** @var list<int> one: its number among the glued */
    private array $numbers = [];

    /** @var list<int> two: where the numbers of its bodies begin among the speeds of all, six a body */
    private array $ends = [];

    /** @var list<float> two: inverse masses of both bodies, 0 for what does not move now */
    private array $masses = [];

    /** @var list<float> 96: three axes along which its middle is held (normal, along, across), three about which it is not turned (the same), as Impulse reads them */
    private array $axes = [];

    /** @var list<float> six: how far apart its sides are along the axes, mm, and turned about them, radians */
    private array $apart = [];

    /** @var array<int, float> six: along and about the axes */
    private array $impulses = [];

    public function __construct(private readonly RigidBodies $world)
    {
    }

    /**
     * Holds two bodies together, until they are pulled apart, bent or sheared by more than the glue bears anywhere. Bodies that are glued press on each other only when a hit presses them into each other (Touching). What has been moved apart or turned before is not glued.
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
        $pair = Nearby::pair($a, $b);
        $this->holds[$pair] = ($this->holds[$pair] ?? 0) + 1;
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

    /** @return list<int> pairs of bodies that hold each other */
    public function pairs(): array
    {
        return array_keys($this->holds);
    }

    /**
     * Takes up what holds, for the small steps of a step; faces whose bodies are at rest, or fall with all that is near them, are left out.
     *
     * @param  array<int, true>  $calm  bodies between which nothing presses
     * @return list<array{int, int}> bodies that hold each other now
     */
    public function begin(array $calm): array
    {
        $this->numbers = $this->ends = $this->masses = $this->axes = $this->apart = $this->impulses = [];
        $held = [];
        foreach ($this->glued as $g => ['a' => $a, 'b' => $b, 'glue' => $glue, 'impulses' => $impulses]) {
            $massA = $this->world->mass($a);
            $massB = $this->world->mass($b);
            if (isset($calm[$a]) || ($massA <= 0.0 && $massB <= 0.0)) {
                continue;
            }
            $held[] = [$a, $b];
            $this->numbers[] = $g;
            array_push($this->ends, 6 * $a, 6 * $b);
            array_push($this->masses, $massA, $massB);
            array_push($this->impulses, ...$impulses);
            $p = $this->held($a, $glue);
            $q = $this->held($b, $glue);
            $off = [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]];
            $twist = $this->twist($a, $b);
            [$nx, $ny, $nz] = $normal = Quaternion::turned($this->world->turns[$a], $glue->normal);
            [$lx, $ly, $lz] = $along = Quaternion::turned($this->world->turns[$a], $glue->along);
            $ways = [$normal, $along, [$ny * $lz - $nz * $ly, $nz * $lx - $nx * $lz, $nx * $ly - $ny * $lx]];
            [$x, $y, $z] = $this->world->places[$a];
            $fromA = [$p[0] + $off[0] / 2 - $x, $p[1] + $off[1] / 2 - $y, $p[2] + $off[2] / 2 - $z];
            [$x, $y, $z] = $this->world->places[$b];
            $fromB = [$p[0] + $off[0] / 2 - $x, $p[1] + $off[1] / 2 - $y, $p[2] + $off[2] / 2 - $z];
            foreach ($ways as $way) {
                $this->axis($a, $b, $way, self::cross($fromA, $way), self::cross($fromB, $way), $massA, $massB);
                $this->apart[] = $off[0] * $way[0] + $off[1] * $way[1] + $off[2] * $way[2];
            }
            foreach ($ways as $way) {
                $this->axis($a, $b, [0.0, 0.0, 0.0], $way, $way, $massA, $massB);
                $this->apart[] = $twist[0] * $way[0] + $twist[1] * $way[1] + $twist[2] * $way[2];
            }
        }

        return $held;
    }

    /**
     * @param  array{float, float, float}  $way
     * @param  array{float, float, float}  $onA
     * @param  array{float, float, float}  $onB
     */
    private function axis(int $a, int $b, array $way, array $onA, array $onB, float $massA, float $massB): void
    {
        [$px, $py, $pz] = $onA;
        [$qx, $qy, $qz] = $onB;
        [$fx, $fy, $fz] = $massA <= 0.0 ? [0.0, 0.0, 0.0] : Tensor::times($this->world->now[$a], $onA);
        [$gx, $gy, $gz] = $massB <= 0.0 ? [0.0, 0.0, 0.0] : Tensor::times($this->world->now[$b], $onB);
        $k = ($massA + $massB) * ($way[0] * $way[0] + $way[1] * $way[1] + $way[2] * $way[2]) + $px * $fx + $py * $fy + $pz * $fz + $qx * $gx + $qy * $gy + $qz * $gz;
        array_push($this->axes, $way[0], $way[1], $way[2], $px, $py, $pz, $qx, $qy, $qz, $fx, $fy, $fz, $gx, $gy, $gz, $k > 0.0 ? 1.0 / $k : 0.0);
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
     * @param  array<int, float>  $speeds
     * @param  array<int, float>  $gone
     */
    public function hold(array &$speeds, array $gone, float $h, bool $isBiased): void
    {
        $count = count($this->numbers);
        if ($count === 0) {
            return;
        }
        $omega = 2 * M_PI * 0.25 / $h;
        $damping = 2.0 + $h * $omega;
        $c1 = $h * $omega * $damping;
        [$rate, $soft, $less] = $isBiased ? [$omega / $damping, $c1 / (1.0 + $c1), 1.0 / (1.0 + $c1)] : [0.0, 1.0, 0.0];
        // Lists that nobody else holds are changed in place.
        $v = $speeds;
        $speeds = [];
        $impulses = $this->impulses;
        $this->impulses = [];
        $ends = $this->ends;
        $masses = $this->masses;
        $axes = $this->axes;
        $apart = $this->apart;
        if ($isBiased) {
            for ($i = 0; $i < $count; $i++) {
                for ($n = 0; $n < 6; $n++) {
                    Impulse::push($axes, 96 * $i + 16 * $n, $impulses[6 * $i + $n], $v, $ends[2 * $i], $ends[2 * $i + 1], $masses[2 * $i], $masses[2 * $i + 1]);
                }
            }
        }
        $dx = $dy = $dz = $gu = $gv = $gw = $hu = $hv = $hw = 0.0;
        for ($round = 0; $round < self::HOLDS; $round++) {
            for ($n = 0; $n < $count; $n++) {
                // To and fro, so that a push goes through a body in one round.
                $i = $round % 2 === 0 ? $n : $count - 1 - $n;
                $a = $ends[2 * $i];
                $b = $ends[2 * $i + 1];
                $massA = $masses[2 * $i];
                $massB = $masses[2 * $i + 1];
                $ax = $v[$a];
                $ay = $v[$a + 1];
                $az = $v[$a + 2];
                $au = $v[$a + 3];
                $av = $v[$a + 4];
                $aw = $v[$a + 5];
                $bx = $v[$b];
                $by = $v[$b + 1];
                $bz = $v[$b + 2];
                $bu = $v[$b + 3];
                $bv = $v[$b + 4];
                $bw = $v[$b + 5];
                if ($isBiased) {
                    $dx = $gone[$b] - $gone[$a];
                    $dy = $gone[$b + 1] - $gone[$a + 1];
                    $dz = $gone[$b + 2] - $gone[$a + 2];
                    $gu = $gone[$a + 3];
                    $gv = $gone[$a + 4];
                    $gw = $gone[$a + 5];
                    $hu = $gone[$b + 3];
                    $hv = $gone[$b + 4];
                    $hw = $gone[$b + 5];
                }
                $k = 96 * $i;
                $e = 6 * $i;
                for ($end = $e + 3; $e < $end; $e++) {
                    $x = $axes[$k];
                    $y = $axes[$k + 1];
                    $z = $axes[$k + 2];
                    $p = $axes[$k + 3];
                    $q = $axes[$k + 4];
                    $r = $axes[$k + 5];
                    $s = $axes[$k + 6];
                    $t = $axes[$k + 7];
                    $u = $axes[$k + 8];
                    $speed = ($bx - $ax) * $x + ($by - $ay) * $y + ($bz - $az) * $z + $bu * $s + $bv * $t + $bw * $u - $au * $p - $av * $q - $aw * $r;
                    if ($isBiased) {
                        $speed += $rate * ($apart[$e] + $dx * $x + $dy * $y + $dz * $z + $hu * $s + $hv * $t + $hw * $u - $gu * $p - $gv * $q - $gw * $r);
                    }
                    $j = -$axes[$k + 15] * $soft * $speed - $less * $impulses[$e];
                    $impulses[$e] += $j;
                    $m = $j * $massB;
                    $bx += $m * $x;
                    $by += $m * $y;
                    $bz += $m * $z;
                    $bu += $j * $axes[$k + 12];
                    $bv += $j * $axes[$k + 13];
                    $bw += $j * $axes[$k + 14];
                    $m = $j * $massA;
                    $ax -= $m * $x;
                    $ay -= $m * $y;
                    $az -= $m * $z;
                    $au -= $j * $axes[$k + 9];
                    $av -= $j * $axes[$k + 10];
                    $aw -= $j * $axes[$k + 11];
                    $k += 16;
                }
                for ($end = $e + 3; $e < $end; $e++) {
                    $x = $axes[$k + 3];
                    $y = $axes[$k + 4];
                    $z = $axes[$k + 5];
                    $speed = ($bu - $au) * $x + ($bv - $av) * $y + ($bw - $aw) * $z;
                    if ($isBiased) {
                        $speed += $rate * ($apart[$e] + ($hu - $gu) * $x + ($hv - $gv) * $y + ($hw - $gw) * $z);
                    }
                    $j = -$axes[$k + 15] * $soft * $speed - $less * $impulses[$e];
                    $impulses[$e] += $j;
                    $bu += $j * $axes[$k + 12];
                    $bv += $j * $axes[$k + 13];
                    $bw += $j * $axes[$k + 14];
                    $au -= $j * $axes[$k + 9];
                    $av -= $j * $axes[$k + 10];
                    $aw -= $j * $axes[$k + 11];
                    $k += 16;
                }
                $v[$a] = $ax;
                $v[$a + 1] = $ay;
                $v[$a + 2] = $az;
                $v[$a + 3] = $au;
                $v[$a + 4] = $av;
                $v[$a + 5] = $aw;
                $v[$b] = $bx;
                $v[$b + 1] = $by;
                $v[$b + 2] = $bz;
                $v[$b + 3] = $bu;
                $v[$b + 4] = $bv;
                $v[$b + 5] = $bw;
            }
        }
        $this->impulses = $impulses;
        $speeds = $v;
    }

    /**
     * Faces of which some place is pulled or sheared by more than it bears give way.
     *
     * @return array<int, true> pairs that nothing holds any more
     */
    public function tear(float $h): array
    {
        $parted = $gone = [];
        foreach ($this->numbers as $i => $g) {
            ['a' => $a, 'b' => $b, 'glue' => $face, 'strength' => $strength] = $this->glued[$g];
            [$push, $along, $across, $twist, $acrossLong, $acrossShort] = array_slice($this->impulses, 6 * $i, 6);
            // The normal goes from the first into the second: what is below 0 is a pull. About the long direction bending pulls at the places of the short one, and the other way round.
            $pull = max(0.0, -$push / 4 + max(abs($acrossLong) / (2 * $face->short), abs($acrossShort) / (2 * $face->long)));
            $shear = hypot($along, $across) / 4 + abs($twist) * max($face->long, $face->short) / (2 * ($face->long ** 2 + $face->short ** 2));
            if (hypot($pull, $shear) > $strength * $h * $face->area / 4) {
                $gone[$i] = true;
                unset($this->glued[$g]);
                $pair = Nearby::pair($a, $b);
                if (--$this->holds[$pair] === 0) {
                    unset($this->holds[$pair]);
                    $parted[$pair] = true;
                }
            }
        }
        if ($gone !== []) {
            $this->numbers = self::without($this->numbers, 1, $gone);
            $this->ends = self::without($this->ends, 2, $gone);
            $this->masses = self::without($this->masses, 2, $gone);
            $this->axes = self::without($this->axes, 96, $gone);
            $this->apart = self::without($this->apart, 6, $gone);
            $this->impulses = self::without($this->impulses, 6, $gone);
        }

        return $parted;
    }

    /** How strongly faces were held in the end is where the next step begins. */
    public function keep(): void
    {
        foreach ($this->numbers as $i => $g) {
            $this->glued[$g]['impulses'] = array_slice($this->impulses, 6 * $i, 6);
        }
    }

    /**
     * @template T of int|float
     *
     * @param  array<int, T>  $list
     * @param  int  $wide  numbers a face
     * @param  array<int, true>  $gone  places of faces
     * @return list<T>
     */
    private static function without(array $list, int $wide, array $gone): array
    {
        $left = [];
        foreach ($list as $i => $number) {
            if (! isset($gone[intdiv($i, $wide)])) {
                $left[] = $number;
            }
        }

        return $left;
    }
}
