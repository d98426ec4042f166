<?php

declare(strict_types=1);

namespace Isotome\Motion;

/**
 * Speeds that satisfy contacts, by sequential impulses with soft constraints: sources in RigidBodies.
 *
 * Lists of speeds have six numbers a body: speed and spin.
 */
final class ContactSolver
{
    /** Bodies may be so deep in each other, mm: else contacts would come and go. */
    public const SLOP = 0.02;

    /** Times a second that the springs between bodies swing: bodies of a few centimetres are at rest within hundredths of a second. */
    private const STIFF = 240.0;

    /** At most, mm/s, are they pushed apart. */
    private const PUSH = 150.0;

    /** Times that the contacts of what bounces are gone through. */
    private const ROUNDS = 12;

    /**
     * Adds what each contact bore in the small step before.
     *
     * @param  array<int, float>  $speeds
     */
    public static function warm(Contacts $contacts, array &$speeds): void
    {
        // Lists that nobody else holds are changed in place.
        $v = $speeds;
        $speeds = [];
        $ends = $contacts->ends;
        $masses = $contacts->masses;
        $axes = $contacts->axes;
        $impulses = $contacts->impulses;
        for ($i = 0, $count = $contacts->count(); $i < $count; $i++) {
            $j = $impulses[3 * $i];
            $j1 = $impulses[3 * $i + 1];
            $j2 = $impulses[3 * $i + 2];
            if ($j === 0.0 && $j1 === 0.0 && $j2 === 0.0) {
                continue;
            }
            $k = 48 * $i;
            $x = $j * $axes[$k] + $j1 * $axes[$k + 16] + $j2 * $axes[$k + 32];
            $y = $j * $axes[$k + 1] + $j1 * $axes[$k + 17] + $j2 * $axes[$k + 33];
            $z = $j * $axes[$k + 2] + $j1 * $axes[$k + 18] + $j2 * $axes[$k + 34];
            $b = $ends[2 * $i + 1];
            $by = $masses[2 * $i + 1];
            $v[$b] += $by * $x;
            $v[$b + 1] += $by * $y;
            $v[$b + 2] += $by * $z;
            $v[$b + 3] += $j * $axes[$k + 12] + $j1 * $axes[$k + 28] + $j2 * $axes[$k + 44];
            $v[$b + 4] += $j * $axes[$k + 13] + $j1 * $axes[$k + 29] + $j2 * $axes[$k + 45];
            $v[$b + 5] += $j * $axes[$k + 14] + $j1 * $axes[$k + 30] + $j2 * $axes[$k + 46];
            $by = $masses[2 * $i];
            if ($by > 0.0) {
                $a = $ends[2 * $i];
                $v[$a] -= $by * $x;
                $v[$a + 1] -= $by * $y;
                $v[$a + 2] -= $by * $z;
                $v[$a + 3] -= $j * $axes[$k + 9] + $j1 * $axes[$k + 25] + $j2 * $axes[$k + 41];
                $v[$a + 4] -= $j * $axes[$k + 10] + $j1 * $axes[$k + 26] + $j2 * $axes[$k + 42];
                $v[$a + 5] -= $j * $axes[$k + 11] + $j1 * $axes[$k + 27] + $j2 * $axes[$k + 43];
            }
        }
        $speeds = $v;
    }

    /**
     * Goes once through contacts: what keeps bodies apart, then friction, which is no stronger than that allows.
     *
     * @param  array<int, float>  $speeds
     * @param  array<int, float>  $gone  how far each body has come and turned since the step began
     * @param  float  $h  seconds
     * @param  bool  $isBiased  whether what overlaps is pushed apart
     */
    public static function solve(Contacts $contacts, array &$speeds, array $gone, float $friction, float $h, bool $isBiased): void
    {
        $v = $speeds;
        $speeds = [];
        $impulses = $contacts->impulses;
        $contacts->impulses = [];
        $most = $contacts->most;
        $contacts->most = [];
        $ends = $contacts->ends;
        $masses = $contacts->masses;
        $fars = $contacts->fars;
        $axes = $contacts->axes;
        // Springs with much damping, of a frequency that the small step can follow; stiffer against what stands.
        [$rate, $mass, $less] = self::soft(self::STIFF, $h);
        [$rateFixed, $massFixed, $lessFixed] = self::soft(2 * self::STIFF, $h);
        for ($i = 0, $count = $contacts->count(); $i < $count; $i++) {
            $k = 48 * $i;
            $a = $ends[2 * $i];
            $b = $ends[2 * $i + 1];
            $massA = $masses[2 * $i];
            $massB = $masses[2 * $i + 1];
            $x = $axes[$k];
            $y = $axes[$k + 1];
            $z = $axes[$k + 2];
            $p = $axes[$k + 3];
            $q = $axes[$k + 4];
            $r = $axes[$k + 5];
            $s = $axes[$k + 6];
            $t = $axes[$k + 7];
            $u = $axes[$k + 8];
            $old = $impulses[3 * $i];
            $apart = $fars[$i] + ($gone[$b] - $gone[$a]) * $x + ($gone[$b + 1] - $gone[$a + 1]) * $y + ($gone[$b + 2] - $gone[$a + 2]) * $z
                + $gone[$b + 3] * $s + $gone[$b + 4] * $t + $gone[$b + 5] * $u - $gone[$a + 3] * $p - $gone[$a + 4] * $q - $gone[$a + 5] * $r;
            $bx = $v[$b];
            $by = $v[$b + 1];
            $bz = $v[$b + 2];
            $bu = $v[$b + 3];
            $bv = $v[$b + 4];
            $bw = $v[$b + 5];
            $ax = $v[$a];
            $ay = $v[$a + 1];
            $az = $v[$a + 2];
            $au = $v[$a + 3];
            $av = $v[$a + 4];
            $aw = $v[$a + 5];
            $speed = ($bx - $ax) * $x + ($by - $ay) * $y + ($bz - $az) * $z + $bu * $s + $bv * $t + $bw * $u - $au * $p - $av * $q - $aw * $r;
            if ($apart > 0.0) {
                // It may come as near as it is within the small step.
                $sum = $old - $axes[$k + 15] * ($speed + $apart / $h);
            } elseif ($isBiased) {
                $over = $apart + self::SLOP;
                if ($massA <= 0.0 || $massB <= 0.0) {
                    $bias = $over < 0.0 ? $rateFixed * $over : 0.0;
                    $sum = $old - $axes[$k + 15] * $massFixed * ($speed + ($bias < -self::PUSH ? -self::PUSH : $bias)) - $lessFixed * $old;
                } else {
                    $bias = $over < 0.0 ? $rate * $over : 0.0;
                    $sum = $old - $axes[$k + 15] * $mass * ($speed + ($bias < -self::PUSH ? -self::PUSH : $bias)) - $less * $old;
                }
            } else {
                $sum = $old - $axes[$k + 15] * $speed;
            }
            if ($sum <= 0.0) {
                // What does not press does not rub either.
                if ($old === 0.0 && $impulses[3 * $i + 1] === 0.0 && $impulses[3 * $i + 2] === 0.0) {
                    continue;
                }
                $sum = 0.0;
            } elseif ($sum > $most[$i]) {
                $most[$i] = $sum;
            }
            $impulses[3 * $i] = $sum;
            $j = $sum - $old;
            $m = $j * $massB;
            $bx += $m * $x;
            $by += $m * $y;
            $bz += $m * $z;
            $bu += $j * $axes[$k + 12];
            $bv += $j * $axes[$k + 13];
            $bw += $j * $axes[$k + 14];
            $m = $j * $massA;
            $ax -= $m * $x;
            $ay -= $m * $y;
            $az -= $m * $z;
            $au -= $j * $axes[$k + 9];
            $av -= $j * $axes[$k + 10];
            $aw -= $j * $axes[$k + 11];
            $limit = $friction * $sum;
            for ($way = 1; $way < 3; $way++) {
                $k += 16;
                $x = $axes[$k];
                $y = $axes[$k + 1];
                $z = $axes[$k + 2];
                $old = $impulses[3 * $i + $way];
                $sum = $old - $axes[$k + 15] * (($bx - $ax) * $x + ($by - $ay) * $y + ($bz - $az) * $z + $bu * $axes[$k + 6] + $bv * $axes[$k + 7] + $bw * $axes[$k + 8] - $au * $axes[$k + 3] - $av * $axes[$k + 4] - $aw * $axes[$k + 5]);
                $sum = $sum > $limit ? $limit : ($sum < -$limit ? -$limit : $sum);
                $impulses[3 * $i + $way] = $sum;
                $j = $sum - $old;
                $m = $j * $massB;
                $bx += $m * $x;
                $by += $m * $y;
                $bz += $m * $z;
                $bu += $j * $axes[$k + 12];
                $bv += $j * $axes[$k + 13];
                $bw += $j * $axes[$k + 14];
                $m = $j * $massA;
                $ax -= $m * $x;
                $ay -= $m * $y;
                $az -= $m * $z;
                $au -= $j * $axes[$k + 9];
                $av -= $j * $axes[$k + 10];
                $aw -= $j * $axes[$k + 11];
            }
            $v[$b] = $bx;
            $v[$b + 1] = $by;
            $v[$b + 2] = $bz;
            $v[$b + 3] = $bu;
            $v[$b + 4] = $bv;
            $v[$b + 5] = $bw;
            if ($massA > 0.0) {
                $v[$a] = $ax;
                $v[$a + 1] = $ay;
                $v[$a + 2] = $az;
                $v[$a + 3] = $au;
                $v[$a + 4] = $av;
                $v[$a + 5] = $aw;
            }
        }
        $contacts->impulses = $impulses;
        $contacts->most = $most;
        $speeds = $v;
    }

    /** @return array{float, float, float} how fast an overlap goes, and how much of the mass and less of the impulse count (E. Catto, "Solver2D", 2024) */
    private static function soft(float $stiff, float $h): array
    {
        $omega = 2 * M_PI * min($stiff, 0.25 / $h);
        $damping = 20.0 + $h * $omega;
        $c = $h * $omega * $damping;

        return [$omega / $damping, $c / (1.0 + $c), 1.0 / (1.0 + $c)];
    }

    /**
     * What came fast against something leaves it with a share of that speed.
     *
     * @param  array<int, float>  $v
     */
    public static function restore(Contacts $contacts, array &$v, float $bounce): void
    {
        if ($bounce <= 0.0) {
            return;
        }
        $hit = [];
        foreach ($contacts->speeds as $i => $speed) {
            if ($speed <= -Contacts::CALM && $contacts->most[$i] > 0.0) {
                $hit[] = $i;
            }
        }
        $axes = $contacts->axes;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            foreach ($hit as $i) {
                $k = 48 * $i;
                $a = $contacts->ends[2 * $i];
                $b = $contacts->ends[2 * $i + 1];
                $speed = ($v[$b] - $v[$a]) * $axes[$k] + ($v[$b + 1] - $v[$a + 1]) * $axes[$k + 1] + ($v[$b + 2] - $v[$a + 2]) * $axes[$k + 2]
                    + $v[$b + 3] * $axes[$k + 6] + $v[$b + 4] * $axes[$k + 7] + $v[$b + 5] * $axes[$k + 8] - $v[$a + 3] * $axes[$k + 3] - $v[$a + 4] * $axes[$k + 4] - $v[$a + 5] * $axes[$k + 5];
                $old = $contacts->impulses[3 * $i];
                $sum = max(0.0, $old - $axes[$k + 15] * ($speed + $bounce * $contacts->speeds[$i]));
                Impulse::push($axes, $k, $sum - $old, $v, $a, $b, $contacts->masses[2 * $i], $contacts->masses[2 * $i + 1]);
                $contacts->impulses[3 * $i] = $sum;
            }
        }
    }
}
