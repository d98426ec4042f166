<?php

declare(strict_types=1);

namespace Isotome\Motion;

/**
 * Which bodies are at rest: they are not worked out until they are woken. Each rests by itself, with what is glued to it; it is woken when it is hit, or when something moves away that it touched when it came to rest.
 */
final class Resting
{
    /** mm/s: what moves more slowly, for so many seconds, is put to rest; what it is hit by more slowly does not wake it. */
    private const SLOW = 12.0;

    /** mm: so does what has come no farther in that time; it rocks where it is. */
    private const STRAY = 0.5;

    private const PATIENCE = 0.3;

    /** Seconds after which a body is put to rest though something that it touches still moves. */
    private const LONG = 0.8;

    private const WAKES = 40.0;

    /** @var array<int, float> seconds for which each body has hardly moved */
    private array $idle = [];

    /** @var array<int, list<float>> where each was, and how it was turned, when that time began */
    private array $since = [];

    /** @var array<int, list<int>> of bodies that are at rest: themselves and what is glued to them */
    private array $resting = [];

    /** @var array<int, list<int>> by body, what touched it when that came to rest */
    private array $leaning = [];

    /** @param  array<int, true>  $movable  bodies that may move at all */
    public function __construct(private readonly RigidBodies $world, private readonly array $movable)
    {
    }

    public function isResting(int $n): bool
    {
        return isset($this->resting[$n]);
    }

    /** Wakes a body with what is glued to it. */
    private function wake(int $n): void
    {
        foreach ($this->resting[$n] ?? [] as $one) {
            unset($this->resting[$one]);
            $this->idle[$one] = 0.0;
        }
    }

    /**
     * What is at rest is woken when it is hit.
     *
     * @param  list<array{float, float, float, float}>  $places  where two bodies touch, as in Manifold
     */
    public function wakeBy(int $a, int $b, array $places): void
    {
        if (! isset($this->resting[$a]) && ! isset($this->resting[$b])) {
            return;
        }
        [$p, $q] = [$this->world->speeds[$a], $this->world->speeds[$b]];
        $speed = sqrt(($q[0] - $p[0]) ** 2 + ($q[1] - $p[1]) ** 2 + ($q[2] - $p[2]) ** 2);
        if ($speed <= self::WAKES) {
            return;
        }
        foreach ($places as $place) {
            if ($place[3] < ContactSolver::SLOP + 0.01 * $speed) {
                $this->wake($a);
                $this->wake($b);

                return;
            }
        }
    }

    /**
     * Bodies that touch something and have hardly moved for a while are at rest from now on.
     *
     * @param  list<Shape>  $shapes
     * @param  list<int>  $glued  pairs of bodies that hold each other
     * @return list<int> those that came to rest
     */
    public function settle(array $shapes, Contacts $contacts, array $glued, float $seconds): array
    {
        $ready = [];
        foreach ($this->movable as $n => $_) {
            if (isset($this->resting[$n])) {
                continue;
            }
            [$x, $y, $z] = $this->world->speeds[$n];
            [$u, $v, $w] = $this->world->spins[$n];
            $radius = $shapes[$n]->radius;
            if ($x * $x + $y * $y + $z * $z + $radius * $radius * ($u * $u + $v * $v + $w * $w) < self::SLOW ** 2 || $this->isNear($n, $radius)) {
                $this->idle[$n] = ($this->idle[$n] ?? 0.0) + $seconds;
                if ($this->idle[$n] >= self::PATIENCE) {
                    $ready[$n] = true;
                }
            } else {
                $this->idle[$n] = 0.0;
                $this->since[$n] = [...$this->world->places[$n], ...$this->world->turns[$n]];
                foreach ($this->leaning[$n] ?? [] as $other) {
                    $this->wake($other);
                }
                unset($this->leaning[$n]);
            }
        }

        return $ready === [] ? [] : $this->rest($ready, $contacts, $glued);
    }

    /**
     * @param  array<int, true>  $ready  bodies that have hardly moved
     * @param  list<int>  $glued
     * @return list<int> those that came to rest
     */
    private function rest(array $ready, Contacts $contacts, array $glued): array
    {
        /** @var array<int, list<int>> $beside */
        $beside = [];
        for ($i = 0, $count = $contacts->count(); $i < $count; $i++) {
            $a = intdiv($contacts->ends[2 * $i], 6);
            $b = intdiv($contacts->ends[2 * $i + 1], 6);
            $beside[$a][$b] = $b;
            $beside[$b][$a] = $a;
        }
        $came = [];
        foreach ($this->together($ready, $glued) as $group) {
            $isHeld = false;
            foreach ($group as $n) {
                if (! isset($ready[$n])) {
                    // One that stays holds the others.
                    if (isset($this->movable[$n])) {
                        continue 2;
                    }
                    $isHeld = true;
                }
                foreach ($beside[$n] ?? [] as $other) {
                    $isHeld = true;
                    if (isset($this->movable[$other]) && ! isset($ready[$other]) && ! isset($this->resting[$other]) && $this->idle[$n] < self::LONG) {
                        continue 3;
                    }
                }
            }
            // What touches nothing is on its way, however slowly.
            if (! $isHeld) {
                continue;
            }
            $group = array_values(array_filter($group, fn (int $n): bool => isset($this->movable[$n])));
            foreach ($group as $n) {
                $this->resting[$n] = $group;
                $came[] = $n;
                foreach ($beside[$n] ?? [] as $other) {
                    $this->leaning[$other][] = $n;
                }
            }
        }

        return $came;
    }

    /**
     * @param  array<int, true>  $ready
     * @param  list<int>  $glued
     * @return list<list<int>> these bodies, together with what is glued to them
     */
    private function together(array $ready, array $glued): array
    {
        $next = [];
        foreach ($glued as $pair) {
            $next[$pair >> 20][] = $pair & 0xFFFFF;
            $next[$pair & 0xFFFFF][] = $pair >> 20;
        }
        $groups = $seen = [];
        foreach ($ready as $n => $_) {
            if (isset($seen[$n])) {
                continue;
            }
            $seen[$n] = true;
            $group = [$n];
            for ($k = 0; $k < count($group); $k++) {
                // Bodies that are glued to the same one that stays are not held by each other.
                foreach (isset($this->movable[$group[$k]]) ? $next[$group[$k]] ?? [] : [] as $other) {
                    if (! isset($seen[$other])) {
                        $seen[$other] = isset($this->movable[$other]);
                        $group[] = $other;
                    }
                }
            }
            $groups[] = $group;
        }

        return $groups;
    }

    /** Whether a body is about where it was when it last moved. */
    private function isNear(int $n, float $radius): bool
    {
        if (! isset($this->since[$n])) {
            return false;
        }
        [$x, $y, $z, $p, $q, $r, $s] = $this->since[$n];
        [$u, $v, $w] = $this->world->places[$n];
        [$a, $b, $c, $d] = $this->world->turns[$n];

        // A turn by an angle changes a quaternion by half of it.
        return sqrt(($u - $x) ** 2 + ($v - $y) ** 2 + ($w - $z) ** 2) + 2 * $radius * sqrt(($a - $p) ** 2 + ($b - $q) ** 2 + ($c - $r) ** 2 + ($d - $s) ** 2) < self::STRAY;
    }
}
