<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Plane;
use Isotome\Cut\Seal;
use Isotome\Cut\Series;
use Isotome\Cut\Wander;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Format\Units;
use Isotome\Mend\SingleMend;

/** Version 1 of the recipe: steps in order. Every part is validated; a message names the part's place in the document. */
final readonly class Recipe
{
    public const LARGEST_BYTES = 1_000_000;

    private const MOST_STEPS = 1000;

    /** @param  list<Step>  $steps */
    private function __construct(
        public Units $units,
        public array $steps,
    ) {
    }

    /** @throws BadRecipe */
    public static function fromJson(string $json): self
    {
        if (strlen($json) > self::LARGEST_BYTES) {
            throw new BadRecipe('The recipe is longer than 1 MB; a recipe of steps is far shorter, so check that this is the right file.');
        }
        $document = json_decode($json, true, 16);
        if (! is_array($document)) {
            throw new BadRecipe('The recipe is not a JSON object ('.json_last_error_msg().'); check it with a JSON validator.');
        }

        return self::fromArray($document);
    }

    /**
     * @param  array<mixed>  $document
     *
     * @throws BadRecipe
     */
    public static function fromArray(array $document): self
    {
        Reading::onlyKeys($document, ['isotome_recipe', 'units', 'steps'], 'the recipe');
        if (($document['isotome_recipe'] ?? null) !== 1) {
            throw new BadRecipe('isotome_recipe is not 1; this program reads version 1 recipes, so write "isotome_recipe": 1.');
        }
        $units = Reading::choice(Units::class, $document['units'] ?? 'mm', 'units');
        $steps = $document['steps'] ?? null;
        if (! is_array($steps) || ! array_is_list($steps) || $steps === []) {
            throw new BadRecipe('steps is not a list with at least one step; add one, such as {"do": "cut", …}.');
        }
        if (count($steps) > self::MOST_STEPS) {
            throw new BadRecipe('steps has '.count($steps).' entries; at most '.self::MOST_STEPS.' are run at once, so divide the recipe.');
        }
        $read = [];
        foreach ($steps as $i => $step) {
            $read[] = self::step($step, "steps[$i]", $units->millimetres());
        }

        return new self($units, $read);
    }

    private static function step(mixed $step, string $at, float $scale): Step
    {
        if (! is_array($step)) {
            throw new BadRecipe("$at is not an object; write it as {\"do\": \"cut\", …}.");
        }
        $do = $step['do'] ?? null;
        if ($do === 'mend') {
            return self::mend($step, $at);
        }
        if ($do === 'thicken') {
            return self::thicken($step, $at);
        }
        if ($do === 'mirror') {
            return ReadMirror::step($step, $at, $scale);
        }
        if ($do !== 'cut' && $do !== 'score') {
            throw new BadRecipe("$at.do is ".Reading::shown($do).'; this version can do "cut", "score", "mirror", "mend" and "thicken".');
        }
        $isScore = $do === 'score';
        $blade = $step['blade'] ?? null;
        if (! is_array($blade)) {
            throw new BadRecipe("$at.blade is missing; write {\"kind\": \"flat\", \"through\": [x, y, z], \"facing\": [x, y, z]}.");
        }
        $kind = $blade['kind'] ?? null;
        if ($kind === 'cells' && ! $isScore) {
            return ReadCells::step($step, $blade, $at, $scale);
        }
        Reading::onlyKeys($step, $isScore ? ['do', 'blade', 'of', 'faces'] : ['do', 'blade', 'of', 'keep', 'kerf', 'kerf_side', 'seal', 'edge_mm', 'catch', 'faces'], $at);
        if ($kind !== 'flat' && $kind !== 'series') {
            throw new BadRecipe("$at.blade.kind is ".Reading::shown($kind).'; this version knows "flat", "series" and "cells".');
        }
        $facing = Reading::triple($blade['facing'] ?? null, "$at.blade.facing");
        $through = [0.0, 0.0, 0.0];
        $series = $seriesAs = null;
        try {
            if ($kind === 'flat') {
                Reading::onlyKeys($blade, ['kind', 'through', 'facing'], "$at.blade");
                $through = array_map(static fn (float $c): float => $c * $scale, Reading::triple($blade['through'] ?? null, "$at.blade.through"));
                $plane = Plane::through($through, $facing);
            } else {
                if ($isScore) {
                    throw new BadRecipe("$at.blade.kind is \"series\"; a score takes one flat blade, so write a step for each.");
                }
                [$series, $seriesAs] = self::series($blade, $facing, "$at.blade", $scale);
                $plane = Plane::at($series->stops[0] ?? 0.0, $facing);
            }
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.blade: ".$refusal->getMessage());
        }
        $faces = isset($step['faces']) ? Reading::faces($step['faces'], "$at.faces") : null;
        if ($faces !== null && $series !== null) {
            throw new BadRecipe("$at.faces stands beside a series; picked faces go with a flat blade only.");
        }
        $kerf = Reading::notNegative($step['kerf'] ?? 0, "$at.kerf", 'the width of material to remove') * $scale;
        $edge = isset($step['edge_mm']) ? Reading::number($step['edge_mm'], "$at.edge_mm") : null;
        if ($edge !== null && $edge <= 0.0) {
            throw new BadRecipe("$at.edge_mm is not more than 0; give the edge length of the even seal in millimetres, or leave it out.");
        }
        if (($series->wander ?? null) !== null && ($step['keep'] ?? 'both') !== 'both') {
            throw new BadRecipe("$at.keep is ".Reading::shown($step['keep'] ?? null).'; blades that wander keep both sides, so write "both".');
        }
        if ($series !== null && $kerf >= $series->gap()) {
            throw new BadRecipe(sprintf('%s.kerf is %g mm and the stops are only %g mm apart; make it smaller.', $at, $kerf, $series->gap()));
        }

        return new CutStep(
            new FlatBlade(
                $plane,
                Reading::choice(Keep::class, $step['keep'] ?? 'both', "$at.keep"),
                Reading::choice(Seal::class, $step['seal'] ?? 'lean', "$at.seal"),
                $kerf,
                Reading::choice(KerfSide::class, $step['kerf_side'] ?? 'centre', "$at.kerf_side"),
                Reading::notNegative($step['catch'] ?? 0, "$at.catch", 'the distance within which vertices are taken onto the blade') * $scale,
                $edge,
            ),
            Reading::names($step['of'] ?? ['*'], "$at.of"),
            $through,
            $facing,
            $series,
            $seriesAs,
            $isScore,
            $faces,
        );
    }

    /** @param  array<mixed>  $step */
    private static function mend(array $step, string $at): MendStep
    {
        Reading::onlyKeys($step, ['do', 'of', 'only', 'rims', 'join_mm'], $at);
        $only = $step['only'] ?? null;
        if ($only !== null && ! in_array($only, SingleMend::KINDS, true)) {
            throw new BadRecipe("$at.only is ".Reading::shown($only).'; choose one of '.implode(', ', SingleMend::KINDS).', or leave it out for the whole sequence.');
        }
        if (isset($step['rims']) && $only !== 'close') {
            throw new BadRecipe("$at.rims stands without \"only\": \"close\"; rims are named for closing only.");
        }
        if (isset($step['join_mm']) && $only !== 'join') {
            throw new BadRecipe("$at.join_mm stands without \"only\": \"join\"; the distance is for joining only.");
        }
        $join = isset($step['join_mm']) ? Reading::notNegative($step['join_mm'], "$at.join_mm", 'the distance within which vertices are joined') : null;

        return new MendStep(Reading::names($step['of'] ?? ['*'], "$at.of"), $only, isset($step['rims']) ? Reading::faces($step['rims'], "$at.rims", 'rim') : null, $join);
    }

    /** @param  array<mixed>  $step */
    private static function thicken(array $step, string $at): ThickenStep
    {
        Reading::onlyKeys($step, ['do', 'of', 'thickness_mm', 'side'], $at);
        $thickness = Reading::number($step['thickness_mm'] ?? null, "$at.thickness_mm");
        if ($thickness <= 0.0) {
            throw new BadRecipe("$at.thickness_mm is not more than 0; give the sheet's thickness in millimetres.");
        }
        $side = $step['side'] ?? 'both';
        if (! in_array($side, ['both', 'front', 'back'], true)) {
            throw new BadRecipe("$at.side is ".Reading::shown($side).'; choose one of both, front, back.');
        }

        return new ThickenStep(Reading::names($step['of'] ?? ['*'], "$at.of"), $thickness, $side);
    }

    /**
     * @param  array<mixed>  $blade
     * @param  array{float, float, float}  $facing
     * @return array{Series, array<string, mixed>} and how it is written, in millimetres
     */
    private static function series(array $blade, array $facing, string $at, float $scale): array
    {
        if (! array_key_exists('wander', $blade)) {
            return self::stops($blade, $facing, $at, $scale);
        }
        $wander = $blade['wander'];
        if (! is_array($wander)) {
            throw new BadRecipe("$at.wander is ".Reading::shown($wander).'; write {"shift": 0.02, "tilt": 5, "seed": 1}.');
        }
        Reading::onlyKeys($wander, ['shift', 'tilt', 'seed'], "$at.wander");
        $wandering = new Wander(
            Reading::number($wander['shift'] ?? 0, "$at.wander.shift"), Reading::number($wander['tilt'] ?? 0, "$at.wander.tilt"), Reading::seed($wander['seed'] ?? 1, "$at.wander.seed"),
        );
        unset($blade['wander']);
        [$series, $as] = self::stops($blade, $facing, $at, $scale);

        return [$series->wandering($wandering), [...$as, 'wander' => ['shift' => $wandering->shift, 'tilt' => $wandering->tilt, 'seed' => $wandering->seed]]];
    }

    /**
     * @param  array<mixed>  $blade
     * @param  array{float, float, float}  $facing
     * @return array{Series, array<string, mixed>}
     */
    private static function stops(array $blade, array $facing, string $at, float $scale): array
    {
        if (array_key_exists('parts', $blade)) {
            Reading::onlyKeys($blade, ['kind', 'facing', 'parts'], $at);
            $parts = Reading::whole($blade['parts'], "$at.parts");

            return [Series::parts($facing, $parts), ['kind' => 'series', 'facing' => $facing, 'parts' => $parts]];
        }
        if (array_key_exists('step', $blade) || array_key_exists('count', $blade)) {
            Reading::onlyKeys($blade, ['kind', 'facing', 'from', 'step', 'count'], $at);
            $from = Reading::number($blade['from'] ?? null, "$at.from") * $scale;
            $step = Reading::number($blade['step'] ?? null, "$at.step") * $scale;
            $count = Reading::whole($blade['count'] ?? null, "$at.count");

            return [Series::steps($facing, $from, $step, $count), ['kind' => 'series', 'facing' => $facing, 'from' => $from, 'step' => $step, 'count' => $count]];
        }
        Reading::onlyKeys($blade, ['kind', 'facing', 'stops'], $at);
        $stops = $blade['stops'] ?? null;
        if (! is_array($stops) || ! array_is_list($stops) || $stops === []) {
            throw new BadRecipe("$at.stops is ".Reading::shown($stops).'; give a list of distances along the facing, or "from", "step" and "count", or "parts".');
        }
        if (count($stops) > Series::MOST) {
            throw new BadRecipe("$at.stops has ".count($stops).' entries; give at most '.Series::MOST.'.');
        }
        $read = [];
        foreach ($stops as $i => $stop) {
            $read[] = Reading::number($stop, "$at.stops[$i]") * $scale;
        }

        return [Series::at($facing, $read), ['kind' => 'series', 'facing' => $facing, 'stops' => $read]];
    }
}
