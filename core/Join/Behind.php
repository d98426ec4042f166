<?php

declare(strict_types=1);

namespace Isotome\Join;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Nearest;
use WeakMap;

/**
 * What is behind a common face: how deep the piece can be bored there before the bore comes too near to another of its faces.
 *
 * The bore's middle line is followed by as much as nothing is near (J. C. Hart, "Sphere tracing", 1996); its end and the part before it are looked at on circles.
 */
final readonly class Behind
{
    private Nearest $nearest;

    /** @var array<int, true> */
    private array $but;

    /** @param  int  $side  of the common face: 0 for the first piece, 1 for the second */
    public function __construct(private CommonFace $face, Mesh $mesh, int $side)
    {
        $this->but = array_fill_keys($face->faces[$side], true);
        // A piece has many faces. What is kept must not hold on to the mesh that it is kept for, or it would never go.
        /** @var WeakMap<Mesh, Nearest> $known */
        static $known = new WeakMap;
        $this->nearest = $known[$mesh] ??= new Nearest(Mesh::of($mesh->xyz, $mesh->corners));
    }

    /**
     * The place that a bore comes too near to; null when it comes near to none.
     *
     * @param  float  $from  height at which it begins, mm
     * @param  float  $to  height of its end
     * @param  float  $radius  mm
     * @param  float  $wall  what must stay around it, mm
     * @return array{float, float, float}|null
     */
    public function tooNear(float $x, float $y, float $from, float $to, float $radius, float $wall): ?array
    {
        $way = $to < $from ? -1.0 : 1.0;
        $length = abs($to - $from);
        $around = $radius + $wall;
        $isFree = true;
        for ($at = 0.0; ; $at = min($length, $at + max($free - $around, $around / 16))) {
            [$free, $px, $py, $pz, $hit] = $this->nearest->to(...[...$this->face->inSpace($x, $y, $from + $way * $at), 4 * $around, $this->but]);
            if ($hit >= 0 && $free < $around) {
                if ($at < $length - $radius) {
                    return [$px, $py, $pz];
                }
                $isFree = false;
                break;
            }
            if ($at >= $length) {
                break;
            }
        }
        if ($isFree) {
            return null;
        }
        // Around its end a circle of places tells more than the middle: along the sides, then across the end.
        $step = max($wall, $radius / 8);
        $rings = [];
        for ($depth = max(0.0, $length - $radius); $depth < $length; $depth += $step) {
            $rings[] = [$depth, $radius];
        }
        for ($out = $radius; $out > 0.0; $out -= $step) {
            $rings[] = [$length, $out];
        }
        $rings[] = [$length, 0.0];
        foreach ($rings as [$depth, $out]) {
            $places = max(1, (int) ceil(2 * M_PI * $out / $step));
            for ($n = 0; $n < $places; $n++) {
                $angle = 2 * M_PI * $n / $places;
                [$free, $px, $py, $pz, $hit] = $this->nearest->to(...[...$this->face->inSpace($x + $out * cos($angle), $y + $out * sin($angle), $from + $way * $depth), $wall, $this->but]);
                if ($hit >= 0 && $free < $wall) {
                    return [$px, $py, $pz];
                }
            }
        }

        return null;
    }
}
