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

    /** Share of its spin that a body which touches others loses in a second: nothing rolls for ever. */
    private const ROLLING = 1.5;

    /** Share of the speed by which bodies go straight on that counts for how long steps may be. */
    private const STRAIGHT = 0.5;

    /** Seconds of a step, at most, in which something hits. */
    private const SHORT = 0.003;

    /** Times that contacts are gone through when glue has given way. */
    private const PARTING = 10;

    /** Inverse inertia of what does not move. */
    public const FIXED = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];

    /** @var list<array{float, float, float}> centres of mass */
    public array $places = [];

    /** @var list<array{float, float, float, float}> */
    public array $turns = [];

    /** @var list<array{float, float, float}> mm/s */
    public array $speeds = [];

    /** @var list<array{float, float, float}> radians a second */
    public array $spins = [];

    /** @var list<list<float>> nine numbers: the inverse of the inertia as it is turned now */
    public array $now = [];

    /** @var list<float> 0 for what stays */
    private array $inverse = [];

    /** @var list<list<float>> nine numbers: the inverse of the inertia, as the piece stood */
    private array $inverseInertia = [];

    /** @var list<list<float>> the inertia itself */
    private array $inertia = [];

    /** @var array<int, true> those that do not stay */
    private array $movable = [];

    /** @var array<int, true> pairs whose last glue has just given way: they may overlap as deep as they do */
    private array $parted = [];

    /** Something hit in the last step. */
    private bool $isHitting = false;

    private readonly GluedFaces $glued;

    private readonly Resting $resting;

    private readonly Touching $touching;

    /**
     * @param  list<Shape>  $shapes
     * @param  list<bool>  $stay  which ones do not move
     * @param  float|null  $floor  its height; null for none
     * @param  float  $gravity  mm/s², downwards
     */
    public function __construct(
        private readonly array $shapes,
        array $stay,
        ?float $floor,
        private readonly float $gravity,
        private readonly float $friction,
        private readonly float $bounce,
    ) {
        foreach ($shapes as $n => $shape) {
            $this->places[] = $shape->centre;
            $this->turns[] = Quaternion::NONE;
            $this->speeds[] = $this->spins[] = [0.0, 0.0, 0.0];
            $stays = $stay[$n] || $shape->mass <= 0.0;
            $this->inverse[] = $stays ? 0.0 : 1.0 / $shape->mass;
            $this->inertia[] = array_merge(...$shape->inertia);
            $this->inverseInertia[] = $stays ? self::FIXED : Tensor::inverted(array_merge(...$shape->inertia));
            $this->now[] = $this->inverseInertia[$n];
            if (! $stays) {
                $this->movable[$n] = true;
            }
        }
        $this->glued = new GluedFaces($this);
        $this->resting = new Resting($this, $this->movable);
        $this->touching = new Touching($this, $shapes, $this->glued, $this->resting, $floor, $gravity);
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

    /** Inverse mass; 0 for what does not move now. */
    public function mass(int $n): float
    {
        return $this->resting->isResting($n) ? 0.0 : $this->inverse[$n];
    }

    /**
     * @param  list<float>  $turn  nine numbers
     * @return list<float> nine numbers: the inverse of the inertia of a body that is turned so
     */
    public function inverseInertia(int $n, array $turn): array
    {
        return Tensor::rotated($this->inverseInertia[$n], $turn);
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
        // A hit may make bodies spin fast: what touches then is looked at again soon.
        if ($seconds > self::SHORT && $this->isHitting) {
            $this->inParts($seconds);

            return;
        }
        [$contacts, $calm] = $this->touching->within($seconds, $this->parted);
        $isHit = $contacts->isHit($seconds);
        if ($seconds > self::SHORT && $isHit) {
            $this->inParts($seconds);

            return;
        }
        $this->isHitting = $isHit;
        $this->parted = [];
        $touched = $this->touched($contacts, $this->glued->begin($calm));
        $count = max(2, (int) ceil($seconds / self::SMALL - 1e-9));
        $h = $seconds / $count;
        // Speeds and spins of all in one list, six numbers each; the last body is the floor.
        $v = [];
        foreach ($this->speeds as $n => [$x, $y, $z]) {
            [$p, $q, $r] = $this->spins[$n];
            array_push($v, $x, $y, $z, $p, $q, $r);
        }
        array_push($v, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
        $gone = array_fill(0, count($v), 0.0);
        for ($small = 0; $small < $count; $small++) {
            foreach ($this->movable as $n => $_) {
                if (! $this->resting->isResting($n)) {
                    $v[6 * $n + 2] -= $this->gravity * $h;
                }
            }
            ContactSolver::warm($contacts, $v);
            $this->glued->hold($v, $gone, $h, true);
            ContactSolver::solve($contacts, $v, $gone, $this->friction, $h, true);
            $parted = $this->glued->tear($h);
            if ($parted !== []) {
                $this->parted += $parted;
                // What parted presses from now on; else it would go into each other for this small step.
                for ($pass = 0; $pass < self::PARTING; $pass++) {
                    ContactSolver::solve($contacts, $v, $gone, $this->friction, $h, true);
                }
            }
            $this->advance($v, $gone, $h, $touched);
            $this->glued->hold($v, $gone, $h, false);
            // Twice: the impulses of a collision, which were taken over, are to be taken back wholly.
            ContactSolver::solve($contacts, $v, $gone, $this->friction, $h, false);
            if ($isHit) {
                ContactSolver::solve($contacts, $v, $gone, $this->friction, $h, false);
            }
        }
        ContactSolver::restore($contacts, $v, $this->bounce);
        $this->glued->keep();
        $this->touching->remember($contacts);
        foreach ($this->movable as $n => $_) {
            $less = isset($touched[$n]) ? 1.0 - self::ROLLING * $seconds : 1.0;
            $k = 6 * $n;
            $this->speeds[$n] = [$v[$k], $v[$k + 1], $v[$k + 2]];
            $this->spins[$n] = [$less * $v[$k + 3], $less * $v[$k + 4], $less * $v[$k + 5]];
        }
        foreach ($this->resting->settle($this->shapes, $contacts, $this->glued->pairs(), $seconds) as $n) {
            $this->speeds[$n] = $this->spins[$n] = [0.0, 0.0, 0.0];
        }
    }

    private function inParts(float $seconds): void
    {
        $this->isHitting = $isHitting = false;
        for ($n = 0, $parts = (int) ceil($seconds / self::SHORT - 1e-9); $n < $parts; $n++) {
            $this->step($seconds / $parts);
            $isHitting = $isHitting || $this->isHitting;
        }
        $this->isHitting = $isHitting;
    }

    /**
     * Bodies that do not fall freely: they touch something, or are held by something that does, or stays.
     *
     * @param  list<array{int, int}>  $held  bodies that hold each other
     * @return array<int, true>
     */
    private function touched(Contacts $contacts, array $held): array
    {
        $touched = [];
        foreach ($contacts->pairs as $i => $pair) {
            if (! $this->glued->holds($pair)) {
                $touched[intdiv($contacts->ends[2 * $i], 6)] = $touched[intdiv($contacts->ends[2 * $i + 1], 6)] = true;
            }
        }
        do {
            $isMore = false;
            foreach ($held as [$a, $b]) {
                if (! isset($touched[$a], $touched[$b]) && ($this->mass($a) <= 0.0 || $this->mass($b) <= 0.0 || isset($touched[$a]) || isset($touched[$b]))) {
                    $touched[$a] = $touched[$b] = $isMore = true;
                }
            }
        } while ($isMore);

        return $touched;
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
        foreach ($this->movable as $n => $_) {
            if ($this->resting->isResting($n)) {
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
}
