<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Isotome\Geometry\Zero;
use Isotome\Plan\Alternative;
use Isotome\Plan\Fitting;
use Isotome\Plan\Made;

/** The cuts of a plan as steps of a recipe, and the names that its pieces get. */
final class PlannedCuts
{
    /**
     * @param  string  $stock  the name of what is cut
     * @param  float  $gap  that every cut removes, mm
     * @return list<array<string, mixed>> steps; none when it fits as it is
     */
    public static function steps(Alternative $alternative, string $stock, float $gap): array
    {
        return array_map(static fn (Made $made): array => [
            'do' => 'cut',
            'blade' => ['kind' => 'flat', 'through' => array_map(Zero::plain(...), $made->cut->through()), 'facing' => array_map(Zero::plain(...), $made->cut->facing)],
            'of' => [self::name($stock, $made->path)],
            'kerf' => $gap,
        ], $alternative->cuts);
    }

    /** @return list<array{of: string, through: array{float, float, float}, facing: array{float, float, float}, outlines: list<list<array{float, float, float}>>}> the cuts with the outlines of their sections */
    public static function drawn(Alternative $alternative, string $stock): array
    {
        return array_map(static fn (Made $made): array => ['of' => self::name($stock, $made->path), 'through' => $made->cut->through(), 'facing' => $made->cut->facing, 'outlines' => $made->outlines], $alternative->cuts);
    }

    /** @return list<array{name: string, size_mm: array{float, float, float}, volume_mm3: float, over_mm: float, turn: array{axis: array{float, float, float}, degrees: float}}> */
    public static function pieces(Alternative $alternative, string $stock): array
    {
        return array_map(static function (Fitting $piece) use ($stock): array {
            $angle = sqrt($piece->vector[0] ** 2 + $piece->vector[1] ** 2 + $piece->vector[2] ** 2);

            return [
                'name' => self::name($stock, $piece->path),
                'size_mm' => $piece->size,
                'volume_mm3' => $piece->volume,
                'over_mm' => $piece->over,
                'turn' => ['axis' => $angle > 0.0 ? [$piece->vector[0] / $angle, $piece->vector[1] / $angle, $piece->vector[2] / $angle] : [0.0, 0.0, 1.0], 'degrees' => rad2deg($angle)],
            ];
        }, $alternative->pieces);
    }

    /**
     * The path to a piece, by its name.
     *
     * @return list<int>|null null when it is none of the stock's
     */
    public static function path(string $stock, string $name): ?array
    {
        if ($name === $stock) {
            return [];
        }
        if (! str_starts_with($name, "$stock-") || preg_match('/^[A-Z]{1,3}(-[A-Z]{1,3}){0,63}$/', substr($name, strlen($stock) + 1)) !== 1) {
            return null;
        }

        return array_map(static fn (string $letters): int => array_reduce(str_split($letters), static fn (int $n, string $letter): int => 26 * $n + ord($letter) - 64, 0) - 1, explode('-', substr($name, strlen($stock) + 1)));
    }

    /** @param  list<int>  $path */
    private static function name(string $stock, array $path): string
    {
        return array_reduce($path, Names::child(...), $stock);
    }
}
