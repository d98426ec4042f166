<?php

declare(strict_types=1);

namespace App\Plates;

use App\Models\Piece;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;

/**
 * Pieces as they lie on plates: packed, and perhaps moved by hand since. It names living pieces with the meshes they had, so that nothing is done with what has changed meanwhile.
 *
 * @phpstan-type Placing array{piece: string, copy: int, mesh: string, pose: list<float>, stable: bool}
 * @phpstan-type LaidPlate array{locked: bool, pieces: list<Placing>}
 */
final readonly class Layout
{
    public const MOST_PLATES = 1000;

    public const MOST_PIECES = 1000;

    /** How far the axes of a pose may be from square and of length 1: rounding on the way. */
    private const ROUNDING = 1e-6;

    /** @param  list<LaidPlate>  $plates */
    private function __construct(public array $plates)
    {
    }

    /**
     * @param  Collection<int, Piece>  $living  of the project
     *
     * @throws BadRecipe when it is none
     */
    public static function read(mixed $given, Collection $living): self
    {
        $none = new BadRecipe('This is no list of plates with what lies on them; pack the pieces again.');
        if (! is_array($given) || ! array_is_list($given) || count($given) > self::MOST_PLATES) {
            throw $none;
        }
        $meshes = $living->pluck('mesh_hash', 'name')->all();
        $plates = [];
        $seen = [];
        foreach ($given as $plate) {
            $pieces = [];
            if (! is_array($plate) || ! is_bool($plate['locked'] ?? null) || ! is_array($plate['pieces'] ?? null) || ! array_is_list($plate['pieces'])) {
                throw $none;
            }
            foreach ($plate['pieces'] as $one) {
                if (! is_array($one) || ! is_string($name = $one['piece'] ?? null) || ! is_int($copy = $one['copy'] ?? null) || $copy < 1 || $copy > self::MOST_PIECES || ! is_bool($stable = $one['stable'] ?? null) || isset($seen["$name $copy"])) {
                    throw $none;
                }
                $pose = self::pose($one['pose'] ?? null) ?? throw $none;
                if (! isset($meshes[$name]) || ($one['mesh'] ?? null) !== $meshes[$name]) {
                    throw new BadRecipe('The pieces have changed since they were put on plates; pack them again.');
                }
                $seen["$name $copy"] = true;
                if (count($seen) > self::MOST_PIECES) {
                    throw new BadRecipe('More than '.number_format(self::MOST_PIECES).' pieces, copies among them, are too many for one go; leave some out.');
                }
                $pieces[] = ['piece' => $name, 'copy' => $copy, 'mesh' => $meshes[$name], 'pose' => $pose, 'stable' => $stable];
            }
            $plates[] = ['locked' => $plate['locked'], 'pieces' => $pieces];
        }

        return new self($plates);
    }

    /** What a copy of a piece is called on plates and in their files. */
    public static function label(string $piece, int $copy): string
    {
        return $copy === 1 ? $piece : "$piece copy $copy";
    }

    /** @return array<string, true> the pieces that lie on plates, by label */
    public function labels(): array
    {
        $labels = [];
        foreach ($this->plates as $plate) {
            foreach ($plate['pieces'] as $one) {
                $labels[self::label($one['piece'], $one['copy'])] = true;
            }
        }

        return $labels;
    }

    /** @return list<float>|null a turn and a shift; null when it is none */
    private static function pose(mixed $given): ?array
    {
        if (! is_array($given) || ! array_is_list($given) || count($given) !== 12) {
            return null;
        }
        $pose = [];
        foreach ($given as $number) {
            if (! is_int($number) && ! is_float($number) || ! is_finite((float) $number) || abs((float) $number) > 1e6) {
                return null;
            }
            $pose[] = (float) $number;
        }
        [$a, $b, $c] = array_chunk(array_slice($pose, 0, 9), 3);
        $dot = static fn (array $p, array $q): float => $p[0] * $q[0] + $p[1] * $q[1] + $p[2] * $q[2];
        $hand = $a[0] * ($b[1] * $c[2] - $b[2] * $c[1]) - $a[1] * ($b[0] * $c[2] - $b[2] * $c[0]) + $a[2] * ($b[0] * $c[1] - $b[1] * $c[0]);
        foreach ([$dot($a, $a) - 1, $dot($b, $b) - 1, $dot($c, $c) - 1, $dot($a, $b), $dot($b, $c), $dot($a, $c), $hand - 1] as $off) {
            if (abs($off) > self::ROUNDING) {
                return null;
            }
        }

        return $pose;
    }
}
