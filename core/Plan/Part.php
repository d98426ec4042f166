<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Isotome\Fit\Turned;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/** A body on the way to pieces that fit, with what its next cut is chosen by. */
final class Part
{
    /** When a frame's box is this share of the space's smallest side too large, no turn is looked for near it. */
    private const HOPELESS = 0.15;

    /** Frames near which a turn is looked for, those with the least excess. */
    private const TRIED = 2;

    /** @var list<list<float>> where the vertices are along each direction of the frames */
    private array $along = [];

    private bool $isAsked = false;

    /** @var array{float, float, float}|null the turn in which it fits */
    private ?array $turn = null;

    private ?float $needs = null;

    /**
     * @param  array{float, float, float}  $centre  of mass, mm
     * @param  int  $least  pieces that it becomes at least, by its volume alone
     */
    private function __construct(
        public readonly Mesh $mesh,
        public readonly float $volume,
        public readonly array $centre,
        public readonly int $least,
        private readonly Wishes $wishes,
        private readonly Frames $frames,
    ) {
    }

    public static function of(Mesh $mesh, Wishes $wishes, Frames $frames): self
    {
        $measures = Volume::measure($mesh);
        $volume = abs($measures->volume);

        return new self($mesh, $volume, $measures->centroid, max(1, (int) ceil($volume / $wishes->volume() - 1e-9)), $wishes, $frames);
    }

    /** @return list<list<float>> one list of distances a direction of the frames, by vertex, mm */
    public function along(): array
    {
        if ($this->along === []) {
            foreach ($this->frames->directions as $direction) {
                $this->along[] = self::distances($this->mesh, $direction);
            }
        }

        return $this->along;
    }

    /** What the search no longer needs of it. */
    public function forget(): void
    {
        $this->along = [];
    }

    /** Does it go into the space? A turn that was found is right; that none was found is no proof. */
    public function fits(): bool
    {
        return $this->turn() !== null;
    }

    /** @return array{float, float, float}|null the turn in which it fits: its axis, as long as its angle in radians */
    public function turn(): ?array
    {
        if (! $this->isAsked) {
            $this->isAsked = true;
            $this->turn = $this->found();
        }

        return $this->turn;
    }

    /**
     * How many pieces it will about become: slices along the box that needs fewest. How far the box is from fewer slices counts too, so that of cuts that are alike in slices the one is chosen that brings the rest nearer.
     *
     * @param  list<float>  $low  along each direction of the frames
     * @param  list<float>  $high
     */
    public static function need(array $low, array $high, float $volume, Wishes $wishes): float
    {
        $need = INF;
        for ($f = 0, $count = count($low); $f < $count; $f += 3) {
            [$slices, $share] = Room::taken([$high[$f] - $low[$f], $high[$f + 1] - $low[$f + 1], $high[$f + 2] - $low[$f + 2]], $wishes->space);
            $now = $slices + $wishes->hope * ($share - $slices);
            $need = $now < $need ? $now : $need;
        }

        return max($need, $volume / $wishes->volume());
    }

    /** The same for this part; 1 when it fits. */
    public function needs(): float
    {
        return $this->needs ??= $this->fits() ? 1.0 : $this->needsMore();
    }

    private function needsMore(): float
    {
        $low = $high = [];
        foreach ($this->along() as $distances) {
            [$low[], $high[]] = self::ends($distances);
        }

        return max(1.5, self::need($low, $high, $this->volume, $this->wishes));
    }

    /** @return array{float, float, float}|null */
    private function found(): ?array
    {
        if ($this->least > 1) {
            return null;
        }
        $space = $this->wishes->space;
        $sizes = [];
        foreach ($this->along() as $distances) {
            [$low, $high] = self::ends($distances);
            $sizes[] = $high - $low;
        }
        $over = [];
        $diagonal = sqrt($space->x ** 2 + $space->y ** 2 + $space->z ** 2);
        for ($f = 0, $count = count($sizes); $f < $count; $f += 3) {
            $longest = max($sizes[$f], $sizes[$f + 1], $sizes[$f + 2]);
            // A thin one may lie from corner to corner.
            $across = $longest - $diagonal + ($sizes[$f] + $sizes[$f + 1] + $sizes[$f + 2] - $longest) / 2;
            $over[$f] = min($space->holds([$sizes[$f], $sizes[$f + 1], $sizes[$f + 2]])['over_mm'], max(0.0, $across));
        }
        asort($over);
        $directions = $this->frames->directions;
        $frames = [];
        foreach (array_slice($over, 0, self::TRIED, true) as $f => $excess) {
            if ($excess < self::HOPELESS * min($space->x, $space->y, $space->z)) {
                $frames[] = [$directions[$f], $directions[$f + 1], $directions[$f + 2]];
            }
        }
        $turned = $frames === [] ? null : Turned::near($this->mesh->xyz, $space, $frames);

        return $turned?->fits() === true ? $turned->vector : null;
    }

    /**
     * @param  array{float, float, float}  $direction
     * @return list<float>
     */
    public static function distances(Mesh $mesh, array $direction): array
    {
        [$x, $y, $z] = $direction;
        $xyz = $mesh->xyz;
        $distances = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $distances[] = $x * $xyz[$i] + $y * $xyz[$i + 1] + $z * $xyz[$i + 2];
        }

        return $distances;
    }

    /**
     * @param  array{float, float, float}  $direction
     * @return array{float, float} how far a mesh reaches along a direction: from, to
     */
    public static function reach(Mesh $mesh, array $direction): array
    {
        return self::ends(self::distances($mesh, $direction));
    }

    /**
     * @param  list<float>  $distances
     * @return array{float, float} the least and the most
     */
    public static function ends(array $distances): array
    {
        return $distances === [] ? [0.0, 0.0] : [min($distances), max($distances)];
    }
}
