<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Mend\Thicken;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\Report;
use Isotome\Operation\Step;
use Isotome\Operation\Words;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** Gives open sheets a thickness (Isotome\Mend\Thicken); they keep their names. */
final class ThickenStep extends Step
{
    public static function form(): array
    {
        return ['do' => ['thicken']];
    }

    public static function group(): string
    {
        return 'thicken';
    }

    public static function schema(): array
    {
        return ['title' => 'A thickness for open sheets', ...Schema::object([
            'do' => Schema::word('thicken'), 'of' => Schema::names(),
            'thickness_mm' => Schema::number('The thickness in millimetres', null, 'give the sheet\'s thickness in millimetres', null, 0.0),
            'side' => Schema::choice('Where it goes: to both sides, to the side that the faces look to, or to the other one', ['both', 'front', 'back'], 'both'),
        ], ['do', 'thickness_mm'])];
    }

    public function apply(array $pieces, Work $work): Applied
    {
        $took = $gave = [];
        foreach ($pieces as $n => $piece) {
            $took[] = $piece->name;
            $gave[] = Given::inPlace($piece, $this->on($piece->mesh, $work->number));
            $work->report(($n + 1) / count($pieces));
        }

        return new Applied($took, $gave, new Report);
    }

    public function on(Mesh $mesh, int $tag): Mesh
    {
        /** @var array{thickness_mm: float, side: string} $settings */
        $settings = $this->settings;

        return Thicken::of($mesh, $settings['thickness_mm'], $settings['side'], $tag);
    }

    public function closes(): bool
    {
        return true;
    }

    public function what(): string
    {
        return 'the thickening';
    }

    public function doing(): string
    {
        return 'thickening';
    }

    public function said(Done $done): string
    {
        return 'Thickened, '.Words::state($done).'.';
    }
}
