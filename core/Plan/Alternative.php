<?php

declare(strict_types=1);

namespace Isotome\Plan;

/** A plan that was carried out: its cuts in order, the pieces that they leave, each of which fits unless the cuts were set by hand, and what it costs. */
final readonly class Alternative
{
    /** Cuts that lie nearer to each other than this are the same: degrees, and a share of the body's size. */
    private const DEGREES = 12.0;

    private const NEAR = 0.05;

    /** Alternatives are alike when this share of the cuts is the same in both. */
    private const ALIKE = 0.67;

    /**
     * @param  list<Made>  $cuts
     * @param  list<Fitting>  $pieces
     */
    public function __construct(
        public array $cuts,
        public array $pieces,
        public Terms $terms,
    ) {
    }

    public function cost(): float
    {
        return $this->terms->total();
    }

    /** @param  float  $size  of the whole body, mm */
    public function isLike(self $other, float $size): bool
    {
        return self::areAlike(array_column($this->cuts, 'cut'), array_column($other->cuts, 'cut'), $size);
    }

    /**
     * @param  list<Cut>  $some
     * @param  list<Cut>  $others
     */
    public static function areAlike(array $some, array $others, float $size): bool
    {
        $most = max(count($some), count($others));
        $same = 0;
        foreach ($some as $cut) {
            foreach ($others as $n => $other) {
                $along = $cut->facing[0] * $other->facing[0] + $cut->facing[1] * $other->facing[1] + $cut->facing[2] * $other->facing[2];
                if (abs($along) > cos(deg2rad(self::DEGREES)) && abs($cut->offset - ($along > 0.0 ? 1 : -1) * $other->offset) < self::NEAR * $size) {
                    unset($others[$n]);
                    $same++;
                    break;
                }
            }
        }

        return $same >= self::ALIKE * $most;
    }
}
