<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Keep;
use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\Shape;
use Isotome\Drawn\Sight;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Schema\Schema;

/** A cut along what was drawn across the view. */
final class DrawnStep extends DrawingStep
{
    private const MOST_LINES = 500;

    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['drawn']];
    }

    public static function schema(): array
    {
        return self::withBlade('A cut along what is drawn across the view', self::line([
            'depth_mm' => Schema::number('How far down it goes from its foremost corner, in millimetres; through everything when it is left out', null, 'give the depth in millimetres, more than 0, or leave it out', null, 0.0),
        ]));
    }

    /**
     * @param  array<string, array<string, mixed>>  $more
     * @return array<string, mixed> what is drawn
     */
    public static function line(array $more = []): array
    {
        $most = DrawnBlade::MOST_CORNERS;
        $line = static fn (string $title): array => Schema::length(Schema::list($title, Schema::triple(''), 2, $most, "give 2 to $most places, [[x, y, z], …]"));

        return Schema::object([
            'kind' => Schema::word('drawn'),
            'shape' => Schema::oneOf('One line from side to side; lines that close, an outline in an outline being a hole; or several lines that may cross', Shape::class, 'stroke'),
            'points' => $line('The corners of one line, at any distance from who looks'),
            'lines' => Schema::length(Schema::list('Several lines', $line(''), 1, self::MOST_LINES, 'give 1 to '.self::MOST_LINES.' lines, each a list of places')),
            'along' => Schema::triple('The line of sight along which it is carried'),
            'eye' => Schema::place('Where one looks from, instead: it widens with the distance'),
            'smooth' => Schema::yesNo('Whether the line is a smooth curve through its corners', false),
            ...$more,
        ], ['kind']);
    }

    protected function bladeOf(array $blade, float $kerf, Keep $keep): DrawnBlade
    {
        return self::drawnOf($blade, $kerf, $keep);
    }

    /**
     * @param  array<string, mixed>  $blade  as its schema reads it
     *
     * @throws BadBlade
     */
    public static function drawnOf(array $blade, float $kerf, Keep $keep): DrawnBlade
    {
        /** @var array{shape: string, points?: list<array{float, float, float}>, lines?: list<list<array{float, float, float}>>, along?: array{float, float, float}, eye?: array{float, float, float}, smooth: bool, depth_mm?: float} $blade */
        if (isset($blade['points']) === isset($blade['lines'])) {
            throw new BadBlade('It has '.(isset($blade['points']) ? 'both points and lines' : 'neither points nor lines').'; give the points of one line, or several lines.');
        }
        if (isset($blade['along']) === isset($blade['eye'])) {
            throw new BadBlade('It has '.(isset($blade['along']) ? 'both along and eye' : 'neither along nor eye').'; give a line of sight, or the eye that looks.');
        }
        $shape = Shape::from($blade['shape']);
        $lines = $blade['lines'] ?? [$blade['points'] ?? []];
        if ($shape === Shape::Stroke && count($lines) > 1) {
            throw new BadBlade('A stroke is one line; for several, write "grid".');
        }
        if ($shape === Shape::Grid && $keep !== Keep::Both) {
            throw new BadBlade('A grid has no sides to keep; write "both".');
        }
        $corners = array_sum(array_map(count(...), $lines));
        if ($corners > DrawnBlade::MOST_CORNERS) {
            throw new BadBlade("Its lines have $corners corners together; draw it with at most ".DrawnBlade::MOST_CORNERS.'.');
        }

        return new DrawnBlade($shape, $lines, isset($blade['along']) ? Sight::along($blade['along']) : Sight::from($blade['eye'] ?? [0.0, 0.0, 0.0], self::middle($lines)), $blade['smooth'], $blade['depth_mm'] ?? null, $kerf, $keep);
    }

    /**
     * @param  list<list<array{float, float, float}>>  $lines
     * @return array{float, float, float} of the box around them
     */
    private static function middle(array $lines): array
    {
        $box = Box::of(array_merge(...array_merge(...$lines)));

        return [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
    }
}
