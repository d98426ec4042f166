<?php

declare(strict_types=1);

namespace Tests\Support;

/** A step of every kind that a recipe may have, with every setting that it may have. */
final class Steps
{
    /** @return array<string, array<string, mixed>> */
    public static function all(): array
    {
        return [...self::cells(), ...self::mirrors(), ...self::cuts(), ...self::mends(), ...self::turns(), ...self::paints(), ...self::combined(), ...self::joined()];
    }

    /** @return array<string, array<string, mixed>> */
    public static function cells(): array
    {
        $cells = static fn (array $blade, array $more = []): array => ['do' => 'cut', 'blade' => ['kind' => 'cells', ...$blade], 'of' => ['*'], ...$more];

        return [
            'uniform' => $cells(['by' => 'uniform', 'count' => 12, 'seed' => 4], ['kerf' => 0.2, 'seal' => 'lean', 'smallest' => 0.01, 'apart' => true, 'wall_mm' => 0]),
            'even' => $cells(['by' => 'even', 'count' => 9, 'seed' => 5, 'stretch' => ['along' => [1, 0.5, 2], 'times' => 3]], ['seal' => 'even', 'edge_mm' => 2.5]),
            'gathered' => $cells(['by' => 'gathered', 'count' => 14, 'seed' => 6, 'places' => [[20, 0, 0], [-20, 1, 2]], 'falloff' => 8], ['wall_mm' => 1.2, 'apart' => false]),
            'points' => $cells(['by' => 'points', 'points' => [[0, 0, 0], [5, 1, 0], [0, 9, 2]]], ['seal' => 'open']),
            'blocks' => $cells(['by' => 'blocks', 'count' => [2, 3, 2], 'turned' => [0, 15, 30], 'brick' => true, 'wander' => 0.1, 'seed' => 3]),
            'blocks by size' => $cells(['by' => 'blocks', 'size' => [15, 20, 12.5], 'turned' => [0, 0, 0], 'brick' => false, 'wander' => 0, 'seed' => 1], ['kerf' => 0.4]),
            'rings' => $cells(['by' => 'rings', 'through' => [0, 0, 0], 'axis' => [0, 0, 1], 'rings' => 2, 'sectors' => 5, 'layers' => 2, 'wander' => 0.1, 'seed' => 2]),
            'chop' => $cells(['by' => 'chop', 'rounds' => 3, 'along' => [[1, 0, 0], [0, 1, 1]], 'shift' => 0.1, 'tilt' => 5, 'seed' => 8], ['smallest' => 0.02]),
        ];
    }

    /** @return array<string, array<string, mixed>> */
    public static function mirrors(): array
    {
        $plane = ['through' => [0, 0, 0], 'facing' => [1, 0, 0]];

        return [
            'mirror' => ['do' => 'mirror', 'planes' => [$plane], 'of' => ['*'], 'keep' => 'ahead', 'cut' => true, 'catch' => 0.2, 'gives' => 'one', 'band' => 'none', 'smooth' => 12],
            'two planes' => ['do' => 'mirror', 'planes' => [$plane, ['through' => [0, 1, 0], 'facing' => [0, 1, 0]]], 'of' => ['*'], 'keep' => 'behind', 'gives' => 'two'],
            'whole' => ['do' => 'mirror', 'planes' => [['through' => [40, 0, 0], 'facing' => [1, 0.1, 0]]], 'of' => ['*'], 'cut' => false, 'band' => 'smoothed', 'gives' => 'one'],
            'copies' => ['do' => 'mirror', 'copies' => ['through' => [60, 0, 0], 'axis' => [0, 0, 1], 'count' => 3], 'of' => ['*'], 'catch' => 0.1],
        ];
    }

    /** @return array<string, array<string, mixed>> */
    public static function cuts(): array
    {
        return [
            'cut' => ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0, 0.2, 1]], 'of' => ['*'], 'keep' => 'both', 'kerf' => 0.2, 'kerf_side' => 'ahead', 'seal' => 'even', 'edge_mm' => 3, 'catch' => 0.1],
            'rough' => ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0, 0.2, 1]], 'grain' => ['height' => 1.5, 'size' => 8, 'finer' => ['height' => 0.3, 'size' => 2], 'edge_mm' => 1.5, 'seed' => 7], 'of' => ['*'], 'keep' => 'both', 'kerf' => 0.4, 'kerf_side' => 'behind'],
            'rough series' => ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'stops' => [-9, 0, 9.5]], 'grain' => ['height' => 1, 'size' => 6, 'edge_mm' => 2, 'seed' => 7], 'of' => ['*'], 'kerf' => 0.4, 'kerf_side' => 'centre'],
            'faces' => ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0, 0, 1]], 'of' => ['*'], 'faces' => [0, 1, 2, 3]],
            'stops' => ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'stops' => [-9, 0, 9.5], 'wander' => ['shift' => 0.2, 'tilt' => 3, 'seed' => 2]], 'of' => ['*']],
            'steps' => ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'from' => -20, 'step' => 5, 'count' => 8], 'of' => ['*'], 'kerf' => 0.1],
            'parts' => ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [0, 1, 0], 'parts' => 4], 'of' => ['*'], 'seal' => 'open'],
            'drawn' => ['do' => 'cut', 'blade' => ['kind' => 'drawn', 'shape' => 'stroke', 'points' => [[-90, 0, 2], [0, 0, 6], [90, 0, -3]], 'along' => [0, 1, 0], 'smooth' => true], 'of' => ['*'], 'keep' => 'both', 'kerf' => 0.3],
            'outlines from an eye' => ['do' => 'cut', 'blade' => ['kind' => 'drawn', 'shape' => 'outline', 'lines' => [[[-9, -200, -9], [9, -200, -9], [9, -200, 9], [-9, -200, 9]], [[-2, -200, -2], [2, -200, -2], [0, -200, 2]]], 'eye' => [0, -400, 0]], 'of' => ['*']],
            'down to a depth' => ['do' => 'cut', 'blade' => ['kind' => 'drawn', 'shape' => 'outline', 'points' => [[12, -8, 12], [28, -8, 12], [28, 8, 12], [12, 8, 12]], 'along' => [0, 0, -1], 'depth_mm' => 9], 'of' => ['*'], 'keep' => 'ahead'],
            'grid' => ['do' => 'cut', 'blade' => ['kind' => 'drawn', 'shape' => 'grid', 'lines' => [[[-90, 0, 5], [90, 0, 5]], [[3, 0, -90], [2, 0, 90]]], 'along' => [0, 1, 0]], 'of' => ['*']],
            'bent' => ['do' => 'cut', 'blade' => ['kind' => 'bent', 'through' => [0, 0, 1], 'facing' => [0, 0, 1], 'along' => [0, 1, 0], 'profile' => [[-20, 0], [0, 4], [12, -3]], 'smooth' => false], 'of' => ['*'], 'keep' => 'behind'],
            'scored line' => ['do' => 'score', 'blade' => ['kind' => 'drawn', 'shape' => 'outline', 'points' => [[12, -8, 12], [28, -8, 12], [28, 8, 12], [12, 8, 12]], 'along' => [0, 0, -1]], 'of' => ['*'], 'seen' => true],
            'score' => ['do' => 'score', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 1], 'facing' => [0, 0, 1]], 'of' => ['*']],
        ];
    }

    /** @return array<string, array<string, mixed>> */
    public static function mends(): array
    {
        return [
            'mend' => ['do' => 'mend', 'of' => ['*']],
            'close' => ['do' => 'mend', 'of' => ['*'], 'only' => 'close', 'rims' => [0, 1]],
            'join' => ['do' => 'mend', 'of' => ['*'], 'only' => 'join', 'join_mm' => 0.05],
            'thicken' => ['do' => 'thicken', 'of' => ['*'], 'thickness_mm' => 1.5, 'side' => 'front'],
        ];
    }

    /** @return array<string, array<string, mixed>> */
    public static function turns(): array
    {
        return [
            'turn' => ['do' => 'turn', 'of' => ['*'], 'about' => [0, 0, 1], 'degrees' => 90, 'through' => 'centre'],
            'turn through a place' => ['do' => 'turn', 'of' => ['*'], 'about' => [1, 2, 0], 'degrees' => -33.5, 'through' => [4, 0, 1.5]],
            'move' => ['do' => 'move', 'of' => ['*'], 'by' => [10, -2.5, 0]],
            'scale' => ['do' => 'scale', 'of' => ['*'], 'times' => [2, 2, 0.5], 'through' => [0, 1, 0]],
            'settle' => ['do' => 'settle', 'of' => ['*'], 'movement' => ['isotome_movement' => 1, 'fps' => 25, 'frames' => 12, 'layers' => [['do' => 'spread', 'distance_mm' => 30, 'length' => 10], ['do' => 'drop', 'floor' => -40]]], 'frame' => 9],
            'lay' => ['do' => 'lay', 'of' => ['*'], 'on' => 'best'],
            'lay on a face' => ['do' => 'lay', 'of' => ['*'], 'on' => [0, 0.5, 1]],
            'stand' => ['do' => 'turn', 'of' => ['*'], 'face' => [0, 1, 0], 'towards' => [0, 0, -1]],
        ];
    }

    /** @return array<string, array<string, mixed>> */
    public static function paints(): array
    {
        return [
            'paint' => ['do' => 'paint', 'of' => ['*'], 'material' => 'painted clay', 'colour' => '#b06a44'],
            'picture' => ['do' => 'paint', 'of' => ['*'], 'material' => 'painted clay', 'picture' => 'stone', 'times' => 2.5],
        ];
    }

    /** @return array<string, array<string, mixed>> */
    public static function combined(): array
    {
        return [
            'unite' => ['do' => 'unite', 'of' => ['*']],
            'common' => ['do' => 'common', 'of' => ['*']],
            'subtract' => ['do' => 'subtract', 'of' => ['*'], 'with' => ['post'], 'gap_mm' => 0.2, 'spend' => false],
            'cut with a body' => ['do' => 'cut', 'blade' => ['kind' => 'body', 'with' => ['post']], 'of' => ['*'], 'keep' => 'behind', 'spend' => true],
        ];
    }

    /** @return array<string, array<string, mixed>> those that need pieces which share faces */
    public static function joined(): array
    {
        return [
            'pegs' => ['do' => 'pegs', 'of' => ['*'], 'reach_mm' => 1, 'style' => 'pin', 'shape' => 'hexagon', 'diameter_mm' => 4, 'length_mm' => 5, 'count' => 2, 'clearance_mm' => 0.2, 'taper_mm' => 0.5, 'rim_mm' => 1, 'wall_mm' => 1, 'degrees' => 15, 'one_way' => true, 'shorten' => false, 'swap' => true, 'at' => [[0, 0, 0]]],
            'mark' => ['do' => 'mark', 'of' => ['*'], 'reach_mm' => 1, 'first' => 7, 'arrow' => false, 'raised' => true, 'size_mm' => 6, 'depth_mm' => 0.8, 'clearance_mm' => 0.2, 'rim_mm' => 1, 'wall_mm' => 1],
            'pegs between two' => ['do' => 'pegs', 'between' => ['mill-A', 'mill-B*'], 'style' => 'dowel'],
        ];
    }
}
