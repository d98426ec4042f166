<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** The contacts of a step, in flat lists: as many numbers a contact as is said at each. */
final class Contacts
{
    /** Bodies that hit each other more slowly do not bounce, mm/s. */
    public const CALM = 25.0;

    /** @var list<int> two: where the numbers of its bodies begin among the speeds of all, six a body; the last body is the floor */
    public array $ends = [];

    /** @var list<float> two: inverse masses of both bodies, 0 for what does not move now */
    public array $masses = [];

    /** @var list<int> one */
    public array $pairs = [];

    /** @var list<float> one: how far apart they are, less than 0 when they overlap, mm */
    public array $fars = [];

    /** @var list<float> one: how fast they go from each other along the contact when the step begins, mm/s */
    public array $speeds = [];

    /** @var list<float> 48: what keeps bodies apart, then friction both ways; of each as Impulse reads it */
    public array $axes = [];

    /** @var list<float> three: where it is on the second body, as that stood */
    public array $local = [];

    /** @var array<int, float> three: along each axis */
    public array $impulses = [];

    /** @var array<int, float> one: the largest impulse that kept them apart */
    public array $most = [];

    public function count(): int
    {
        return count($this->pairs);
    }

    /** Whether some contact closes within the step, fast enough for bouncing. */
    public function isHit(float $seconds): bool
    {
        foreach ($this->speeds as $i => $speed) {
            if ($speed < -self::CALM && $this->fars[$i] < -$seconds * $speed) {
                return true;
            }
        }

        return false;
    }
}
