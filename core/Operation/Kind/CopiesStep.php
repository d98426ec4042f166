<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Turn;
use Isotome\Mesh\Mesh;
use Isotome\Mirror\Copies;
use Isotome\Mirror\MirrorOutcome;
use Isotome\Schema\Schema;

/** Copies pieces about an axis, joined where they meet (Isotome\Mirror\Copies). */
final class CopiesStep extends MirroringStep
{
    public static function form(): array
    {
        return ['do' => ['mirror'], 'copies' => true];
    }

    public static function schema(): array
    {
        $copies = Schema::object([
            'through' => Schema::place('A place on the axis', [0.0, 0.0, 0.0]), 'axis' => Schema::triple('Direction of the axis'),
            'count' => Schema::whole('Copies in a full turn', 2, Copies::MOST, null, 'give 2 to '.Copies::MOST),
        ], ['axis', 'count'], 'write {"through": [x, y, z], "axis": [x, y, z], "count": 6}');

        return ['title' => 'Copies about an axis', ...Schema::object([
            'do' => Schema::word('mirror'), 'copies' => $copies, 'of' => Schema::of(),
            'catch' => Schema::length(Schema::amount('Rims this near to each other are joined', 0.0, 'the distance within which rims are joined, 0 or more')),
        ], ['do', 'copies'])];
    }

    protected function accept(string $at): void
    {
        if ($this->copies()['axis'] === [0.0, 0.0, 0.0]) {
            throw new BadRecipe("$at.copies.axis is 0, 0, 0; give an axis with a number that is not zero.");
        }
    }

    /** @return array{through: array{float, float, float}, axis: array{float, float, float}, count: int} */
    public function copies(): array
    {
        /** @var array{through: array{float, float, float}, axis: array{float, float, float}, count: int} */
        return $this->settings['copies'];
    }

    public function weld(): float
    {
        /** @var float */
        return $this->settings['catch'];
    }

    public function images(array $pieces): array
    {
        ['through' => $through, 'axis' => $axis, 'count' => $count] = $this->copies();

        return array_map(static fn (int $n): array => Turn::about($axis, 360.0 * $n / $count)->map($through), range(1, $count - 1));
    }

    public function mirror(Mesh $mesh, int $tag): MirrorOutcome
    {
        $copies = $this->copies();

        return Copies::of($mesh, $copies['through'], $copies['axis'], $copies['count'], $this->weld());
    }

    public function closes(): bool
    {
        return false;
    }
}
