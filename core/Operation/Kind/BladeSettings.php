<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Keep;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Plane;
use Isotome\Schema\Schema;

/** What flat blades have in common as settings, one of them or a series. */
final class BladeSettings
{
    private const CATCH = 'the distance within which vertices are taken onto the blade, 0 or more';

    /** @return array<string, array<string, mixed>> */
    public static function schema(): array
    {
        return [
            'of' => Schema::of(),
            'keep' => Schema::oneOf('What stays: both sides, one of them, or the section alone as a flat sheet', Keep::class, 'both'),
            ...self::kerf(),
            'kerf_side' => Schema::oneOf('The side of the blade that the kerf is taken from', KerfSide::class, 'centre'),
            ...self::seal(),
            'catch' => Schema::length(Schema::amount('Vertices this near to the blade are taken onto it', 0.0, self::CATCH)),
        ];
    }

    /** @return array<string, array<string, mixed>> */
    public static function kerf(): array
    {
        return ['kerf' => Schema::length(Schema::amount('Width of material that is removed', 0.0, 'the width of material to remove, 0 or more'))];
    }

    /** @return array<string, array<string, mixed>> */
    public static function seal(): array
    {
        return [
            'seal' => Schema::oneOf('How cut faces are closed: not at all, with few triangles, or with even ones', Seal::class, 'lean'),
            'edge_mm' => Schema::number('Edge length of the even seal in millimetres; that of the skin when it is left out', null, 'give the edge length of the even seal in millimetres, or leave it out', null, 0.0),
        ];
    }

    /** @return array<string, mixed> */
    public static function flat(): array
    {
        return Schema::object(['kind' => Schema::word('flat'), 'through' => Schema::place('A place on the blade'), 'facing' => Schema::triple('Its facing, of any length')], ['kind', 'through', 'facing']);
    }

    /**
     * @param  array<string, mixed>  $settings  with a flat blade
     *
     * @throws BadRecipe
     */
    public static function plane(array $settings, string $at): Plane
    {
        /** @var array{through: array{float, float, float}, facing: array{float, float, float}} $blade */
        $blade = $settings['blade'];
        try {
            return Plane::through($blade['through'], $blade['facing']);
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at.blade: ".$refusal->getMessage());
        }
    }

    /** @param  array<string, mixed>  $settings  read by the schema above */
    public static function blade(array $settings, Plane $plane): FlatBlade
    {
        /** @var array{keep: string, kerf: float, kerf_side: string, seal: string, edge_mm?: float, catch: float} $settings */
        return new FlatBlade(
            $plane, Keep::from($settings['keep']), Seal::from($settings['seal']), $settings['kerf'], KerfSide::from($settings['kerf_side']), $settings['catch'], $settings['edge_mm'] ?? null,
        );
    }
}
