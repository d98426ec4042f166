<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Applied;
use Isotome\Operation\Given;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;
use Isotome\Operation\Step;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Work;

/** What steps have in common that place pieces elsewhere: pieces keep their names, triangles and tags, and are placed together. */
abstract class PlacingStep extends Step
{
    /** @return list<array{float, float, float}> the directions whose extents come to X, to Y and to Z, as long as what is measured along them grows */
    abstract public function rows(): array;

    /**
     * @param  array{float, float, float}  $through  the point that stays where it is, mm
     * @return list<float> the map as 12 numbers: where the three axes come to, then the origin
     */
    abstract protected function map(array $through): array;

    /**
     * @param  list<float>  $xyz
     * @param  array{float, float, float}  $through
     * @return list<float>
     */
    abstract protected function placed(array $xyz, array $through): array;

    public static function group(): string
    {
        return 'place';
    }

    final public function apply(array $pieces, Work $work): Applied
    {
        $through = $this->through($pieces);
        $took = $gave = [];
        foreach ($pieces as $n => $piece) {
            $mesh = $piece->mesh;
            $took[] = $piece->name;
            $gave[] = Given::inPlace($piece, Mesh::of($this->placed($mesh->xyz, $through), $mesh->corners, $mesh->tags));
            $work->report(($n + 1) / count($pieces));
        }

        return new Applied($took, $gave, new Report);
    }

    final public function images(array $pieces): array
    {
        return [$this->map($this->through($pieces))];
    }

    /**
     * The point that stays where it is: the one given, or the middle of the box around all pieces.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @return array{float, float, float}
     */
    private function through(array $pieces): array
    {
        /** @var array{float, float, float}|string $through */
        $through = $this->settings['through'] ?? 'centre';
        if (is_array($through)) {
            return $through;
        }
        $ends = [];
        foreach ($pieces as $piece) {
            if ($piece->mesh->xyz !== []) {
                $box = Box::of($piece->mesh->xyz);
                $ends = [...$ends, ...$box->min, ...$box->max];
            }
        }
        $box = Box::of($ends);

        return [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
    }

    public function closes(): bool
    {
        return true;
    }

    public function volume(): VolumeAfter
    {
        return VolumeAfter::Same;
    }
}
