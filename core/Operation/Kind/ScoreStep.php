<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Score;
use Isotome\Geometry\Plane;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\Report;
use Isotome\Operation\Step;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** Lays the edges of a section into the mesh and divides nothing (Isotome\Cut\Score). */
final class ScoreStep extends Step
{
    private Plane $plane;

    public static function form(): array
    {
        return ['do' => ['score'], 'blade.kind' => ['flat']];
    }

    public static function group(): string
    {
        return 'blade';
    }

    public static function schema(): array
    {
        return ['title' => 'Score only: the edges of the section, nothing is divided', ...Schema::object([
            'do' => Schema::word('score'), 'blade' => BladeSettings::flat(), 'of' => Schema::of(),
            'faces' => Schema::numbersOf('triangle', 'Within these faces only, by their number in the piece', PickedFaces::MOST),
        ], ['do', 'blade'])];
    }

    protected function accept(string $at): void
    {
        $this->plane = BladeSettings::plane($this->settings, $at);
    }

    public function apply(array $pieces, Work $work): Applied
    {
        /** @var list<int>|null $faces */
        $faces = $this->settings['faces'] ?? null;
        $took = $gave = [];
        foreach ($pieces as $n => $piece) {
            $scored = Score::of($piece->mesh, $this->plane, PickedFaces::of($piece, $faces, $work->at))?->mesh;
            if ($scored !== null) {
                $took[] = $piece->name;
                $gave[] = Given::inPlace($piece, $scored);
            }
            $work->report(($n + 1) / count($pieces));
        }

        return new Applied($took, $gave, new Report);
    }

    public function closes(): bool
    {
        return true;
    }

    public function refusal(array $pieces, string $at): string
    {
        return BladeStep::missed($pieces, $this->plane, 'blade', $at);
    }

    public function what(): string
    {
        return 'the score';
    }

    public function doing(): string
    {
        return 'scoring';
    }

    public function said(Done $done): string
    {
        return count($done->took) === 1 ? 'Scored 1 piece: the section\'s edges are in its mesh now.' : 'Scored '.count($done->took).' pieces: the section\'s edges are in their meshes now.';
    }
}
