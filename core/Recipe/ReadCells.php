<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Cells\CellsBlade;
use Isotome\Cells\ShatterSettings;
use Isotome\Cells\Sites;
use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;

/** Reads a cut with a cells blade. */
final class ReadCells
{
    private const BLADES = [
        'uniform' => ['count', 'seed', 'stretch'],
        'even' => ['count', 'seed', 'stretch'],
        'gathered' => ['count', 'seed', 'places', 'falloff', 'stretch'],
        'points' => ['points', 'stretch'],
        'blocks' => ['count', 'size', 'turned', 'brick', 'wander', 'seed'],
        'rings' => ['through', 'axis', 'rings', 'sectors', 'layers', 'wander', 'seed'],
        'chop' => ['rounds', 'along', 'shift', 'tilt', 'seed'],
    ];

    private const MOST_PLACES = 100;

    /**
     * @param  array<mixed>  $step
     * @param  array<mixed>  $blade
     * @param  float  $scale  millimetres a unit
     *
     * @throws BadRecipe
     */
    public static function step(array $step, array $blade, string $at, float $scale): CellsStep
    {
        Reading::onlyKeys($step, ['do', 'blade', 'of', 'kerf', 'seal', 'edge_mm', 'smallest', 'apart', 'wall_mm'], $at);
        $edge = isset($step['edge_mm']) ? Reading::number($step['edge_mm'], "$at.edge_mm") : null;
        if ($edge !== null && $edge <= 0.0) {
            throw new BadRecipe("$at.edge_mm is not more than 0; give the edge length of the even seal in millimetres, or leave it out.");
        }
        $apart = $step['apart'] ?? true;
        if (! is_bool($apart)) {
            throw new BadRecipe("$at.apart is ".Reading::shown($apart).'; give true for a piece for every connected body, or false.');
        }
        try {
            $settings = new ShatterSettings(
                Reading::notNegative($step['kerf'] ?? 0, "$at.kerf", 'the width to take out between pieces') * $scale,
                Reading::choice(Seal::class, $step['seal'] ?? 'lean', "$at.seal"),
                $edge,
                Reading::notNegative($step['smallest'] ?? 0, "$at.smallest", 'the smallest piece as a share of the volume'),
                $apart,
                Reading::notNegative($step['wall_mm'] ?? 0, "$at.wall_mm", 'the wall of hollow pieces in millimetres'),
            );
            [$cells, $as] = self::blade($blade, "$at.blade", $scale);
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.blade: ".$refusal->getMessage());
        }

        return new CellsStep($cells, $settings, Reading::names($step['of'] ?? ['*'], "$at.of"), $as);
    }

    /**
     * @param  array<mixed>  $blade
     * @return array{CellsBlade|null, array<string, mixed>}
     */
    private static function blade(array $blade, string $at, float $scale): array
    {
        $by = $blade['by'] ?? null;
        if (! is_string($by) || ! isset(self::BLADES[$by])) {
            throw new BadRecipe("$at.by is ".Reading::shown($by).'; choose one of '.implode(', ', array_keys(self::BLADES)).'.');
        }
        Reading::onlyKeys($blade, ['kind', 'by', ...self::BLADES[$by]], $at);
        $as = ['kind' => 'cells', 'by' => $by];
        $seed = Reading::seed($blade['seed'] ?? 1, "$at.seed");

        return match ($by) {
            'blocks' => self::blocks($blade, $at, $as, $seed, $scale),
            'rings' => self::rings($blade, $at, $as, $seed, $scale),
            'chop' => self::chop($blade, $at, $as, $seed),
            default => self::sites($blade, $at, $as, $by, $seed, $scale),
        };
    }

    /**
     * @param  array<mixed>  $blade
     * @param  array<string, mixed>  $as
     * @return array{CellsBlade, array<string, mixed>}
     */
    private static function sites(array $blade, string $at, array $as, string $by, int $seed, float $scale): array
    {
        $stretch = $blade['stretch'] ?? null;
        $along = null;
        $times = 1.0;
        if ($stretch !== null) {
            if (! is_array($stretch)) {
                throw new BadRecipe("$at.stretch is ".Reading::shown($stretch).'; write {"along": [x, y, z], "times": 3}.');
            }
            Reading::onlyKeys($stretch, ['along', 'times'], "$at.stretch");
            $along = Reading::triple($stretch['along'] ?? null, "$at.stretch.along");
            $times = Reading::number($stretch['times'] ?? null, "$at.stretch.times");
        }
        $count = 0;
        $places = $points = [];
        $falloff = 0.0;
        if ($by === 'points') {
            $points = self::places($blade['points'] ?? null, "$at.points", 2, Sites::MOST, $scale);
            $as['points'] = $points;
        } else {
            $as += ['count' => $count = Reading::whole($blade['count'] ?? null, "$at.count"), 'seed' => $seed];
            if ($count < 2 || $count > Sites::MOST) {
                throw new BadRecipe("$at.count is $count; give 2 to ".Sites::MOST.'.');
            }
        }
        if ($by === 'gathered') {
            $places = self::places($blade['places'] ?? null, "$at.places", 1, self::MOST_PLACES, $scale);
            $falloff = Reading::number($blade['falloff'] ?? null, "$at.falloff") * $scale;
            if ($falloff <= 0.0) {
                throw new BadRecipe("$at.falloff is not more than 0; give the distance within which most pieces gather.");
            }
            $as += ['places' => $places, 'falloff' => $falloff];
        }
        if ($along !== null) {
            $as['stretch'] = ['along' => $along, 'times' => $times];
        }

        return [new CellsBlade($by, $count, $seed, $places, $falloff, array_merge(...$points ?: [[]]), $along, $times), $as];
    }

    /**
     * @param  array<mixed>  $blade
     * @param  array<string, mixed>  $as
     * @return array{CellsBlade, array<string, mixed>}
     */
    private static function blocks(array $blade, string $at, array $as, int $seed, float $scale): array
    {
        if (isset($blade['count']) === isset($blade['size'])) {
            throw new BadRecipe("$at has ".(isset($blade['count']) ? 'both count and size' : 'neither count nor size').'; give one of them, three numbers each.');
        }
        $count = $size = null;
        if (isset($blade['count'])) {
            $given = $blade['count'];
            if (! is_array($given) || ! array_is_list($given) || count($given) !== 3) {
                throw new BadRecipe("$at.count is ".Reading::shown($given).'; give three whole numbers, [x, y, z].');
            }
            $count = [Reading::whole($given[0], "$at.count[0]"), Reading::whole($given[1], "$at.count[1]"), Reading::whole($given[2], "$at.count[2]")];
            $as['count'] = $count;
        } else {
            $size = self::scaled(Reading::triple($blade['size'] ?? null, "$at.size"), $scale);
            $as['size'] = $size;
        }
        $turned = Reading::triple($blade['turned'] ?? [0, 0, 0], "$at.turned");
        $brick = $blade['brick'] ?? false;
        if (! is_bool($brick)) {
            throw new BadRecipe("$at.brick is ".Reading::shown($brick).'; give true or false.');
        }
        $wander = self::wander($blade, $at);

        return [
            new CellsBlade('blocks', seed: $seed, blocks: $count, size: $size, turned: $turned, brick: $brick, wander: $wander),
            $as + ['turned' => $turned, 'brick' => $brick, 'wander' => $wander, 'seed' => $seed],
        ];
    }

    /**
     * @param  array<mixed>  $blade
     * @param  array<string, mixed>  $as
     * @return array{CellsBlade, array<string, mixed>}
     */
    private static function rings(array $blade, string $at, array $as, int $seed, float $scale): array
    {
        $through = isset($blade['through']) ? self::scaled(Reading::triple($blade['through'], "$at.through"), $scale) : null;
        $axis = Reading::triple($blade['axis'] ?? [0, 0, 1], "$at.axis");
        $rings = Reading::whole($blade['rings'] ?? 1, "$at.rings");
        $sectors = Reading::whole($blade['sectors'] ?? 1, "$at.sectors");
        $layers = Reading::whole($blade['layers'] ?? 1, "$at.layers");
        if ($rings < 1 || $sectors < 1 || $layers < 1) {
            throw new BadRecipe("$at has $rings rings, $sectors sectors and $layers layers; give 1 or more of each.");
        }
        $wander = self::wander($blade, $at);

        return [
            new CellsBlade('rings', seed: $seed, wander: $wander, through: $through, axis: $axis, rings: $rings, sectors: $sectors, layers: $layers),
            $as + ($through === null ? [] : ['through' => $through]) + ['axis' => $axis, 'rings' => $rings, 'sectors' => $sectors, 'layers' => $layers, 'wander' => $wander, 'seed' => $seed],
        ];
    }

    /**
     * @param  array<mixed>  $blade
     * @param  array<string, mixed>  $as
     * @return array{null, array<string, mixed>}
     */
    private static function chop(array $blade, string $at, array $as, int $seed): array
    {
        $along = $blade['along'] ?? [[1, 0, 0], [0, 1, 0], [0, 0, 1]];
        if (! is_array($along) || ! array_is_list($along) || $along === [] || count($along) > 12) {
            throw new BadRecipe("$at.along is ".Reading::shown($along).'; give a list of directions, [[1, 0, 0], …].');
        }
        $directions = [];
        foreach ($along as $i => $direction) {
            $directions[] = $one = Reading::triple($direction, "$at.along[$i]");
            if ($one[0] == 0.0 && $one[1] == 0.0 && $one[2] == 0.0) {
                throw new BadRecipe("$at.along[$i] is 0, 0, 0; give a direction with a number that is not zero.");
            }
        }
        $rounds = Reading::whole($blade['rounds'] ?? null, "$at.rounds");
        if ($rounds < 1 || $rounds > \Isotome\Cells\Chop::MOST_ROUNDS) {
            throw new BadRecipe("$at.rounds is $rounds; give 1 to ".\Isotome\Cells\Chop::MOST_ROUNDS.'.');
        }
        $shift = Reading::notNegative($blade['shift'] ?? 0, "$at.shift", 'the share of the extent by which cuts leave the middle');
        $tilt = Reading::notNegative($blade['tilt'] ?? 0, "$at.tilt", 'the degrees by which cuts lean');
        if ($shift > 0.4 || $tilt > 45.0) {
            throw new BadRecipe("$at has a shift of $shift and a tilt of $tilt; give 0 to 0.4 and 0 to 45.");
        }

        return [null, $as + ['rounds' => $rounds, 'along' => $directions, 'shift' => $shift, 'tilt' => $tilt, 'seed' => $seed]];
    }

    /** @param  array<mixed>  $blade */
    private static function wander(array $blade, string $at): float
    {
        $wander = Reading::notNegative($blade['wander'] ?? 0, "$at.wander", 'a share from 0 to 0.45');
        if ($wander > 0.45) {
            throw new BadRecipe("$at.wander is $wander; give 0 to 0.45.");
        }

        return $wander;
    }

    /** @return list<array{float, float, float}> */
    private static function places(mixed $value, string $at, int $least, int $most, float $scale): array
    {
        if (! is_array($value) || ! array_is_list($value) || count($value) < $least || count($value) > $most) {
            throw new BadRecipe("$at is ".Reading::shown($value)."; give $least to $most places, [[x, y, z], …].");
        }
        $places = [];
        foreach ($value as $i => $place) {
            $places[] = self::scaled(Reading::triple($place, "{$at}[$i]"), $scale);
        }

        return $places;
    }

    /**
     * @param  array{float, float, float}  $place
     * @return array{float, float, float}
     */
    private static function scaled(array $place, float $scale): array
    {
        return [$place[0] * $scale, $place[1] * $scale, $place[2] * $scale];
    }
}
