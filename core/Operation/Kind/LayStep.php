<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Geometry\Direction;
use Isotome\Geometry\Turn;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;
use Isotome\Operation\Step;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Words;
use Isotome\Operation\Work;
use Isotome\Plate\Rests;
use Isotome\Schema\Schema;
use WeakMap;

/**
 * Lays every piece down by itself: on the face on which it stands best (Isotome\Plate\Rests), or on one that looks a given way. It rests at z = 0, its middle stays where it is in x and y.
 */
final class LayStep extends Step
{
    /** What comes this near to the bed by turning lies on it: a share of the size, all of it rounding. */
    private const ON = 1e-9;

    /** @var WeakMap<Mesh, list<float>>|null the maps that were found */
    private ?WeakMap $maps = null;

    public static function form(): array
    {
        return ['do' => ['lay']];
    }

    public static function group(): string
    {
        return 'place';
    }

    public static function schema(): array
    {
        return ['title' => 'Pieces laid down', ...Schema::object([
            'do' => Schema::word('lay'), 'of' => Schema::of(), 'on' => Schema::directionOr('best', 'What is to lie below: a direction of the piece; best is the face on which it stands best'),
        ], ['do'])];
    }

    /** @return array{float, float, float}|null null for the best */
    public function on(): ?array
    {
        /** @var array{float, float, float}|string $on */
        $on = $this->settings['on'];

        return is_array($on) ? $on : null;
    }

    protected function accept(string $at): void
    {
        $on = $this->on();
        if ($on !== null && Direction::unit($on) === null) {
            throw new BadRecipe("$at.on: 0, 0, 0 is no direction; give one with a number that is not zero.");
        }
    }

    public function apply(array $pieces, Work $work): Applied
    {
        if ($this->on() === null) {
            OpenPieces::refuse($pieces, $work->at);
        }
        $took = $gave = [];
        foreach ($pieces as $n => $piece) {
            $took[] = $piece->name;
            $gave[] = Given::inPlace($piece, $this->laid($piece));
            $work->report(($n + 1) / count($pieces));
        }

        return new Applied($took, $gave, new Report);
    }

    private function laid(Piece $piece): Mesh
    {
        $on = self::ON * Box::of($piece->mesh->xyz)->diagonal();
        $laid = Affine::points($piece->mesh->xyz, $this->map($piece));
        for ($i = 2, $count = count($laid); $i < $count; $i += 3) {
            if ($laid[$i] < $on) {
                $laid[$i] = 0.0;
            }
        }

        return Mesh::of(array_values($laid), $piece->mesh->corners, $piece->mesh->tags);
    }

    /** @return list<float> 12 numbers: where the three axes come to, then the origin */
    private function map(Piece $piece): array
    {
        $this->maps ??= new WeakMap;
        if (! isset($this->maps[$piece->mesh])) {
            $this->maps[$piece->mesh] = $this->found($piece);
        }

        return $this->maps[$piece->mesh];
    }

    /** @return list<float> */
    private function found(Piece $piece): array
    {
        return self::mapOn($piece->mesh, $this->on() ?? (Rests::of($piece->mesh)[0] ?? throw new BadBlade("{$piece->name} is flat, so it has no face to stand on; give it a thickness first."))->facing);
    }

    /**
     * Where a mesh comes to.
     *
     * @param  array{float, float, float}  $on  what is to lie below
     * @return list<float> 12 numbers
     */
    public static function mapOn(Mesh $mesh, array $on): array
    {
        $box = Box::of($mesh->xyz);
        $middle = [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $map = Turn::between($on, [0.0, 0.0, -1.0])->map($middle);
        $laid = Box::of(Affine::points($mesh->xyz, $map));

        return [...array_slice($map, 0, 9), $map[9] + $middle[0] - ($laid->min[0] + $laid->max[0]) / 2, $map[10] + $middle[1] - ($laid->min[1] + $laid->max[1]) / 2, $map[11] - $laid->min[2]];
    }

    public function images(array $pieces): array
    {
        return array_map($this->map(...), $pieces);
    }

    public function closes(): bool
    {
        return true;
    }

    public function volume(): VolumeAfter
    {
        return VolumeAfter::Same;
    }

    public function what(): string
    {
        return 'the laying';
    }

    public function doing(): string
    {
        return 'laying down';
    }

    public function said(Done $done): string
    {
        return 'Laid down: '.Words::pieces([$done]);
    }
}
