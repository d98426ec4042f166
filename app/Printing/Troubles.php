<?php

declare(strict_types=1);

namespace App\Printing;

use Isotome\Operation\Names;

/** Why the simulated printer refuses a plate, in a sentence. */
final class Troubles
{
    /** @param  array{what: string, pieces: list<string>, at: array{float, float, float}, mm: float}  $trouble */
    public static function sentence(array $trouble): string
    {
        $names = implode(' and ', array_map(Names::title(...), $trouble['pieces']));
        $mm = number_format($trouble['mm'], 1);
        $at = sprintf('(%.1f, %.1f, %.1f)', ...$trouble['at']);

        return match ($trouble['what']) {
            'beyond' => "$names reaches $mm mm beyond the printer’s space; move it, or lay it down otherwise.",
            'near' => $trouble['mm'] > 0.0 ? "$names are only $mm mm apart; move one of them." : "$names touch or overlap; move one of them.",
            'open' => "$names is not watertight; mend it first.",
            'air' => "$names begins in the air at $at; lay it down otherwise, or print it with supports.",
            default => "$names is thinner than the nozzle over $mm mm at $at; thicken it, or take a finer nozzle.",
        };
    }
}
