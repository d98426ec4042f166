<?php

declare(strict_types=1);

namespace App\Printing;

use App\Models\PlatePrint;

/**
 * A stand-in for a printer: it takes plates one after the other and prints each in the time that was estimated, only many times as fast. Nothing runs: how far it has come follows from the clock and from what it was given, so it goes on
 * whatever is killed or started meanwhile.
 */
final class SimulatedPrinter
{
    /**
     * @param  iterable<PlatePrint>  $prints  of one project, in the order in which they were given
     * @param  float  $now  seconds since 1970
     * @return list<array{id: int, title: string, printer: string, state: string, share: float, layer: int, layers: int, seconds: float, grams: float, left: float}> state is waiting, printing, done or stopped; left is in seconds of the clock
     */
    public static function state(iterable $prints, float $now): array
    {
        $told = [];
        $free = 0.0;
        foreach ($prints as $print) {
            $begin = max($free, $print->asked_at);
            $end = $begin + $print->seconds / $print->times;
            $until = min($end, $print->stopped_at ?? INF);
            // What was stopped while it waited took no time.
            $free = max($begin, $until);
            $at = min(max(0.0, min($now, $until) - $begin) * $print->times, $print->seconds);
            $isStopped = $print->stopped_at !== null && $print->stopped_at < $end;
            $layer = 0;
            foreach ($print->layers as $second) {
                $layer += $second <= $at + 1e-6 ? 1 : 0;
            }
            $told[] = [
                'id' => $print->id, 'title' => $print->title, 'printer' => $print->printer,
                'state' => $isStopped ? 'stopped' : ($now >= $end ? 'done' : ($now >= $begin ? 'printing' : 'waiting')),
                'share' => $print->seconds > 0.0 ? $at / $print->seconds : 1.0, 'layer' => $layer, 'layers' => count($print->layers), 'seconds' => $print->seconds, 'grams' => $print->grams,
                'left' => $isStopped ? 0.0 : max(0.0, $end - max($now, $print->asked_at)),
            ];
        }

        return $told;
    }
}
