<?php

declare(strict_types=1);

namespace Demo;

use Isotome\Format\Rounded;
use Isotome\Mesh\Mesh;

/** Letters for the museum's sign: a sheet without thickness, and the steps that cut the letters out of it and give them one. */
final class SignLettering
{
    /** Millimetres of a letter's unit; letters are six high. */
    private const UNIT = 8.0;

    private const LETTERS = [
        'M' => [[[0, 0], [1, 0], [1, 4], [2, 2.5], [3, 4], [3, 0], [4, 0], [4, 6], [3, 6], [2, 4.5], [1, 6], [0, 6]]],
        'I' => [[[0, 0], [1, 0], [1, 6], [0, 6]]],
        'L' => [[[0, 0], [3.5, 0], [3.5, 1], [1, 1], [1, 6], [0, 6]]],
        'R' => [[[0, 0], [1, 0], [1, 2.5], [1.8, 2.5], [3, 0], [4, 0], [2.8, 2.6], [4, 3.3], [4, 5.2], [3.2, 6], [0, 6]], [[1, 3.5], [3, 3.5], [3, 5], [1, 5]]],
        'A' => [[[0, 0], [1, 0], [1.35, 1.2], [2.65, 1.2], [3, 0], [4, 0], [2.5, 6], [1.5, 6]], [[1.6, 2.2], [2.4, 2.2], [2, 3.8]]],
        'C' => [[[0.8, 0], [3.2, 0], [4, 0.8], [4, 2], [3, 2], [3, 1], [1, 1], [1, 5], [3, 5], [3, 4], [4, 4], [4, 5.2], [3.2, 6], [0.8, 6], [0, 5.2], [0, 0.8]]],
        'E' => [[[0, 0], [3.5, 0], [3.5, 1], [1, 1], [1, 2.5], [3, 2.5], [3, 3.5], [1, 3.5], [1, 5], [3.5, 5], [3.5, 6], [0, 6]]],
    ];

    /** 300 mm by 72 mm, in the plane y = 0. */
    public static function mesh(): Mesh
    {
        return Rounded::of(Extrusion::mesh([[[-150.0, -36.0], [150.0, -36.0], [150.0, 36.0], [-150.0, 36.0]]], null));
    }

    /** @return list<array<string, mixed>> */
    public static function steps(): array
    {
        return [
            ['do' => 'cut', 'blade' => ['kind' => 'drawn', 'shape' => 'outline', 'along' => [0, 1, 0], 'lines' => self::outlines('MILLRACE')], 'of' => ['*'], 'keep' => 'behind'],
            ['do' => 'thicken', 'of' => ['*'], 'thickness_mm' => 4],
        ];
    }

    /** @return list<list<array{float, float, float}>> seen from the front (from −y), their middle at the origin */
    private static function outlines(string $word): array
    {
        $letters = array_map(static fn (string $letter): array => self::LETTERS[$letter] ?? [], str_split($word));
        $wide = array_map(static fn (array $outlines): float => (float) max([0, ...array_column(array_merge(...$outlines), 0)]), $letters);
        $at = -(array_sum($wide) + count($letters) - 1) / 2;
        $placed = [];
        foreach ($letters as $n => $outlines) {
            foreach ($outlines as $outline) {
                $places = [];
                foreach ($outline as [$u, $v]) {
                    $places[] = [self::UNIT * ($at + $u), 0.0, self::UNIT * ($v - 3.0)];
                }
                $placed[] = $places;
            }
            $at += $wide[$n] + 1;
        }

        return $placed;
    }
}
