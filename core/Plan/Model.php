<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Closure;
use Isotome\Cells\StandIn;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Mirror\Symmetry;

/** What plans for a body are searched on: a stand-in with few triangles, its frames, and a printer's space that is smaller by as much as the stand-in is smaller than the body. */
final readonly class Model
{
    /** Triangles of the stand-in. */
    private const TRIANGLES = 7_000;

    /** Places that the plane of symmetry is told by, and the mean deviation that a symmetric body has at most, as a share of its size. */
    private const PLACES = 600;

    private const SYMMETRIC = 0.005;

    /** Slices along its box beyond which it will be many pieces. */
    private const MANY = 12;

    private function __construct(
        public Part $whole,
        public Wishes $wishes,
        public Frames $frames,
        public ?Plane $symmetry,
        public float $size,
        public bool $isMany,
        private ?Closure $progress,
    ) {
    }

    /**
     * @param  bool  $isWhole  whether it is the body as it was given, which may be symmetric
     * @param  Closure(float): mixed|null  $progress
     */
    public static function of(Mesh $mesh, Wishes $wishes, bool $isWhole = true, ?Closure $progress = null): self
    {
        $standIn = StandIn::ofAbout($mesh, self::TRIANGLES);
        $size = $standIn->box->diagonal();
        $symmetry = null;
        if ($isWhole && abs(Volume::of($standIn->mesh)) > 0.0) {
            $best = Symmetry::best($standIn->mesh, self::PLACES);
            $symmetry = $best->mean < self::SYMMETRIC * $size ? self::straightened($best->plane, $size) : null;
        }
        $frames = Frames::of($standIn->mesh, $symmetry === null ? [] : [$symmetry->facing()]);
        $reserve = 0.0;
        foreach ($standIn->isItself ? [] : $frames->directions as $direction) {
            [$low, $high] = Part::reach($mesh, $direction);
            [$from, $to] = Part::reach($standIn->mesh, $direction);
            $reserve = max($reserve, $high - $to, $from - $low);
        }
        $reserved = $reserve > 0.0 ? $wishes->reserving($reserve) : $wishes;
        $isMany = Room::taken($standIn->box->size(), $reserved->space)[0] > self::MANY;
        if ($isMany) {
            $reserved = $reserved->forMany();
        }

        return new self(Part::of($standIn->mesh, $reserved, $frames), $reserved, $frames, $symmetry, $size, $isMany, $progress);
    }

    /** The same with the other hope: thin limbs become fewer pieces than their box lets one think, round bodies do not. */
    public function otherwise(): self
    {
        $wishes = $this->isMany ? $this->wishes->forFew() : $this->wishes->forMany();

        return new self(Part::of($this->whole->mesh, $wishes, $this->frames), $wishes, $this->frames, $this->symmetry, $this->size, $this->isMany, $this->progress);
    }

    /** @param  bool  $straight  only square to the coordinate axes */
    public function search(bool $straight, int $tries): Search
    {
        return new Search($this->wishes, $this->frames, $this->frames->facings($straight), $this->symmetry, $this->size, $tries, $this->progress);
    }

    /** A plane that is an axis's but for rounding, or for a mesh that is not quite even, is that one. */
    private static function straightened(Plane $plane, float $size): Plane
    {
        $facing = $plane->facing();
        foreach ($facing as $k => $part) {
            if (abs($part) > cos(deg2rad(0.5))) {
                $axis = [0.0, 0.0, 0.0];
                $axis[$k] = $part > 0.0 ? 1.0 : -1.0;

                return Plane::at(abs($plane->offset) < 1e-4 * $size ? 0.0 : $plane->offset, [$axis[0], $axis[1], $axis[2]]);
            }
        }

        return $plane;
    }
}
