<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cells\Grain;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Schema\Schema;

/** The roughness of a blade, as settings. */
final class GrainSettings
{
    /** @return array<string, mixed> */
    public static function schema(): array
    {
        $heightAndSize = static fn (string $of): array => [
            'height' => Schema::length(Schema::number("How far $of departs from the blade at most, to either side", null, 'give the height, more than 0', null, 0.0)),
            'size' => Schema::length(Schema::number("How far apart the hills of $of are", null, 'give the size, more than 0', null, 0.0)),
        ];

        return ['title' => 'The roughness of its surface', ...Schema::object([
            ...$heightAndSize('the grain'),
            'finer' => ['title' => 'A second, finer grain on the first', ...Schema::object($heightAndSize('the finer grain'), ['height', 'size'], 'write {"height": 0.3, "size": 1.5}')],
            'edge_mm' => Schema::number('Edge length of the surface in millimetres; a quarter of the size when it is left out', null, 'give the edge length of the surface in millimetres, or leave it out', null, 0.0),
            'seed' => Schema::seed(),
        ], ['height', 'size'], 'write {"height": 1.5, "size": 8}')];
    }

    /**
     * @param  array<string, mixed>  $settings
     *
     * @throws BadRecipe
     */
    public static function grainOrNone(array $settings, string $at): ?Grain
    {
        return isset($settings['grain']) ? self::grain($settings, $at) : null;
    }

    /**
     * @param  array<string, mixed>  $settings  with a grain
     *
     * @throws BadRecipe
     */
    public static function grain(array $settings, string $at): Grain
    {
        /** @var array{height: float, size: float, finer?: array{height: float, size: float}, edge_mm?: float, seed: int} $grain */
        $grain = $settings['grain'];
        try {
            return new Grain($grain['height'], $grain['size'], $grain['finer']['height'] ?? 0.0, $grain['finer']['size'] ?? 0.0, $grain['edge_mm'] ?? null, $grain['seed']);
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.grain: ".$refusal->getMessage());
        }
    }
}
