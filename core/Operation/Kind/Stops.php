<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Series;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Schema\Schema;

/** Where the blades of a series stand, as settings: stops, or a first one with a step and their number, or equal parts. */
final class Stops
{
    /** The settings of each of the three ways. */
    private const WAYS = [['parts'], ['from', 'step', 'count'], ['stops']];

    /**
     * @param  array<string, array<string, mixed>>  $more  settings beside
     * @return array<string, mixed>
     */
    public static function schema(array $more = [], string ...$required): array
    {
        return Schema::object([
            'kind' => Schema::word('series'), 'facing' => Schema::triple('Along this the stops stand, of any length'),
            'stops' => Schema::length(Schema::list(
                'Their distances from the origin along the facing', Schema::number(''), 1, Series::MOST, 'give a list of 1 to '.Series::MOST.' distances along the facing, or "from", "step" and "count", or "parts"',
            )),
            'from' => Schema::length(Schema::number('The first one, instead of stops')), 'step' => Schema::length(Schema::number('The distance from one to the next')),
            'count' => Schema::whole('Their number', 1, Series::MOST, null, 'give 1 to '.Series::MOST.' stops, a whole number'),
            'parts' => Schema::whole('Equal parts, instead of stops: each piece in its own extent', 2, Series::MOST, null, 'give 2 to '.Series::MOST.' parts, a whole number'),
            ...$more,
        ], ['kind', 'facing', ...array_values($required)], 'write {"kind": "series", "facing": [x, y, z], "stops": […]}');
    }

    /**
     * @param  array<string, mixed>  $blade  read by the schema above
     *
     * @throws BadRecipe
     */
    public static function series(array $blade, string $at): Series
    {
        $way = self::way($blade, $at);
        /** @var array{facing: array{float, float, float}, stops: list<float>, from: float, step: float, count: int, parts: int} $blade */
        try {
            return match ($way) {
                'parts' => Series::parts($blade['facing'], $blade['parts']),
                'from' => Series::steps($blade['facing'], $blade['from'], $blade['step'], $blade['count']),
                default => Series::at($blade['facing'], $blade['stops']),
            };
        } catch (BadBlade $refusal) {
            throw new BadRecipe("$at: ".$refusal->getMessage());
        }
    }

    /** @param  array<string, mixed>  $blade */
    private static function way(array $blade, string $at): string
    {
        foreach (self::WAYS as $way) {
            $there = array_values(array_filter($way, static fn (string $key): bool => isset($blade[$key])));
            if ($there === []) {
                continue;
            }
            foreach (array_diff($way, $there) as $missing) {
                throw new BadRecipe("$at.$missing is missing; \"from\", \"step\" and \"count\" go together.");
            }
            foreach (array_diff(array_merge(...self::WAYS), $way) as $other) {
                if (isset($blade[$other])) {
                    throw new BadRecipe("$at has the unknown key \"$other\" beside \"$there[0]\"; give stops, or \"from\", \"step\" and \"count\", or \"parts\".");
                }
            }

            return $way[0];
        }

        throw new BadRecipe("$at.stops is missing; give a list of distances along the facing, or \"from\", \"step\" and \"count\", or \"parts\".");
    }
}
