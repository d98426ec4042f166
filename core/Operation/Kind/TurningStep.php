<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Geometry\Box;
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

/** What turns have in common: pieces keep their names, triangles and tags, and are turned together. */
abstract class TurningStep extends Step
{
    abstract public function turn(): Turn;

    public static function group(): string
    {
        return 'turn';
    }

    final public function apply(array $pieces, Work $work): Applied
    {
        $turn = $this->turn();
        $through = $this->through($pieces);
        $took = $gave = [];
        foreach ($pieces as $n => $piece) {
            $mesh = $piece->mesh;
            $took[] = $piece->name;
            $gave[] = Given::inPlace($piece, Mesh::of($turn->of($mesh->xyz, $through), $mesh->corners, $mesh->tags));
            $work->report(($n + 1) / count($pieces));
        }

        return new Applied($took, $gave, new Report);
    }

    final public function images(array $pieces): array
    {
        return [$this->turn()->map($this->through($pieces))];
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
        $through = $this->settings['through'];
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

    public function what(): string
    {
        return 'the turn';
    }

    public function doing(): string
    {
        return 'turning';
    }

    public function said(Done $done): string
    {
        return 'Turned: '.Words::pieces([$done]);
    }
}
