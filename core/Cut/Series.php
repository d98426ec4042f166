<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/** Several parallel blades: at given stops, or dividing each piece into equal parts. */
final readonly class Series
{
    public const MOST = 1000;

    /**
     * @param  array{float, float, float}  $facing
     * @param  list<float>  $stops  distances from the origin along the facing, mm, ascending; empty for equal parts
     */
    private function __construct(
        public array $facing,
        public array $stops,
        public ?int $parts,
        public ?Wander $wander = null,
    ) {
    }

    /** The same stops with blades that wander. */
    public function wandering(?Wander $wander): self
    {
        return new self($this->facing, $this->stops, $this->parts, $wander);
    }

    /**
     * @param  array{float, float, float}  $facing
     * @param  list<float>  $stops  in any order, mm
     *
     * @throws BadBlade when there is none, one is no number, or there are too many
     */
    public static function at(array $facing, array $stops): self
    {
        Plane::at(0.0, $facing);
        if ($stops === [] || count($stops) > self::MOST) {
            throw new BadBlade('The series has '.count($stops).' stops; give 1 to '.self::MOST.'.');
        }
        foreach ($stops as $stop) {
            if (! is_finite($stop)) {
                throw new BadBlade('The series has a stop that is not a finite number; give distances in millimetres.');
            }
        }
        sort($stops);

        return new self($facing, array_values(array_unique($stops)), null);
    }

    /**
     * @param  array{float, float, float}  $facing
     *
     * @throws BadBlade
     */
    public static function steps(array $facing, float $from, float $step, int $count): self
    {
        if ($step <= 0.0 || $count < 1 || $count > self::MOST) {
            throw new BadBlade('The series steps by '.$step.' mm '.$count.' times; give a step of more than 0 and 1 to '.self::MOST.' stops.');
        }
        $stops = [];
        for ($n = 0; $n < $count; $n++) {
            $stops[] = $from + $n * $step;
        }

        return self::at($facing, $stops);
    }

    /**
     * @param  array{float, float, float}  $facing
     *
     * @throws BadBlade
     */
    public static function parts(array $facing, int $parts): self
    {
        Plane::at(0.0, $facing);
        if ($parts < 2 || $parts > self::MOST) {
            throw new BadBlade("The series divides into $parts parts; give 2 to ".self::MOST.'.');
        }

        return new self($facing, [], $parts);
    }

    /** @return list<Plane> ascending; for equal parts by this mesh's own extent */
    public function planes(Mesh $mesh): array
    {
        $planes = $this->parallel($mesh);

        return $this->wander === null ? $planes : $this->wander->over($planes, $mesh);
    }

    /** @return list<Plane> */
    private function parallel(Mesh $mesh): array
    {
        if ($this->parts === null) {
            return $this->parallelBetween(0.0, 0.0);
        }
        [$nx, $ny, $nz] = Plane::at(0.0, $this->facing)->facing();
        $low = INF;
        $high = -INF;
        for ($i = 0, $count = count($mesh->xyz); $i < $count; $i += 3) {
            $d = $nx * $mesh->xyz[$i] + $ny * $mesh->xyz[$i + 1] + $nz * $mesh->xyz[$i + 2];
            if ($d < $low) {
                $low = $d;
            }
            if ($d > $high) {
                $high = $d;
            }
        }

        return $this->parallelBetween($low, $high);
    }

    /**
     * The blades before they wander, for a piece that reaches so far along the facing.
     *
     * @return list<Plane>
     */
    public function parallelBetween(float $low, float $high): array
    {
        if ($this->parts === null) {
            return array_map(fn (float $stop): Plane => Plane::at($stop, $this->facing), $this->stops);
        }
        $planes = [];
        for ($n = 1; $n < $this->parts && $low < $high; $n++) {
            $planes[] = Plane::at($low + $n / $this->parts * ($high - $low), $this->facing);
        }

        return $planes;
    }

    /** The least distance between two stops, mm; INF for equal parts and a single stop. */
    public function gap(): float
    {
        $gap = INF;
        for ($n = 1; $n < count($this->stops); $n++) {
            $gap = min($gap, $this->stops[$n] - $this->stops[$n - 1]);
        }

        return $gap;
    }
}
