<?php

declare(strict_types=1);

namespace Isotome\Motion;

/**
 * Rigid bodies that fall onto a floor and onto each other.
 *
 * Guarantees: the same bodies move in the same way every time. Without contacts momentum and angular momentum stay what they are but for rounding. Bodies that do not move by themselves (of no mass here) stay where they are.
 *
 * Sources: contacts as soft constraints solved by sequential impulses with a warm start, in small steps, each followed by one that takes away the speed that pushing apart gave (E. Catto, "Iterative dynamics with temporal coherence", 2005,
 * and "Solver2D", 2024; M. Macklin and others, "Small steps in physics simulation", 2019); turning by the midpoint rule with the angular momentum kept. Lengths in mm, masses in g, time in seconds.
 */
final class RigidBodies
{
    /** Seconds of the small steps that each step is made of. */
    private const SMALL = 0.001;

    /** Bodies may be so deep in each other, mm: else contacts would come and go. */
    private const SLOP = 0.02;

    /** Times a second that the springs between bodies swing: bodies of a few centimetres are at rest within hundredths of a second. */
    private const STIFF = 240.0;

    /** At most, mm/s, are they pushed apart. */
    private const PUSH = 150.0;

    /** Bodies that hit each other more slowly do not bounce, mm/s. */
    private const CALM = 25.0;

    /** Share of its spin that a body which touches others loses in a second: nothing rolls for ever. */
    private const ROLLING = 1.5;

    /** mm/s: what moves more slowly, for so many seconds, is put to rest with all that it touches; what it is hit by more slowly does not wake it. */
    private const REST = 12.0;

    private const PATIENCE = 0.3;

    private const WAKES = 40.0;

    /** Corners on the floor that are all looked at, and twice as many. */
    private const CORNERS = 6;

    /** Times that the contacts of what bounces are gone through. */
    private const ROUNDS = 12;

    /** Share of the speed by which bodies go straight on that counts for how long steps may be. */
    private const STRAIGHT = 0.5;

    /** mm: bodies that have moved less against each other touch where they did. */
    private const HARDLY = 0.01;

    /** mm/s, and radians a second: what moves alike within this falls as one. */
    private const ALIKE = 1e-3;

    /** Seconds of a step, at most, in which something hits. */
    private const SHORT = 0.003;

    /** Contacts nearer to each other than this share of a body's radius are the same one as before. */
    private const SAME = 0.05;

    /** @var list<array{float, float, float}> centres of mass */
    public array $places = [];

    /** @var list<array{float, float, float, float}> */
    public array $turns = [];

    /** @var list<array{float, float, float}> mm/s */
    public array $speeds = [];

    /** @var list<array{float, float, float}> radians a second */
    public array $spins = [];

    /** @var list<float> 0 for what stays */
    private array $inverse = [];

    /** @var list<list<float>> nine numbers: the inverse of the inertia, as the piece stood */
    private array $inverseInertia = [];

    /** @var list<list<float>> the inertia itself */
    private array $inertia = [];

    /** @var list<list<float>> nine numbers: the inverse of the inertia as it is turned now */
    public array $now = [];

    /** @var array<int, list<array{float, float, float, float, float, float}>> by pair, of the contacts of the last step: where on the second body, as the piece stood, and their impulses */
    private array $before = [];

    /** @var array<int, float> by pair of bodies that overlapped from the beginning: how deep they may stay */
    private array $allowed = [];

    /** @var array<int, array{float, float, float}> by pair, the direction from the second to the first when they were last looked at */
    private array $guesses = [];

    /** @var array<int, array{pose: list<float>, at: array{float, float, float}, margin: float, found: array{array{float, float, float}, list<array{float, float, float, float}>}|null}> by pair, where they touched when it was looked at last */
    private array $known = [];

    private bool $isFirst = true;

    /** @var array<int, float> seconds for which each body has hardly moved */
    private array $idle = [];

    /** @var array<int, int> of bodies that are at rest and not worked out: the heap that they belong to, which is woken as a whole */
    private array $heaps = [];

    private int $nextHeap = 0;

    private readonly GluedFaces $glued;

    /** @var array<int, true> pairs whose last glue has just given way: they may overlap as deep as they do */
    private array $parted = [];

    /** @var array<int, array{list<float>, list<array{array{float, float, float}, list<int>}>, array{float, float, float, float, float, float}}> corners, faces and box of each body as they were last: of what does not move, as they are */
    private array $still = [];

    /**
     * @param  list<Shape>  $shapes
     * @param  list<bool>  $stay  which ones do not move
     * @param  float|null  $floor  its height; null for none
     * @param  float  $gravity  mm/s², downwards
     */
    public function __construct(
        private readonly array $shapes,
        array $stay,
        private readonly ?float $floor,
        private readonly float $gravity,
        private readonly float $friction,
        private readonly float $bounce,
    ) {
        $this->glued = new GluedFaces($this);
        foreach ($shapes as $n => $shape) {
            $this->places[] = $shape->centre;
            $this->turns[] = Quaternion::NONE;
            $this->speeds[] = $this->spins[] = [0.0, 0.0, 0.0];
            $this->idle[] = 0.0;
            $stays = $stay[$n] || $shape->mass <= 0.0;
            $this->inverse[] = $stays ? 0.0 : 1.0 / $shape->mass;
            $this->inertia[] = array_merge(...$shape->inertia);
            $this->inverseInertia[] = $stays ? array_fill(0, 9, 0.0) : Tensor::inverted(array_merge(...$shape->inertia));
            $this->now[] = $this->inverseInertia[$n];
        }
    }

    /**
     * Holds two bodies together, see GluedFaces.
     *
     * @param  float  $strength  g/(mm s²), by area
     */
    public function glue(int $a, int $b, Glue $glue, float $strength): void
    {
        $this->glued->add($a, $b, $glue, $strength);
    }

    /** Faces that still hold. */
    public function glued(): int
    {
        return $this->glued->count();
    }

    /** @return array{float, float, float} of mass, where a piece stands */
    public function centre(int $n): array
    {
        return $this->shapes[$n]->centre;
    }

    private function moves(int $n): bool
    {
        return $this->mass($n) > 0.0;
    }

    /** mm/s: how fast bodies turn where they are widest, and a share of how fast they move: what touches what changes by turning more than by going straight on, which is looked ahead for. */
    public function fastest(): float
    {
        $most = 0.0;
        foreach ($this->shapes as $n => $shape) {
            [$x, $y, $z] = $this->speeds[$n];
            [$u, $v, $w] = $this->spins[$n];
            $most = max($most, self::STRAIGHT * sqrt($x * $x + $y * $y + $z * $z) + $shape->radius * sqrt($u * $u + $v * $v + $w * $w));
        }

        return $most;
    }

    /** Speed and height together, g mm²/s². */
    public function energy(): float
    {
        $energy = 0.0;
        foreach ($this->shapes as $n => $shape) {
            if ($this->inverse[$n] > 0.0) {
                [$x, $y, $z] = $this->speeds[$n];
                $momentum = $this->angular($n);
                $spin = $this->spins[$n];
                $energy += $shape->mass * (0.5 * ($x * $x + $y * $y + $z * $z) + $this->gravity * $this->places[$n][2]) + 0.5 * ($spin[0] * $momentum[0] + $spin[1] * $momentum[1] + $spin[2] * $momentum[2]);
            }
        }

        return $energy;
    }

    /** @return array{float, float, float} angular momentum of a body about its centre of mass, g mm²/s */
    public function angular(int $n): array
    {
        return $this->momentum($n, $this->spins[$n]);
    }

    /**
     * @param  array{float, float, float}  $spin
     * @return array{float, float, float}
     */
    private function momentum(int $n, array $spin): array
    {
        [$x, $y, $z, $w] = $this->turns[$n];

        return Quaternion::turned($this->turns[$n], Tensor::times($this->inertia[$n], Quaternion::turned([-$x, -$y, -$z, $w], $spin)));
    }

    /** @param  float  $seconds  not more than a hundredth, for bodies of some centimetres */
    public function step(float $seconds): void
    {
        $count = max(2, (int) ceil($seconds / self::SMALL - 1e-9));
        $h = $seconds / $count;
        $contacts = $this->contacts($seconds);
        // A hit may make bodies spin fast: what touches then is looked at again soon.
        if ($seconds > self::SHORT && self::isHit($contacts, $seconds)) {
            for ($n = 0, $parts = (int) ceil($seconds / self::SHORT - 1e-9); $n < $parts; $n++) {
                $this->step($seconds / $parts);
            }

            return;
        }
        $this->isFirst = false;
        $this->parted = [];
        [$contacts, $glue] = $this->strained($contacts, $this->glued->now());
        $impulses = $touched = [];
        foreach ($contacts as $c) {
            array_push($impulses, ...$c['impulses']);
            if (! $this->glued->holds($c['pair'])) {
                $touched[$c['a']] = $touched[$c['b']] = true;
            }
        }
        // What is held by something that touches, or stays, does not fall freely.
        do {
            $isMore = false;
            foreach ($glue as ['a' => $a, 'b' => $b, 'massA' => $massA, 'massB' => $massB]) {
                if (! isset($touched[$a], $touched[$b]) && ($massA <= 0.0 || $massB <= 0.0 || isset($touched[$a]) || isset($touched[$b]))) {
                    $touched[$a] = $touched[$b] = $isMore = true;
                }
            }
        } while ($isMore);
        // Speeds and spins of all in one list, six numbers each; the last body is the floor.
        $v = [];
        foreach ($this->speeds as $n => $speed) {
            array_push($v, ...$speed, ...$this->spins[$n]);
        }
        array_push($v, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
        $gone = array_fill(0, count($v), 0.0);
        $most = array_fill(0, max(1, count($contacts)), 0.0);
        $isHit = self::isHit($contacts, $seconds);
        for ($small = 0; $small < $count; $small++) {
            foreach ($this->inverse as $n => $inverse) {
                if ($inverse > 0.0 && ! isset($this->heaps[$n])) {
                    $v[6 * $n + 2] -= $this->gravity * $h;
                }
            }
            self::warm($contacts, $impulses, $v);
            $this->glued->hold($glue, $v, $gone, $h, true);
            $this->solve($contacts, $impulses, $v, $gone, $most, $h, true);
            $this->parted += $this->glued->tear($glue, $h);
            $this->advance($v, $gone, $h, $touched);
            $this->glued->hold($glue, $v, $gone, $h, false);
            // Twice: the impulses of a collision, which were taken over, are to be taken back wholly.
            $this->solve($contacts, $impulses, $v, $gone, $most, $h, false);
            if ($isHit) {
                $this->solve($contacts, $impulses, $v, $gone, $most, $h, false);
            }
        }
        $this->restore($contacts, $impulses, $v, $most);
        foreach ($touched as $n => $_) {
            foreach ([3, 4, 5] as $k) {
                $v[6 * $n + $k] *= 1.0 - self::ROLLING * $seconds;
            }
        }
        $this->before = [];
        foreach ($contacts as $i => $c) {
            $this->before[$c['pair']][] = [$c['local'][0], $c['local'][1], $c['local'][2], $impulses[3 * $i], $impulses[3 * $i + 1], $impulses[3 * $i + 2]];
        }
        foreach ($this->inverse as $n => $_) {
            $this->speeds[$n] = [$v[6 * $n], $v[6 * $n + 1], $v[6 * $n + 2]];
            $this->spins[$n] = [$v[6 * $n + 3], $v[6 * $n + 4], $v[6 * $n + 5]];
        }
        $this->putToRest($contacts, $seconds);
    }

    /**
     * Without what only hangs together while it falls freely, all of it alike: nothing presses there.
     *
     * @param  list<array{pair: int, a: int, b: int, local: array{float, float, float}, far: float, axes: list<float>, impulses: array{float, float, float}, speed: float, massA: float, massB: float, isFixed: bool}>  $contacts
     * @param  array<int, array{glue: int, a: int, b: int, apart: list<float>, axes: list<float>, impulses: list<float>, massA: float, massB: float}>  $glue
     * @return array{list<array{pair: int, a: int, b: int, local: array{float, float, float}, far: float, axes: list<float>, impulses: array{float, float, float}, speed: float, massA: float, massB: float, isFixed: bool}>, array<int, array{glue: int, a: int, b: int, apart: list<float>, axes: list<float>, impulses: list<float>, massA: float, massB: float}>}
     */
    private function strained(array $contacts, array $glue): array
    {
        $root = array_keys($this->shapes);
        $root[] = count($root);
        $find = static function (int $n) use (&$root): int {
            while ($root[$n] !== $n) {
                $n = $root[$n] = $root[$root[$n]];
            }

            return $n;
        };
        $isStrained = [];
        foreach ([...$contacts, ...array_values($glue)] as $c) {
            ['a' => $a, 'b' => $b] = $c;
            if ($c['massA'] <= 0.0 || $c['massB'] <= 0.0) {
                $isStrained[$a] = $isStrained[$b] = true;

                continue;
            }
            $root[$find($a)] = $find($b);
            $by = $this->spins[$a][0] ** 2 + $this->spins[$a][1] ** 2 + $this->spins[$a][2] ** 2 + $this->spins[$b][0] ** 2 + $this->spins[$b][1] ** 2 + $this->spins[$b][2] ** 2;
            foreach ([0, 1, 2] as $k) {
                $by += ($this->speeds[$a][$k] - $this->speeds[$b][$k]) ** 2;
            }
            if ($by > self::ALIKE ** 2 || (isset($c['far']) && $c['far'] < -self::SLOP)) {
                $isStrained[$a] = true;
            }
        }
        $roots = [];
        foreach ($isStrained as $n => $_) {
            $roots[$find($n)] = true;
        }
        $counts = static fn (int $a, int $b): bool => isset($roots[$find($a)]) || isset($roots[$find($b)]);

        return [array_values(array_filter($contacts, static fn (array $c): bool => $counts($c['a'], $c['b']))), array_filter($glue, static fn (array $c): bool => $counts($c['a'], $c['b']))];
    }

    /**
     * Whether some contact closes within the step, fast enough for bouncing.
     *
     * @param  list<array{pair: int, a: int, b: int, local: array{float, float, float}, far: float, axes: list<float>, impulses: array{float, float, float}, speed: float, massA: float, massB: float, isFixed: bool}>  $contacts
     */
    private static function isHit(array $contacts, float $seconds): bool
    {
        foreach ($contacts as $c) {
            if ($c['speed'] < -self::CALM && $c['far'] < -$seconds * $c['speed']) {
                return true;
            }
        }

        return false;
    }

    /**
     * Bodies that hang together by contacts, and have all hardly moved for a while, are at rest from now on.
     *
     * @param  list<array{pair: int, a: int, b: int, local: array{float, float, float}, far: float, axes: list<float>, impulses: array{float, float, float}, speed: float, massA: float, massB: float, isFixed: bool}>  $contacts
     */
    private function putToRest(array $contacts, float $seconds): void
    {
        $root = [];
        foreach ($this->inverse as $n => $inverse) {
            if ($inverse <= 0.0) {
                continue;
            }
            $root[$n] = $n;
            if (! isset($this->heaps[$n])) {
                [$x, $y, $z] = $this->speeds[$n];
                [$u, $v, $w] = $this->spins[$n];
                $isIdle = $x * $x + $y * $y + $z * $z + $this->shapes[$n]->radius ** 2 * ($u * $u + $v * $v + $w * $w) < self::REST ** 2;
                $this->idle[$n] = $isIdle ? $this->idle[$n] + $seconds : 0.0;
            }
        }
        $find = static function (int $n) use (&$root): int {
            while ($root[$n] !== $n) {
                $n = $root[$n] = $root[$root[$n]];
            }

            return $n;
        };
        $first = [];
        foreach ($this->heaps as $n => $heap) {
            $first[$heap] ??= $n;
            $root[$find($n)] = $find($first[$heap]);
        }
        $isHeld = [];
        foreach ($contacts as $c) {
            if (isset($root[$c['a']], $root[$c['b']])) {
                $root[$find($c['a'])] = $find($c['b']);
            }
            $isHeld[$c['b']] = true;
        }
        foreach ($this->glued->pairs() as [$a, $b]) {
            if (isset($root[$a], $root[$b])) {
                $root[$find($a)] = $find($b);
            } else {
                // One of them stays.
                $isHeld[$a] = $isHeld[$b] = true;
            }
        }
        $groups = [];
        foreach ($root as $n => $_) {
            $groups[$find($n)][] = $n;
        }
        foreach ($groups as $group) {
            $isIdle = true;
            foreach ($group as $n) {
                // What touches nothing is on its way, however slowly.
                $isIdle = $isIdle && (isset($this->heaps[$n]) || ($this->idle[$n] >= self::PATIENCE && (count($group) > 1 || isset($isHeld[$n]))));
            }
            if (! $isIdle) {
                continue;
            }
            $heap = $this->nextHeap++;
            foreach ($group as $n) {
                $this->heaps[$n] = $heap;
                $this->speeds[$n] = $this->spins[$n] = [0.0, 0.0, 0.0];
            }
        }
    }

    private function wake(int $heap): void
    {
        foreach ($this->heaps as $n => $own) {
            if ($own === $heap) {
                unset($this->heaps[$n]);
                $this->idle[$n] = 0.0;
            }
        }
    }

    /** 0 for what does not move now. */
    public function mass(int $n): float
    {
        return isset($this->heaps[$n]) ? 0.0 : $this->inverse[$n];
    }

    /**
     * Places and turns go on.
     *
     * @param  array<int, float>  $v
     * @param  array<int, float>  $gone  how far each has come and turned since the step began
     * @param  array<int, true>  $touched  bodies that touch others
     */
    private function advance(array &$v, array &$gone, float $h, array $touched): void
    {
        foreach ($this->inverse as $n => $inverse) {
            if ($inverse <= 0.0 || isset($this->heaps[$n])) {
                continue;
            }
            $k = 6 * $n;
            // At the end of a small step a body falls faster than in its middle: what touches nothing falls exactly.
            $fall = isset($touched[$n]) ? 0.0 : $this->gravity * $h * $h / 2;
            $x = $h * $v[$k];
            $y = $h * $v[$k + 1];
            $z = $h * $v[$k + 2] + $fall;
            $this->places[$n] = [$this->places[$n][0] + $x, $this->places[$n][1] + $y, $this->places[$n][2] + $z];
            $gone[$k] += $x;
            $gone[$k + 1] += $y;
            $gone[$k + 2] += $z;
            $spin = [$v[$k + 3], $v[$k + 4], $v[$k + 5]];
            if ($spin[0] === 0.0 && $spin[1] === 0.0 && $spin[2] === 0.0) {
                continue;
            }
            $momentum = $this->momentum($n, $spin);
            $half = $this->goneOn($this->turns[$n], $spin, $h / 2);
            $between = $this->spin($n, $half, $momentum);
            $this->turns[$n] = $this->goneOn($this->turns[$n], $between, $h);
            [$v[$k + 3], $v[$k + 4], $v[$k + 5]] = $this->spin($n, $this->turns[$n], $momentum);
            $gone[$k + 3] += $h * $between[0];
            $gone[$k + 4] += $h * $between[1];
            $gone[$k + 5] += $h * $between[2];
        }
    }

    /**
     * @param  array{float, float, float, float}  $turn
     * @param  array{float, float, float}  $spin
     * @return array{float, float, float, float}
     */
    private function goneOn(array $turn, array $spin, float $h): array
    {
        $speed = sqrt($spin[0] ** 2 + $spin[1] ** 2 + $spin[2] ** 2);

        return $speed > 0.0 ? Quaternion::then($turn, Quaternion::about($spin, rad2deg($speed * $h))) : $turn;
    }

    /**
     * @param  array{float, float, float, float}  $turn
     * @param  array{float, float, float}  $momentum
     * @return array{float, float, float}
     */
    private function spin(int $n, array $turn, array $momentum): array
    {
        [$x, $y, $z, $w] = $turn;

        return Quaternion::turned($turn, Tensor::times($this->inverseInertia[$n], Quaternion::turned([-$x, -$y, -$z, $w], $momentum)));
    }

    /**
     * Everything that touches, or will within the step.
     *
     * @return list<array{pair: int, a: int, b: int, local: array{float, float, float}, far: float, axes: list<float>, impulses: array{float, float, float}, speed: float, massA: float, massB: float, isFixed: bool}>
     */
    private function contacts(float $seconds): array
    {
        $points = $faces = $boxes = $margins = $turning = [];
        foreach ($this->shapes as $n => $shape) {
            [$vx, $vy, $vz] = $this->speeds[$n];
            [$wx, $wy, $wz] = $this->spins[$n];
            $turning[$n] = self::SLOP + $seconds * $shape->radius * sqrt($wx * $wx + $wy * $wy + $wz * $wz);
            $margins[$n] = $turning[$n] + self::SLOP + $seconds * sqrt($vx * $vx + $vy * $vy + $vz * $vz) + $this->gravity * $seconds * $seconds;
            if (! isset($this->still[$n]) || ($this->inverse[$n] > 0.0 && ! isset($this->heaps[$n]))) {
                $this->now[$n] = Tensor::rotated($this->inverseInertia[$n], $this->turns[$n]);
                $this->still[$n] = $this->turned($n);
            }
            [$points[$n], $faces[$n], $boxes[$n]] = $this->still[$n];
        }
        $contacts = $known = [];
        $moves = array_map($this->moves(...), array_keys($this->shapes));
        $pairs = Nearby::pairs($boxes, $margins, $moves);
        $stopped = Nearby::mayBeStopped($pairs, $boxes, $margins, $moves, $this->floor);
        foreach ($pairs as [$a, $b]) {
            $pair = $a << 20 | $b;
            // What is glued may part within the step, and touches from then on.
            $isGlued = $this->glued->holds($pair);
            if ($isGlued && ! isset($stopped[$a])) {
                continue;
            }
            [$p, $q] = [$this->speeds[$a], $this->speeds[$b]];
            // What falls freely comes nearer to each other by the difference of their speeds only; of what is stopped within the step that is not known yet.
            $margin = isset($stopped[$a]) || isset($stopped[$b]) ? $margins[$a] + $margins[$b]
                : 2 * self::SLOP + $turning[$a] + $turning[$b] + $seconds * sqrt(($p[0] - $q[0]) ** 2 + ($p[1] - $q[1]) ** 2 + ($p[2] - $q[2]) ** 2);
            $found = null;
            if (Nearby::areNear($boxes[$a], $boxes[$b], $margin)) {
                $found = $this->manifold($pair, $a, $b, $points, $faces, $margin);
                $known[$pair] = $this->known[$pair];
            }
            if ($found === null) {
                unset($this->allowed[$pair]);

                continue;
            }
            [$normal, $places] = $found;
            $this->wakeBy($a, $b, $normal, $places);
            $this->guesses[$pair] = [-$normal[0], -$normal[1], -$normal[2]];
            $deepest = INF;
            foreach ($places as $place) {
                $deepest = min($deepest, $place[3]);
            }
            if (($this->isFirst || $isGlued || isset($this->parted[$pair])) && $deepest < -self::SLOP) {
                $this->allowed[$pair] = -$deepest;
            } elseif (isset($this->allowed[$pair])) {
                $this->allowed[$pair] = max(0.0, min($this->allowed[$pair], -$deepest));
            }
            foreach ($places as [$x, $y, $z, $far]) {
                $contacts[] = $this->contact($pair, $a, $b, $normal, [$x, $y, $z], $far + ($this->allowed[$pair] ?? 0.0));
            }
        }
        $this->known = $known;
        if ($this->floor !== null) {
            foreach ($this->inverse as $n => $inverse) {
                $margin = self::SLOP + $turning[$n] + $seconds * abs($this->speeds[$n][2]) + $this->gravity * $seconds * $seconds;
                if ($inverse <= 0.0 || isset($this->heaps[$n]) || $boxes[$n][2] - $this->floor > $margin) {
                    continue;
                }
                foreach ($this->onFloor($n, $this->shapes[$n]->more !== [] ? [...$points[$n], ...$this->low($n, $this->floor + $margin)] : $points[$n], $margin, $seconds) as [$x, $y, $z, $far]) {
                    $contacts[] = $this->contact(-1 - $n, -1, $n, [0.0, 0.0, 1.0], [$x, $y, $z], $far);
                }
            }
        }

        return $contacts;
    }

    /**
     * Corners of the whole hull that the body itself leaves out, as they are now.
     *
     * @return list<float> those below a height
     */
    private function low(int $n, float $height): array
    {
        $more = $this->shapes[$n]->more;
        $m = Tensor::matrix($this->turns[$n]);
        [$px, $py, $pz] = $this->places[$n];
        [$a, $b, $c] = [$m[6], $m[7], $m[8]];
        $low = [];
        for ($i = 0, $count = count($more); $i < $count; $i += 3) {
            $z = $a * $more[$i] + $b * $more[$i + 1] + $c * $more[$i + 2] + $pz;
            if ($z < $height) {
                $low[] = $m[0] * $more[$i] + $m[1] * $more[$i + 1] + $m[2] * $more[$i + 2] + $px;
                $low[] = $m[3] * $more[$i] + $m[4] * $more[$i + 1] + $m[5] * $more[$i + 2] + $py;
                $low[] = $z;
            }
        }

        return $low;
    }

    /**
     * Corners that may come onto the floor within the step: all of a few; of many those that come down deepest as they move now, so that none sinks in unseen and is pushed out later, and of these that touch those farthest apart.
     *
     * @param  list<float>  $points
     * @return list<array{float, float, float, float}>
     */
    private function onFloor(int $n, array $points, float $margin, float $seconds): array
    {
        $floor = $this->floor ?? 0.0;
        [$px, $py] = $this->places[$n];
        [$u, $v] = $this->spins[$n];
        $speed = $this->speeds[$n][2];
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
        if (count($places) <= 2 * self::CORNERS) {
            return array_values($places);
        }
        asort($ahead);
        $deepest = array_map(static fn (int $i): array => $places[$i], array_slice(array_keys($ahead), 0, self::CORNERS));

        return array_values(array_unique([...($touching === [] ? [] : Manifold::four($touching, [0.0, 0.0, 1.0], INF)), ...$deepest], SORT_REGULAR));
    }

    /**
     * Where two bodies touch; as it was found last, when they have hardly moved against each other since.
     *
     * @param  array<int, list<float>>  $points
     * @param  array<int, list<array{array{float, float, float}, list<int>}>>  $faces
     * @return array{array{float, float, float}, list<array{float, float, float, float}>}|null see Manifold::of()
     */
    private function manifold(int $pair, int $a, int $b, array $points, array $faces, float $margin): ?array
    {
        $from = $this->places[$a];
        $to = $this->places[$b];
        $pose = [$to[0] - $from[0], $to[1] - $from[1], $to[2] - $from[2], ...$this->turns[$a], ...$this->turns[$b]];
        $known = $this->known[$pair] ?? null;
        if ($known !== null && $margin <= $known['margin']) {
            $moved = $turned = 0.0;
            foreach ($pose as $k => $c) {
                $by = ($c - $known['pose'][$k]) ** 2;
                $k < 3 ? $moved += $by : $turned += $by;
            }
            // A turn by an angle changes a quaternion by half of it.
            if (sqrt($moved) + 2 * sqrt($turned) * ($this->shapes[$a]->radius + $this->shapes[$b]->radius) < self::HARDLY) {
                if ($known['found'] === null) {
                    return null;
                }
                [$normal, $places] = $known['found'];
                $along = 0.0;
                foreach ([0, 1, 2] as $k) {
                    $along += ($pose[$k] - $known['pose'][$k]) * $normal[$k];
                }
                $by = [$from[0] - $known['at'][0], $from[1] - $known['at'][1], $from[2] - $known['at'][2]];

                return [$normal, array_map(static fn (array $place): array => [$place[0] + $by[0], $place[1] + $by[1], $place[2] + $by[2], $place[3] + $along], $places)];
            }
        }
        // Somewhat more than is asked for, so that it serves the next time too.
        $found = Manifold::of($points[$a], $faces[$a], $points[$b], $faces[$b], 1.2 * $margin, $this->guesses[$pair] ?? [$from[0] - $to[0], $from[1] - $to[1], $from[2] - $to[2] + 1e-9]);
        $this->known[$pair] = ['pose' => $pose, 'at' => $from, 'margin' => 1.2 * $margin, 'found' => $found];

        return $found;
    }

    /**
     * What is at rest is woken when it is hit.
     *
     * @param  array{float, float, float}  $normal
     * @param  list<array{float, float, float, float}>  $places
     */
    private function wakeBy(int $a, int $b, array $normal, array $places): void
    {
        if (! isset($this->heaps[$a]) && ! isset($this->heaps[$b])) {
            return;
        }
        [$p, $q] = [$this->speeds[$a], $this->speeds[$b]];
        $speed = sqrt(($q[0] - $p[0]) ** 2 + ($q[1] - $p[1]) ** 2 + ($q[2] - $p[2]) ** 2);
        foreach ($places as $place) {
            if ($speed > self::WAKES && $place[3] < self::SLOP + 0.01 * $speed) {
                $this->wake($this->heaps[$a] ?? $this->heaps[$b]);

                return;
            }
        }
    }

    /** @return array{list<float>, list<array{array{float, float, float}, list<int>}>, array{float, float, float, float, float, float}} corners, faces and box of a body as it is now */
    private function turned(int $n): array
    {
        $m = Tensor::matrix($this->turns[$n]);
        [$px, $py, $pz] = $this->places[$n];
        $points = [];
        $box = [INF, INF, INF, -INF, -INF, -INF];
        $own = $this->shapes[$n]->points;
        for ($i = 0, $count = count($own); $i < $count; $i += 3) {
            $x = $m[0] * $own[$i] + $m[1] * $own[$i + 1] + $m[2] * $own[$i + 2] + $px;
            $y = $m[3] * $own[$i] + $m[4] * $own[$i + 1] + $m[5] * $own[$i + 2] + $py;
            $z = $m[6] * $own[$i] + $m[7] * $own[$i + 1] + $m[8] * $own[$i + 2] + $pz;
            $points[] = $x;
            $points[] = $y;
            $points[] = $z;
            $box = [$x < $box[0] ? $x : $box[0], $y < $box[1] ? $y : $box[1], $z < $box[2] ? $z : $box[2], $x > $box[3] ? $x : $box[3], $y > $box[4] ? $y : $box[4], $z > $box[5] ? $z : $box[5]];
        }
        // Down to what the whole hull may reach on a floor.
        $box[2] -= $this->shapes[$n]->out;
        $faces = [];
        foreach ($this->shapes[$n]->faces as [[$x, $y, $z], $corners]) {
            $faces[] = [[$m[0] * $x + $m[1] * $y + $m[2] * $z, $m[3] * $x + $m[4] * $y + $m[5] * $z, $m[6] * $x + $m[7] * $y + $m[8] * $z], $corners];
        }

        return [$points, $faces, $box];
    }

    /**
     * @param  array{float, float, float}  $normal  from the first body to the second
     * @param  array{float, float, float}  $at
     * @return array{pair: int, a: int, b: int, local: array{float, float, float}, far: float, axes: list<float>, impulses: array{float, float, float}, speed: float, massA: float, massB: float, isFixed: bool}
     */
    private function contact(int $pair, int $a, int $b, array $normal, array $at, float $far): array
    {
        [$nx, $ny, $nz] = $normal;
        $first = abs($nx) < 0.7 ? [0.0, -$nz, $ny] : [$nz, 0.0, -$nx];
        $long = sqrt($first[0] ** 2 + $first[1] ** 2 + $first[2] ** 2);
        $first = [$first[0] / $long, $first[1] / $long, $first[2] / $long];
        $second = [$ny * $first[2] - $nz * $first[1], $nz * $first[0] - $nx * $first[2], $nx * $first[1] - $ny * $first[0]];
        $ra = $a < 0 ? [0.0, 0.0, 0.0] : [$at[0] - $this->places[$a][0], $at[1] - $this->places[$a][1], $at[2] - $this->places[$a][2]];
        $rb = [$at[0] - $this->places[$b][0], $at[1] - $this->places[$b][1], $at[2] - $this->places[$b][2]];
        [$tx, $ty, $tz, $tw] = $this->turns[$b];
        $local = Quaternion::turned([-$tx, -$ty, -$tz, $tw], $rb);
        $impulses = [0.0, 0.0, 0.0];
        $near = (self::SAME * $this->shapes[$b]->radius) ** 2;
        foreach ($this->before[$pair] ?? [] as [$x, $y, $z, $jn, $j1, $j2]) {
            $away = ($x - $local[0]) ** 2 + ($y - $local[1]) ** 2 + ($z - $local[2]) ** 2;
            if ($away < $near) {
                $near = $away;
                $impulses = [$jn, $j1, $j2];
            }
        }
        $axes = [];
        $massA = $a < 0 ? 0.0 : $this->mass($a);
        $massB = $this->mass($b);
        foreach ([[$nx, $ny, $nz], $first, $second] as $way) {
            $onA = [$ra[1] * $way[2] - $ra[2] * $way[1], $ra[2] * $way[0] - $ra[0] * $way[2], $ra[0] * $way[1] - $ra[1] * $way[0]];
            $onB = [$rb[1] * $way[2] - $rb[2] * $way[1], $rb[2] * $way[0] - $rb[0] * $way[2], $rb[0] * $way[1] - $rb[1] * $way[0]];
            $byA = $massA <= 0.0 ? [0.0, 0.0, 0.0] : Tensor::times($this->now[$a], $onA);
            $byB = $massB <= 0.0 ? [0.0, 0.0, 0.0] : Tensor::times($this->now[$b], $onB);
            $k = $massA + $massB + $onA[0] * $byA[0] + $onA[1] * $byA[1] + $onA[2] * $byA[2] + $onB[0] * $byB[0] + $onB[1] * $byB[1] + $onB[2] * $byB[2];
            array_push($axes, ...$way, ...$onA, ...$onB, ...$byA, ...$byB);
            $axes[] = $k > 0.0 ? 1.0 / $k : 0.0;
        }
        $speed = $this->speeds[$b];
        $spin = $this->spins[$b];
        $along = $speed[0] * $nx + $speed[1] * $ny + $speed[2] * $nz + $spin[0] * $axes[6] + $spin[1] * $axes[7] + $spin[2] * $axes[8];
        if ($a >= 0) {
            $speed = $this->speeds[$a];
            $spin = $this->spins[$a];
            $along -= $speed[0] * $nx + $speed[1] * $ny + $speed[2] * $nz + $spin[0] * $axes[3] + $spin[1] * $axes[4] + $spin[2] * $axes[5];
        }

        return [
            'pair' => $pair, 'a' => $a < 0 ? count($this->shapes) : $a, 'b' => $b, 'local' => $local, 'far' => $far, 'axes' => $axes, 'impulses' => $impulses, 'speed' => $along, 'massA' => $massA, 'massB' => $massB,
            'isFixed' => $massA <= 0.0 || $massB <= 0.0,
        ];
    }

    /**
     * @param  list<array{pair: int, a: int, b: int, local: array{float, float, float}, far: float, axes: list<float>, impulses: array{float, float, float}, speed: float, massA: float, massB: float, isFixed: bool}>  $contacts
     * @param  array<int, float>  $impulses
     * @param  array<int, float>  $v
     */
    private static function warm(array $contacts, array $impulses, array &$v): void
    {
        foreach ($contacts as $i => $c) {
            for ($k = 0; $k < 3; $k++) {
                if ($impulses[3 * $i + $k] !== 0.0) {
                    Impulse::push($c, 16 * $k, $impulses[3 * $i + $k], $v);
                }
            }
        }
    }

    /**
     * @param  list<array{pair: int, a: int, b: int, local: array{float, float, float}, far: float, axes: list<float>, impulses: array{float, float, float}, speed: float, massA: float, massB: float, isFixed: bool}>  $contacts
     * @param  array<int, float>  $impulses  three a contact: along it, and of friction
     * @param  array<int, float>  $v
     * @param  array<int, float>  $gone
     * @param  array<int, float>  $most  the largest impulse of each contact
     * @param  bool  $isBiased  whether what overlaps is pushed apart
     */
    private function solve(array $contacts, array &$impulses, array &$v, array $gone, array &$most, float $h, bool $isBiased): void
    {
        $friction = $this->friction;
        $areGlued = $this->glued->count() > 0;
        // Springs with much damping, of a frequency that the small step can follow.
        $soft = [];
        foreach ([self::STIFF, 2 * self::STIFF] as $stiff) {
            $omega = 2 * M_PI * min($stiff, 0.25 / $h);
            $damping = 20.0 + $h * $omega;
            $c = $h * $omega * $damping;
            $soft[] = [$omega / $damping, $c / (1.0 + $c), 1.0 / (1.0 + $c)];
        }
        foreach ($contacts as $i => $c) {
            if ($areGlued && $this->glued->holds($c['pair'])) {
                continue;
            }
            $axes = $c['axes'];
            $a = 6 * $c['a'];
            $b = 6 * $c['b'];
            $massA = $c['massA'];
            $massB = $c['massB'];
            [$ax, $ay, $az, $au, $av, $aw] = [$v[$a], $v[$a + 1], $v[$a + 2], $v[$a + 3], $v[$a + 4], $v[$a + 5]];
            [$bx, $by, $bz, $bu, $bv, $bw] = [$v[$b], $v[$b + 1], $v[$b + 2], $v[$b + 3], $v[$b + 4], $v[$b + 5]];
            $limit = 0.0;
            // What keeps bodies apart, then friction, which is no stronger than that allows.
            for ($k = 0; $k < 3; $k++) {
                $at = 16 * $k;
                $x = $axes[$at];
                $y = $axes[$at + 1];
                $z = $axes[$at + 2];
                $speed = ($bx - $ax) * $x + ($by - $ay) * $y + ($bz - $az) * $z + $bu * $axes[$at + 6] + $bv * $axes[$at + 7] + $bw * $axes[$at + 8] - $au * $axes[$at + 3] - $av * $axes[$at + 4] - $aw * $axes[$at + 5];
                if ($k > 0) {
                    $old = $impulses[3 * $i + $k];
                    $sum = $old - $speed * $axes[$at + 15];
                    $sum = $sum > $limit ? $limit : ($sum < -$limit ? -$limit : $sum);
                    $impulses[3 * $i + $k] = $sum;
                } else {
                    $apart = $c['far'] + ($gone[$b] - $gone[$a]) * $x + ($gone[$b + 1] - $gone[$a + 1]) * $y + ($gone[$b + 2] - $gone[$a + 2]) * $z
                        + $gone[$b + 3] * $axes[6] + $gone[$b + 4] * $axes[7] + $gone[$b + 5] * $axes[8] - $gone[$a + 3] * $axes[3] - $gone[$a + 4] * $axes[4] - $gone[$a + 5] * $axes[5];
                    $old = $impulses[3 * $i];
                    if ($apart > 0.0) {
                        // It may come as near as it is within the small step.
                        $sum = $old - $axes[15] * ($speed + $apart / $h);
                    } elseif ($isBiased) {
                        [$rate, $mass, $less] = $soft[$c['isFixed'] ? 1 : 0];
                        $bias = $rate * ($apart + self::SLOP < 0.0 ? $apart + self::SLOP : 0.0);
                        $sum = $old - $axes[15] * $mass * ($speed + ($bias < -self::PUSH ? -self::PUSH : $bias)) - $less * $old;
                    } else {
                        $sum = $old - $axes[15] * $speed;
                    }
                    $sum = $sum > 0.0 ? $sum : 0.0;
                    $impulses[3 * $i] = $sum;
                    $limit = $friction * $sum;
                    if ($sum > $most[$i]) {
                        $most[$i] = $sum;
                    }
                }
                $impulse = $sum - $old;
                if ($impulse === 0.0) {
                    // What does not press does not rub either.
                    if ($limit === 0.0 && $impulses[3 * $i + 1] === 0.0 && $impulses[3 * $i + 2] === 0.0) {
                        break;
                    }

                    continue;
                }
                $by1 = $impulse * $massB;
                $bx += $by1 * $x;
                $by += $by1 * $y;
                $bz += $by1 * $z;
                $bu += $impulse * $axes[$at + 12];
                $bv += $impulse * $axes[$at + 13];
                $bw += $impulse * $axes[$at + 14];
                $by1 = $impulse * $massA;
                $ax -= $by1 * $x;
                $ay -= $by1 * $y;
                $az -= $by1 * $z;
                $au -= $impulse * $axes[$at + 9];
                $av -= $impulse * $axes[$at + 10];
                $aw -= $impulse * $axes[$at + 11];
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

    /**
     * What hit hard enough leaves again with a share of the speed.
     *
     * @param  list<array{pair: int, a: int, b: int, local: array{float, float, float}, far: float, axes: list<float>, impulses: array{float, float, float}, speed: float, massA: float, massB: float, isFixed: bool}>  $contacts
     * @param  array<int, float>  $impulses
     * @param  array<int, float>  $v
     * @param  array<int, float>  $most
     */
    private function restore(array $contacts, array &$impulses, array &$v, array $most): void
    {
        if ($this->bounce <= 0.0) {
            return;
        }
        $hit = array_filter($contacts, static fn (array $c, int $i): bool => $c['speed'] <= -self::CALM && $most[$i] > 0.0, ARRAY_FILTER_USE_BOTH);
        for ($round = 0; $round < self::ROUNDS; $round++) {
            foreach ($hit as $i => $c) {
                $axes = $c['axes'];
                [$a, $b] = [6 * $c['a'], 6 * $c['b']];
                $speed = ($v[$b] - $v[$a]) * $axes[0] + ($v[$b + 1] - $v[$a + 1]) * $axes[1] + ($v[$b + 2] - $v[$a + 2]) * $axes[2]
                    + $v[$b + 3] * $axes[6] + $v[$b + 4] * $axes[7] + $v[$b + 5] * $axes[8] - $v[$a + 3] * $axes[3] - $v[$a + 4] * $axes[4] - $v[$a + 5] * $axes[5];
                $sum = max(0.0, $impulses[3 * $i] - $axes[15] * ($speed + $this->bounce * $c['speed']));
                Impulse::push($c, 0, $sum - $impulses[3 * $i], $v);
                $impulses[3 * $i] = $sum;
            }
        }
    }
}
