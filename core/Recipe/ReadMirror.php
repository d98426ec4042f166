<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Cut\Plane;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Mirror\Band;
use Isotome\Mirror\Copies;
use Isotome\Mirror\Gives;
use Isotome\Mirror\MirrorSettings;

/** Reads a mirror step. */
final class ReadMirror
{
    /**
     * @param  array<mixed>  $step
     * @param  float  $scale  millimetres a unit
     *
     * @throws BadRecipe
     */
    public static function step(array $step, string $at, float $scale): MirrorStep
    {
        $of = Reading::names($step['of'] ?? ['*'], "$at.of");
        $catch = Reading::notNegative($step['catch'] ?? 0, "$at.catch", 'the distance within which vertices are taken onto the plane') * $scale;
        if (isset($step['copies'])) {
            return self::copies($step, $at, $of, $catch, $scale);
        }
        Reading::onlyKeys($step, ['do', 'planes', 'of', 'keep', 'cut', 'catch', 'gives', 'band', 'smooth'], $at);
        $planes = $step['planes'] ?? null;
        if (! is_array($planes) || ! array_is_list($planes) || $planes === [] || count($planes) > 3) {
            throw new BadRecipe("$at.planes is ".Reading::shown($planes).'; give one to three, [{"through": [x, y, z], "facing": [x, y, z]}].');
        }
        $read = $as = [];
        foreach ($planes as $i => $plane) {
            if (! is_array($plane)) {
                throw new BadRecipe("$at.planes[$i] is ".Reading::shown($plane).'; write {"through": [x, y, z], "facing": [x, y, z]}.');
            }
            Reading::onlyKeys($plane, ['through', 'facing'], "$at.planes[$i]");
            $through = Reading::triple($plane['through'] ?? null, "$at.planes[$i].through");
            $through = [$through[0] * $scale, $through[1] * $scale, $through[2] * $scale];
            $facing = Reading::triple($plane['facing'] ?? null, "$at.planes[$i].facing");
            try {
                $read[] = Plane::through($through, $facing);
            } catch (BadBlade $refusal) {
                throw new BadRecipe("$at.planes[$i]: ".$refusal->getMessage());
            }
            $as[] = ['through' => $through, 'facing' => $facing];
        }
        $keep = $step['keep'] ?? 'behind';
        if ($keep !== 'ahead' && $keep !== 'behind') {
            throw new BadRecipe("$at.keep is ".Reading::shown($keep).'; choose one of ahead, behind.');
        }
        $cut = $step['cut'] ?? true;
        if (! is_bool($cut)) {
            throw new BadRecipe("$at.cut is ".Reading::shown($cut).'; give true or false.');
        }
        try {
            $settings = new MirrorSettings(
                $read, $keep === 'ahead', $cut, $catch, Reading::choice(Gives::class, $step['gives'] ?? 'one', "$at.gives"), Reading::choice(Band::class, $step['band'] ?? 'none', "$at.band"),
                Reading::notNegative($step['smooth'] ?? 0, "$at.smooth", 'the kink in degrees below which the seam is smoothed'),
            );
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at: ".$refusal->getMessage());
        }

        return new MirrorStep($settings, null, $of, $as);
    }

    /**
     * @param  array<mixed>  $step
     * @param  list<string>  $of
     */
    private static function copies(array $step, string $at, array $of, float $catch, float $scale): MirrorStep
    {
        Reading::onlyKeys($step, ['do', 'copies', 'of', 'catch'], $at);
        $copies = $step['copies'];
        if (! is_array($copies)) {
            throw new BadRecipe("$at.copies is ".Reading::shown($copies).'; write {"through": [x, y, z], "axis": [x, y, z], "count": 6}.');
        }
        Reading::onlyKeys($copies, ['through', 'axis', 'count'], "$at.copies");
        $through = Reading::triple($copies['through'] ?? [0, 0, 0], "$at.copies.through");
        $axis = Reading::triple($copies['axis'] ?? null, "$at.copies.axis");
        $count = Reading::whole($copies['count'] ?? null, "$at.copies.count");
        if ($count < 2 || $count > Copies::MOST || ($axis[0] == 0.0 && $axis[1] == 0.0 && $axis[2] == 0.0)) {
            throw new BadRecipe("$at.copies has $count copies about ".Reading::shown($axis).'; give 2 to '.Copies::MOST.' and an axis that is not 0, 0, 0.');
        }

        return new MirrorStep(null, ['through' => [$through[0] * $scale, $through[1] * $scale, $through[2] * $scale], 'axis' => $axis, 'count' => $count, 'weld' => $catch], $of);
    }
}
