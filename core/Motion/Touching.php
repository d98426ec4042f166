<?php

declare(strict_types=1);

namespace Isotome\Motion;

/**
 * What touches, or will within a step: found pair by pair among what is near (Nearby), on the hulls of bodies (Manifold), and on all of the hull at the floor.
 *
 * What was found is kept from step to step: where two bodies touch, as long as they hardly move against each other, along which direction they are apart, and what their contacts bore.
 */
final class Touching
{
    private const SLOP = ContactSolver::SLOP;

    /** mm: bodies that have moved less against each other touch where they did. */
    private const HARDLY = 0.01;

    /** mm: an overlap that is no deeper along the way that was the least is not searched anew. */
    private const SHALLOW = 0.06;

    /** mm that what is glued may be pressed into each other by a hit, before it presses back: glue gives in a hit, and holds by itself otherwise. */
    private const GIVE = 0.15;

    /** Corners on the floor that are all looked at; of more, so many that come down deepest. */
    private const CORNERS = 12;

    private const DEEPEST = 3;

    /** Contacts nearer to each other than this share of a body's radius are the same one as before. */
    private const SAME = 0.05;

    /** @var array<int, list<array{float, float, float, float, float, float}>> by pair, of the contacts of the last step: where on the second body, as the piece stood, and their impulses */
    private array $before = [];

    /** @var array<int, float> by pair of bodies that overlapped from the beginning: how deep they may stay */
    private array $allowed = [];

    /** @var array<int, array{float, float, float}> by pair, the direction from the first to the second along which they were least apart */
    private array $ways = [];

    /** @var array<int, array{pose: list<float>, margin: float, found: array{array{float, float, float}, list<array{float, float, float, float}>}|null}> by pair, how they were to each other when they were looked at last, and what was found: places relative to the first */
    private array $known = [];

    /** @var array<int, list<float>> corners of each body as they were last: of what does not move, as they are */
    private array $points = [];

    /** @var array<int, array{float, float, float, float, float, float}> */
    private array $boxes = [];

    /** @var array<int, list<float>> how each is turned, nine numbers */
    private array $matrices = [];

    private bool $isFirst = true;

    /** @param  list<Shape>  $shapes */
    public function __construct(private readonly RigidBodies $world, private readonly array $shapes, private readonly GluedFaces $glued, private readonly Resting $resting, private readonly ?float $floor, private readonly float $gravity)
    {
    }

    /**
     * @param  array<int, true>  $parted  pairs whose last glue has just given way: they may overlap as deep as they do
     * @return array{Contacts, array<int, true>} and bodies that fall with all that is near them as one: nothing presses there
     */
    public function within(float $seconds, array $parted): array
    {
        $world = $this->world;
        $turning = $margins = $moves = [];
        foreach ($this->shapes as $n => $shape) {
            [$vx, $vy, $vz] = $world->speeds[$n];
            [$wx, $wy, $wz] = $world->spins[$n];
            $turning[$n] = self::SLOP + $seconds * $shape->radius * sqrt($wx * $wx + $wy * $wy + $wz * $wz);
            $margins[$n] = $turning[$n] + self::SLOP + $seconds * sqrt($vx * $vx + $vy * $vy + $vz * $vz) + $this->gravity * $seconds * $seconds;
            $moves[$n] = $world->mass($n) > 0.0;
            if ($moves[$n] || ! isset($this->points[$n])) {
                $this->look($n);
            }
        }
        $pairs = Nearby::pairs($this->boxes, $margins, $moves);
        $stopped = Nearby::mayBeStopped($pairs, $this->boxes, $margins, $moves, $this->floor);
        $calm = $this->isFirst ? [] : Nearby::calm([...$pairs, ...$this->glued->pairs()], $stopped, $world->speeds, $world->spins);
        $contacts = new Contacts;
        $known = [];
        foreach ($pairs as $pair) {
            $a = $pair >> 20;
            $b = $pair & 0xFFFFF;
            if (isset($calm[$a])) {
                if (isset($this->known[$pair])) {
                    $known[$pair] = $this->known[$pair];
                }

                continue;
            }
            // What is glued may part within the step, and touches from then on.
            $isGlued = $this->glued->holds($pair);
            if ($isGlued && ! isset($stopped[$a])) {
                continue;
            }
            if (isset($stopped[$a]) || isset($stopped[$b])) {
                $margin = $margins[$a] + $margins[$b];
            } else {
                // What falls freely comes nearer to each other by the difference of their speeds only; of what is stopped within the step that is not known yet.
                [$p, $q] = [$world->speeds[$a], $world->speeds[$b]];
                $margin = 2 * self::SLOP + $turning[$a] + $turning[$b] + $seconds * sqrt(($p[0] - $q[0]) ** 2 + ($p[1] - $q[1]) ** 2 + ($p[2] - $q[2]) ** 2);
            }
            $found = null;
            if (Nearby::areNear($this->boxes[$a], $this->boxes[$b], $margin)) {
                $found = $this->manifold($pair, $a, $b, $margin);
                $known[$pair] = $this->known[$pair];
            }
            if ($found === null) {
                unset($this->allowed[$pair]);

                continue;
            }
            [$normal, $places] = $found;
            $this->resting->wakeBy($a, $b, $places);
            $deepest = INF;
            foreach ($places as $place) {
                $deepest = min($deepest, $place[3]);
            }
            if (($this->isFirst || ($isGlued && ! isset($this->allowed[$pair])) || isset($parted[$pair])) && $deepest < -self::SLOP) {
                $this->allowed[$pair] = -$deepest;
            } elseif (isset($this->allowed[$pair])) {
                $this->allowed[$pair] = max(0.0, min($this->allowed[$pair], -$deepest));
            }
            $this->add($contacts, $pair, $a, $b, $normal, $places, ($this->allowed[$pair] ?? 0.0) + ($isGlued ? self::GIVE : 0.0));
        }
        $this->known = $known;
        $this->ways = array_intersect_key($this->ways, $known);
        if ($this->floor !== null) {
            foreach ($moves as $n => $itMoves) {
                $margin = self::SLOP + $turning[$n] + $seconds * abs($world->speeds[$n][2]) + $this->gravity * $seconds * $seconds;
                if (! $itMoves || $this->boxes[$n][2] - $this->floor > $margin) {
                    continue;
                }
                $places = $this->onFloor($n, $this->shapes[$n]->more !== [] ? [...$this->points[$n], ...$this->low($n, $this->floor + $margin)] : $this->points[$n], $margin, $seconds);
                $this->add($contacts, -1 - $n, -1, $n, [0.0, 0.0, 1.0], $places, 0.0);
            }
        }
        $this->isFirst = false;

        return [$contacts, $calm];
    }

    /** What the contacts bore in the end is where the next step begins. */
    public function remember(Contacts $contacts): void
    {
        $this->before = [];
        foreach ($contacts->pairs as $i => $pair) {
            $k = 3 * $i;
            $this->before[$pair][] = [$contacts->local[$k], $contacts->local[$k + 1], $contacts->local[$k + 2], $contacts->impulses[$k], $contacts->impulses[$k + 1], $contacts->impulses[$k + 2]];
        }
    }

    /** Where a body is now. */
    private function look(int $n): void
    {
        $this->matrices[$n] = $m = Tensor::matrix($this->world->turns[$n]);
        $this->world->now[$n] = $this->world->inverseInertia($n, $m);
        [$px, $py, $pz] = $this->world->places[$n];
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = $m;
        $points = [];
        $x0 = $y0 = $z0 = INF;
        $x1 = $y1 = $z1 = -INF;
        $own = $this->shapes[$n]->points;
        for ($i = 0, $count = count($own); $i < $count; $i += 3) {
            $u = $own[$i];
            $v = $own[$i + 1];
            $w = $own[$i + 2];
            $points[] = $x = $m0 * $u + $m1 * $v + $m2 * $w + $px;
            $points[] = $y = $m3 * $u + $m4 * $v + $m5 * $w + $py;
            $points[] = $z = $m6 * $u + $m7 * $v + $m8 * $w + $pz;
            $x0 = $x < $x0 ? $x : $x0;
            $y0 = $y < $y0 ? $y : $y0;
            $z0 = $z < $z0 ? $z : $z0;
            $x1 = $x > $x1 ? $x : $x1;
            $y1 = $y > $y1 ? $y : $y1;
            $z1 = $z > $z1 ? $z : $z1;
        }
        $this->points[$n] = $points;
        // Down to what the whole hull may reach on a floor.
        $this->boxes[$n] = [$x0, $y0, $z0 - $this->shapes[$n]->out, $x1, $y1, $z1];
    }

    /**
     * Where two bodies touch; as it was found last, when they have hardly moved against each other since.
     *
     * @return array{array{float, float, float}, list<array{float, float, float, float}>}|null see Manifold::of()
     */
    private function manifold(int $pair, int $a, int $b, float $margin): ?array
    {
        $from = $this->world->places[$a];
        $to = $this->world->places[$b];
        $pose = [$to[0] - $from[0], $to[1] - $from[1], $to[2] - $from[2], ...$this->world->turns[$a], ...$this->world->turns[$b]];
        $known = $this->known[$pair] ?? null;
        if ($known !== null && $margin <= $known['margin']) {
            $old = $known['pose'];
            $x = $pose[0] - $old[0];
            $y = $pose[1] - $old[1];
            $z = $pose[2] - $old[2];
            $turned = 0.0;
            for ($k = 3; $k < 11; $k++) {
                $by = $pose[$k] - $old[$k];
                $turned += $by * $by;
            }
            // A turn by an angle changes a quaternion by half of it.
            if (sqrt($x * $x + $y * $y + $z * $z) + 2 * sqrt($turned) * ($this->shapes[$a]->radius + $this->shapes[$b]->radius) < self::HARDLY) {
                return $known['found'] === null ? null : self::beside($known['found'], $from, $x, $y, $z);
            }
        }
        $way = $this->ways[$pair] ?? null;
        // Somewhat more than is asked for, so that it serves the next time too.
        $wide = 1.2 * $margin;
        $found = null;
        if ($way !== null) {
            $gap = Convex::gap($this->points[$a], $this->points[$b], $way[0], $way[1], $way[2]);
            if ($gap > $wide) {
                $found = [$way, []];
            } elseif ($gap > -self::SHALLOW) {
                // They are in each other by no more than that, whichever way: as long as a face is opposite, it stays the one.
                $found = Manifold::acrossFaces($this->points[$a], $this->shapes[$a], $this->matrices[$a], $this->points[$b], $this->shapes[$b], $this->matrices[$b], $wide, $way, $gap);
            }
        }
        $found ??= Manifold::of($this->points[$a], $this->shapes[$a], $this->matrices[$a], $this->points[$b], $this->shapes[$b], $this->matrices[$b], $wide, $way === null ? [-$pose[0], -$pose[1], -$pose[2] + 1e-9] : [-$way[0], -$way[1], -$way[2]]);
        $this->ways[$pair] = $found[0];
        if ($found[1] === []) {
            $this->known[$pair] = ['pose' => $pose, 'margin' => $wide, 'found' => null];

            return null;
        }
        $this->known[$pair] = ['pose' => $pose, 'margin' => $wide, 'found' => [$found[0], array_map(static fn (array $place): array => [$place[0] - $from[0], $place[1] - $from[1], $place[2] - $from[2], $place[3]], $found[1])]];

        return $found;
    }

    /**
     * What was found, beside the first body where that is now.
     *
     * @param  array{array{float, float, float}, list<array{float, float, float, float}>}  $found
     * @param  array{float, float, float}  $from
     * @param  float  $x  how far the second has come since, against the first
     * @return array{array{float, float, float}, list<array{float, float, float, float}>}
     */
    private static function beside(array $found, array $from, float $x, float $y, float $z): array
    {
        [$normal, $places] = $found;
        $along = $x * $normal[0] + $y * $normal[1] + $z * $normal[2];
        $now = [];
        foreach ($places as [$u, $v, $w, $far]) {
            $now[] = [$u + $from[0], $v + $from[1], $w + $from[2], $far + $along];
        }

        return [$normal, $now];
    }

    /**
     * Corners of the whole hull that the body itself leaves out, as they are now.
     *
     * @return list<float> those below a height
     */
    private function low(int $n, float $height): array
    {
        $more = $this->shapes[$n]->more;
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = $this->matrices[$n];
        [$px, $py, $pz] = $this->world->places[$n];
        $low = [];
        for ($i = 0, $count = count($more); $i < $count; $i += 3) {
            $z = $m6 * $more[$i] + $m7 * $more[$i + 1] + $m8 * $more[$i + 2] + $pz;
            if ($z < $height) {
                $low[] = $m0 * $more[$i] + $m1 * $more[$i + 1] + $m2 * $more[$i + 2] + $px;
                $low[] = $m3 * $more[$i] + $m4 * $more[$i + 1] + $m5 * $more[$i + 2] + $py;
                $low[] = $z;
            }
        }

        return $low;
    }

    /**
     * Corners that may come onto the floor within the step: all of a few; of many those that come down deepest as they move now, so that none sinks in unseen and is pushed out later, and those farthest apart of these that touch and of all: a hit within the step may turn the body.
     *
     * @param  list<float>  $points
     * @return list<array{float, float, float, float}>
     */
    private function onFloor(int $n, array $points, float $margin, float $seconds): array
    {
        $floor = $this->floor ?? 0.0;
        [$px, $py] = $this->world->places[$n];
        [$u, $v] = $this->world->spins[$n];
        $speed = $this->world->speeds[$n][2];
        $places = $ahead = $touching = [];
        for ($i = 0, $count = count($points); $i < $count; $i += 3) {
            $far = $points[$i + 2] - $floor;
            if ($far > $margin) {
                continue;
            }
            $places[$i] = [$points[$i], $points[$i + 1], $points[$i + 2] - $far / 2, $far];
            $ahead[$i] = min($far, $far + $seconds * ($speed + $u * ($points[$i + 1] - $py) - $v * ($points[$i] - $px)));
            if ($ahead[$i] < 2 * self::SLOP) {
                $touching[] = $places[$i];
            }
        }
        if (count($places) <= self::CORNERS) {
            return array_values($places);
        }
        asort($ahead);
        $deepest = array_map(static fn (int $i): array => $places[$i], array_slice(array_keys($ahead), 0, self::DEEPEST));

        return array_values(array_unique([...($touching === [] ? [] : Manifold::four($touching, [0.0, 0.0, 1.0], INF)), ...Manifold::four(array_values($places), [0.0, 0.0, 1.0], INF), ...$deepest], SORT_REGULAR));
    }

    /**
     * Adds the contacts of two bodies.
     *
     * @param  int  $a  −1 for the floor
     * @param  array{float, float, float}  $normal  from the first body to the second
     * @param  list<array{float, float, float, float}>  $places  with how far apart they are there
     * @param  float  $allowed  how deep they may be in each other
     */
    private function add(Contacts $contacts, int $pair, int $a, int $b, array $normal, array $places, float $allowed): void
    {
        $world = $this->world;
        [$nx, $ny, $nz] = $normal;
        $first = abs($nx) < 0.7 ? [0.0, -$nz, $ny] : [$nz, 0.0, -$nx];
        $long = sqrt($first[0] * $first[0] + $first[1] * $first[1] + $first[2] * $first[2]);
        $first = [$first[0] / $long, $first[1] / $long, $first[2] / $long];
        $ways = [$normal, $first, [$ny * $first[2] - $nz * $first[1], $nz * $first[0] - $nx * $first[2], $nx * $first[1] - $ny * $first[0]]];
        $massA = $a < 0 ? 0.0 : $world->mass($a);
        $massB = $world->mass($b);
        [$bx, $by, $bz] = $world->places[$b];
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = $this->matrices[$b];
        [$b0, $b1, $b2, $b3, $b4, $b5, $b6, $b7, $b8] = $massB > 0.0 ? $world->now[$b] : RigidBodies::FIXED;
        [$vx, $vy, $vz] = $world->speeds[$b];
        [$wx, $wy, $wz] = $world->spins[$b];
        $ax = $ay = $az = $au = $av = $aw = 0.0;
        $a0 = $a1 = $a2 = $a3 = $a4 = $a5 = $a6 = $a7 = $a8 = 0.0;
        if ($a >= 0) {
            [$ax, $ay, $az] = $world->places[$a];
            if ($massA > 0.0) {
                [$a0, $a1, $a2, $a3, $a4, $a5, $a6, $a7, $a8] = $world->now[$a];
            }
            [$p, $q, $r] = $world->speeds[$a];
            $vx -= $p;
            $vy -= $q;
            $vz -= $r;
            [$au, $av, $aw] = $world->spins[$a];
        }
        $before = $this->before[$pair] ?? [];
        $same = (self::SAME * $this->shapes[$b]->radius) ** 2;
        $ends = [6 * ($a < 0 ? count($this->shapes) : $a), 6 * $b];
        foreach ($places as [$x, $y, $z, $far]) {
            $ru = $x - $bx;
            $rv = $y - $by;
            $rw = $z - $bz;
            $lu = $m0 * $ru + $m3 * $rv + $m6 * $rw;
            $lv = $m1 * $ru + $m4 * $rv + $m7 * $rw;
            $lw = $m2 * $ru + $m5 * $rv + $m8 * $rw;
            $j = $j1 = $j2 = 0.0;
            $near = $same;
            foreach ($before as [$u, $v, $w, $in, $i1, $i2]) {
                $away = ($u - $lu) * ($u - $lu) + ($v - $lv) * ($v - $lv) + ($w - $lw) * ($w - $lw);
                if ($away < $near) {
                    $near = $away;
                    $j = $in;
                    $j1 = $i1;
                    $j2 = $i2;
                }
            }
            $su = $sv = $sw = 0.0;
            if ($a >= 0) {
                $su = $x - $ax;
                $sv = $y - $ay;
                $sw = $z - $az;
            }
            foreach ($ways as [$u, $v, $w]) {
                $px = $sv * $w - $sw * $v;
                $py = $sw * $u - $su * $w;
                $pz = $su * $v - $sv * $u;
                $qx = $rv * $w - $rw * $v;
                $qy = $rw * $u - $ru * $w;
                $qz = $ru * $v - $rv * $u;
                $fx = $a0 * $px + $a1 * $py + $a2 * $pz;
                $fy = $a3 * $px + $a4 * $py + $a5 * $pz;
                $fz = $a6 * $px + $a7 * $py + $a8 * $pz;
                $gx = $b0 * $qx + $b1 * $qy + $b2 * $qz;
                $gy = $b3 * $qx + $b4 * $qy + $b5 * $qz;
                $gz = $b6 * $qx + $b7 * $qy + $b8 * $qz;
                $k = $massA + $massB + $px * $fx + $py * $fy + $pz * $fz + $qx * $gx + $qy * $gy + $qz * $gz;
                array_push($contacts->axes, $u, $v, $w, $px, $py, $pz, $qx, $qy, $qz, $fx, $fy, $fz, $gx, $gy, $gz, $k > 0.0 ? 1.0 / $k : 0.0);
            }
            $px = $sv * $nz - $sw * $ny;
            $py = $sw * $nx - $su * $nz;
            $pz = $su * $ny - $sv * $nx;
            $contacts->speeds[] = $vx * $nx + $vy * $ny + $vz * $nz + $wx * ($rv * $nz - $rw * $ny) + $wy * ($rw * $nx - $ru * $nz) + $wz * ($ru * $ny - $rv * $nx) - $au * $px - $av * $py - $aw * $pz;
            array_push($contacts->ends, $ends[0], $ends[1]);
            array_push($contacts->masses, $massA, $massB);
            $contacts->pairs[] = $pair;
            $contacts->fars[] = $far + $allowed;
            array_push($contacts->local, $lu, $lv, $lw);
            array_push($contacts->impulses, $j, $j1, $j2);
            $contacts->most[] = 0.0;
        }
    }
}
