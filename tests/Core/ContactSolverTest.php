<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Chance;
use Isotome\Motion\Contacts;
use Isotome\Motion\ContactSolver;
use PHPUnit\Framework\TestCase;

/** Sequential impulses against the laws that they must keep, whatever the contacts are. */
final class ContactSolverTest extends TestCase
{
    private const H = 0.001;

    private const FRICTION = 0.4;

    /** @return array{Contacts, list<float>, list<float>} contacts of balls of 1 mm in a row that touch or are a little apart, their speeds, and their masses */
    private static function row(Chance $chance, int $count, bool $isOnGround): array
    {
        $masses = $speeds = [];
        for ($n = 0; $n < $count; $n++) {
            $masses[] = 0.5 + 3 * $chance->uniform();
            for ($k = 0; $k < 6; $k++) {
                $speeds[] = 200 * $chance->uniform() - 100;
            }
        }
        array_push($speeds, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
        $contacts = new Contacts;
        for ($n = 0; $n < $count - 1; $n++) {
            self::touch($contacts, $n, $n + 1, $masses[$n], $masses[$n + 1], [1.0, 0.0, 0.0], $chance->uniform() < 0.3 ? 0.01 : 0.0);
        }
        for ($n = 0; $n < ($isOnGround ? $count : 0); $n++) {
            self::touch($contacts, $count, $n, 0.0, $masses[$n], [0.0, 0.0, 1.0], 0.0);
        }

        return [$contacts, $speeds, $masses];
    }

    /**
     * Two balls of radius 1 and inertia 2 m r² / 5, or one and the ground.
     *
     * @param  array{float, float, float}  $normal
     */
    private static function touch(Contacts $contacts, int $a, int $b, float $massA, float $massB, array $normal, float $far): void
    {
        [$nx, $ny, $nz] = $normal;
        $inverse = [$massA > 0.0 ? 1 / $massA : 0.0, 1 / $massB];
        $contacts->pairs[] = $massA > 0.0 ? $a << 20 | $b : -1 - $b;
        array_push($contacts->ends, 6 * $a, 6 * $b);
        array_push($contacts->masses, ...$inverse);
        foreach ([$normal, [$nz, 0.0, -$nx], [0.0, 1.0, 0.0]] as [$x, $y, $z]) {
            // From the middle of the first along the normal, and of the second against it.
            $onA = [$ny * $z - $nz * $y, $nz * $x - $nx * $z, $nx * $y - $ny * $x];
            $onB = [-$onA[0], -$onA[1], -$onA[2]];
            $by = [2.5 * $inverse[0], 2.5 * $inverse[1]];
            $square = $onA[0] ** 2 + $onA[1] ** 2 + $onA[2] ** 2;
            array_push($contacts->axes, $x, $y, $z, ...$onA, ...$onB);
            array_push($contacts->axes, ...array_map(static fn (float $c): float => $by[0] * $c, $onA), ...array_map(static fn (float $c): float => $by[1] * $c, $onB));
            $contacts->axes[] = 1 / ($inverse[0] + $inverse[1] + $square * ($by[0] + $by[1]));
        }
        $contacts->fars[] = $far;
        $contacts->speeds[] = 0.0;
        array_push($contacts->local, 0.0, 0.0, 0.0);
        array_push($contacts->impulses, 0.0, 0.0, 0.0);
        $contacts->most[] = 0.0;
    }

    /**
     * @param  list<float>  $speeds
     * @param  list<float>  $masses
     * @return list<float> momentum along the three axes
     */
    private static function momentum(array $speeds, array $masses): array
    {
        $sum = [0.0, 0.0, 0.0];
        foreach ($masses as $n => $mass) {
            foreach ([0, 1, 2] as $k) {
                $sum[$k] += $mass * $speeds[6 * $n + $k];
            }
        }

        return $sum;
    }

    /**
     * @param  array<int, float>  $speeds
     * @param  list<float>  $masses
     */
    private static function energy(array $speeds, array $masses): float
    {
        $sum = 0.0;
        foreach ($masses as $n => $mass) {
            for ($k = 0; $k < 6; $k++) {
                $sum += ($k < 3 ? $mass : 0.4 * $mass) * $speeds[6 * $n + $k] ** 2 / 2;
            }
        }

        return $sum;
    }

    public function test_momentum_stays_energy_does_not_grow_and_contacts_only_push(): void
    {
        $chance = new Chance(9);
        for ($round = 0; $round < 60; $round++) {
            [$contacts, $v, $masses] = self::row($chance, 2 + $round % 7, false);
            $gone = array_fill(0, count($v), 0.0);
            [$momentum, $energy] = [self::momentum($v, $masses), self::energy($v, $masses)];
            for ($n = 0; $n < 80; $n++) {
                ContactSolver::solve($contacts, $v, $gone, self::FRICTION, self::H, false);
            }
            self::assertEqualsWithDelta($momentum, self::momentum(array_values($v), $masses), 1e-9);
            self::assertLessThan($energy + 1e-6, self::energy($v, $masses));
            for ($i = 0; $i < $contacts->count(); $i++) {
                [$push, $rub, $across] = array_slice($contacts->impulses, 3 * $i, 3);
                self::assertGreaterThanOrEqual(0.0, $push);
                self::assertLessThanOrEqual(self::FRICTION * $push + 1e-9, max(abs($rub), abs($across)));
                // None comes nearer by more than it was apart.
                self::assertGreaterThan(-$contacts->fars[$i] / self::H - 0.05, $v[6 * $i + 6] - $v[6 * $i]);
            }
        }
    }

    public function test_what_was_borne_before_is_where_the_next_small_step_begins(): void
    {
        $chance = new Chance(3);
        [$contacts, $v, $masses] = self::row($chance, 5, true);
        $gone = array_fill(0, count($v), 0.0);
        $before = $v;
        for ($n = 0; $n < 200; $n++) {
            ContactSolver::solve($contacts, $v, $gone, self::FRICTION, self::H, false);
        }
        // The same speeds once more, with the impulses that were found: they give what was found, at once.
        $again = $before;
        ContactSolver::warm($contacts, $again);
        self::assertEqualsWithDelta($v, $again, 1e-6);
        self::assertSame(array_slice($v, 30, 6), [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]);
    }

    public function test_what_overlaps_is_pushed_apart_no_faster_than_is_said(): void
    {
        $contacts = new Contacts;
        self::touch($contacts, 0, 1, 1.0, 1.0, [1.0, 0.0, 0.0], -5.0);
        $v = array_fill(0, 18, 0.0);
        $gone = array_fill(0, 18, 0.0);
        for ($n = 0; $n < 50; $n++) {
            ContactSolver::solve($contacts, $v, $gone, 0.0, self::H, true);
        }
        $apart = $v[6] - $v[0];
        self::assertGreaterThan(50.0, $apart);
        self::assertLessThanOrEqual(150.0, $apart);
        // That speed is taken away again.
        for ($n = 0; $n < 50; $n++) {
            ContactSolver::solve($contacts, $v, $gone, 0.0, self::H, false);
        }
        self::assertEqualsWithDelta(0.0, $v[6] - $v[0], 1e-9);
    }

    public function test_a_bounce_gives_its_share_of_the_speed_back(): void
    {
        $contacts = new Contacts;
        self::touch($contacts, 0, 1, 2.0, 1.0, [1.0, 0.0, 0.0], 0.0);
        $contacts->speeds[0] = -300.0;
        $v = [200.0, 0.0, 0.0, 0.0, 0.0, 0.0, -100.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        $gone = array_fill(0, 18, 0.0);
        ContactSolver::solve($contacts, $v, $gone, 0.0, self::H, false);
        ContactSolver::restore($contacts, $v, 0.5);
        self::assertEqualsWithDelta(150.0, $v[6] - $v[0], 1e-9);
        self::assertEqualsWithDelta(300.0, 2 * $v[0] + $v[6], 1e-9);
    }
}
