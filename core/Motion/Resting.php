<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** Which bodies are at rest: not worked out until they are woken, a heap of them as a whole. */
final class Resting
{
    /** mm/s: what moves more slowly, for so many seconds, is put to rest with all that it touches; what it is hit by more slowly does not wake it. */
    private const SLOW = 12.0;

    /** mm: so does what has come no farther in that time; it rocks where it is. */
    private const STRAY = 0.5;

    private const PATIENCE = 0.3;

    public const WAKES = 40.0;

    /** @var array<int, float> seconds for which each body has hardly moved */
    private array $idle = [];

    /** @var array<int, list<float>> where each was, and how it was turned, when that time began */
    private array $since = [];

    /** @var array<int, int> of bodies that are at rest: the heap that they belong to */
    private array $heaps = [];

    /** @var array<int, list<int>> by heap */
    private array $bodies = [];

    private int $next = 0;

    public function isResting(int $n): bool
    {
        return isset($this->heaps[$n]);
    }

    /** Wakes a body with the heap that it lies in. */
    public function wake(int $n): void
    {
        $heap = $this->heaps[$n] ?? null;
        foreach ($heap === null ? [] : $this->bodies[$heap] as $one) {
            unset($this->heaps[$one]);
            $this->idle[$one] = 0.0;
        }
        if ($heap !== null) {
            unset($this->bodies[$heap]);
        }
    }

    /**
     * Bodies that hang together by contacts or glue, and have all hardly moved for a while, are at rest from now on.
     *
     * @param  array<int, true>  $movable  those that may move at all
     * @param  list<Shape>  $shapes
     * @param  list<int>  $glued  pairs of bodies that hold each other
     * @return list<int> those that came to rest
     */
    public function settle(array $movable, array $shapes, RigidBodies $world, Contacts $contacts, array $glued, float $seconds): array
    {
        $isAny = false;
        foreach ($movable as $n => $_) {
            if (isset($this->heaps[$n])) {
                continue;
            }
            [$x, $y, $z] = $world->speeds[$n];
            [$u, $v, $w] = $world->spins[$n];
            $radius = $shapes[$n]->radius;
            if ($x * $x + $y * $y + $z * $z + $radius * $radius * ($u * $u + $v * $v + $w * $w) < self::SLOW ** 2 || $this->isNear($n, $radius, $world)) {
                $this->idle[$n] = ($this->idle[$n] ?? 0.0) + $seconds;
            } else {
                $this->idle[$n] = 0.0;
                $this->since[$n] = [...$world->places[$n], ...$world->turns[$n]];
            }
            $isAny = $isAny || $this->idle[$n] >= self::PATIENCE;
        }
        if (! $isAny) {
            return [];
        }
        $root = [];
        foreach ($movable as $n => $_) {
            $root[$n] = $n;
        }
        $find = static function (int $n) use (&$root): int {
            while ($root[$n] !== $n) {
                $n = $root[$n] = $root[$root[$n]];
            }

            return $n;
        };
        foreach ($this->bodies as $heap) {
            foreach ($heap as $n) {
                $root[$find($n)] = $find($heap[0]);
            }
        }
        $isHeld = [];
        for ($i = 0, $count = $contacts->count(); $i < $count; $i++) {
            $a = intdiv($contacts->ends[2 * $i], 6);
            $b = intdiv($contacts->ends[2 * $i + 1], 6);
            if (isset($root[$a], $root[$b])) {
                $root[$find($a)] = $find($b);
            }
            $isHeld[$b] = true;
        }
        foreach ($glued as $pair) {
            $a = $pair >> 20;
            $b = $pair & 0xFFFFF;
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
        $came = [];
        foreach ($groups as $group) {
            // All of it is a heap already.
            $heap = $this->heaps[$group[0]] ?? null;
            if ($heap !== null && count($this->bodies[$heap]) === count($group)) {
                continue;
            }
            foreach ($group as $n) {
                // What touches nothing is on its way, however slowly.
                if (! isset($this->heaps[$n]) && ($this->idle[$n] < self::PATIENCE || (count($group) === 1 && ! isset($isHeld[$n])))) {
                    continue 2;
                }
            }
            $this->rest($group);
            $came = [...$came, ...$group];
        }

        return $came;
    }

    /** Whether a body is about where it was when it last moved. */
    private function isNear(int $n, float $radius, RigidBodies $world): bool
    {
        if (! isset($this->since[$n])) {
            return false;
        }
        [$x, $y, $z, $p, $q, $r, $s] = $this->since[$n];
        [$u, $v, $w] = $world->places[$n];
        [$a, $b, $c, $d] = $world->turns[$n];

        // A turn by an angle changes a quaternion by half of it.
        return sqrt(($u - $x) ** 2 + ($v - $y) ** 2 + ($w - $z) ** 2) + 2 * $radius * sqrt(($a - $p) ** 2 + ($b - $q) ** 2 + ($c - $r) ** 2 + ($d - $s) ** 2) < self::STRAY;
    }

    /** @param  list<int>  $group */
    private function rest(array $group): void
    {
        foreach ($group as $n) {
            $old = $this->heaps[$n] ?? null;
            if ($old !== null) {
                unset($this->bodies[$old]);
            }
            $this->heaps[$n] = $this->next;
        }
        $this->bodies[$this->next++] = $group;
    }
}
