<?php

declare(strict_types=1);

namespace Isotome\Plate;

/** A horizontal layer of a body, as it is at the height of its middle. */
final class Layer
{
    /** @var array<int, array{float, float, float, float}> see box() */
    private array $boxes = [];

    /**
     * @param  float  $height  mm
     * @param  list<list<float>>  $outlines  x, y of each corner, mm; material to the left
     * @param  list<float>  $areas  mm², of each outline; of holes less than 0
     */
    public function __construct(public readonly float $height, public readonly array $outlines, public readonly array $areas)
    {
    }

    /** Square millimetres of material. */
    public function area(): float
    {
        return array_sum($this->areas);
    }

    /** How often outlines go round a place: 0 where there is no material, if bodies do not overlap. */
    public function winding(float $x, float $y): int
    {
        $winding = 0;
        foreach ($this->outlines as $n => $_) {
            $winding += $this->turns($n, $x, $y);
        }

        return $winding;
    }

    /** How often one of the outlines goes round a place. */
    public function turns(int $outline, float $x, float $y): int
    {
        [$x0, $y0, $x1, $y1] = $this->box($outline);

        return $x < $x0 || $x > $x1 || $y < $y0 || $y > $y1 ? 0 : self::around($this->outlines[$outline], $x, $y);
    }

    /** @return array{float, float, float, float} least x and y of an outline, greatest x and y */
    public function box(int $outline): array
    {
        if (! isset($this->boxes[$outline])) {
            $corners = $this->outlines[$outline];
            $x0 = $x1 = $corners[0];
            $y0 = $y1 = $corners[1];
            for ($k = 2, $n = count($corners); $k < $n; $k += 2) {
                $x = $corners[$k];
                $y = $corners[$k + 1];
                if ($x < $x0) {
                    $x0 = $x;
                } elseif ($x > $x1) {
                    $x1 = $x;
                }
                if ($y < $y0) {
                    $y0 = $y;
                } elseif ($y > $y1) {
                    $y1 = $y;
                }
            }
            $this->boxes[$outline] = [$x0, $y0, $x1, $y1];
        }

        return $this->boxes[$outline];
    }

    /**
     * How often an outline goes round a place (D. Sunday, "Inclusion of a point in a polygon", 2001).
     *
     * @param  list<float>  $outline
     */
    private static function around(array $outline, float $x, float $y): int
    {
        $winding = 0;
        $n = count($outline);
        $px = $outline[$n - 2];
        $py = $outline[$n - 1];
        for ($k = 0; $k < $n; $k += 2) {
            $qx = $outline[$k];
            $qy = $outline[$k + 1];
            if ($py <= $y) {
                if ($qy > $y && ($qx - $px) * ($y - $py) - ($x - $px) * ($qy - $py) > 0.0) {
                    $winding++;
                }
            } elseif ($qy <= $y && ($qx - $px) * ($y - $py) - ($x - $px) * ($qy - $py) < 0.0) {
                $winding--;
            }
            $px = $qx;
            $py = $qy;
        }

        return $winding;
    }
}
