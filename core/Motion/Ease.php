<?php

declare(strict_types=1);

namespace Isotome\Motion;

/** How a movement gets under way and comes to rest, from 0 to 1. */
enum Ease: string
{
    case Even = 'even';
    case Smooth = 'smooth';
    case Out = 'out';
    case Bounce = 'bounce';

    /**
     * Smooth: 3t² − 2t³ (cubic Hermite). Out: 1 − (1 − t)³, at full speed from the beginning. Bounce: falls freely onto its end and comes back to a quarter, a sixteenth and a sixty-fourth of the height, as a ball does whose speed is
     * halved each time.
     *
     * @param  float  $t  share of the time
     */
    public function at(float $t): float
    {
        $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);

        return match ($this) {
            self::Even => $t,
            self::Smooth => $t * $t * (3.0 - 2.0 * $t),
            self::Out => 1.0 - (1.0 - $t) ** 3,
            self::Bounce => self::bounce($t),
        };
    }

    private static function bounce(float $t): float
    {
        // The fall takes 1, the bounces 1, 1/2 and 1/4 of its time.
        $time = 2.75 * $t;
        if ($time < 1.0) {
            return $time * $time;
        }
        $from = 1.0;
        foreach ([1.0, 0.5, 0.25] as $long) {
            if ($time < $from + $long || $long === 0.25) {
                $u = 2.0 * ($time - $from) / $long - 1.0;

                return 1.0 - ($long / 2) ** 2 * (1.0 - $u * $u);
            }
            $from += $long;
        }

        return 1.0;
    }
}
