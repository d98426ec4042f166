<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\Outcome;
use Isotome\Cut\Score;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Bodies;
use Isotome\Operation\Piece;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** A cut with a flat blade within picked faces only: the mesh is opened along the section there, and falls apart where nothing holds it (Isotome\Cut\Score). */
final class FacesStep extends CuttingStep
{
    private Plane $plane;

    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['flat'], 'faces' => true];
    }

    public static function group(): string
    {
        return 'blade';
    }

    public static function schema(): array
    {
        // Older recipes name what such a cut does not use.
        $unused = array_map(Schema::unused(...), array_diff_key(BladeSettings::schema(), ['of' => true]));

        return ['title' => 'A cut with a flat blade, within picked faces only', ...Schema::object([
            'do' => Schema::word('cut'), 'blade' => BladeSettings::flat(), 'of' => Schema::of(),
            'faces' => Schema::numbersOf('triangle', 'The faces, by their number in the piece', PickedFaces::MOST), ...$unused,
        ], ['do', 'blade', 'faces'])];
    }

    protected function accept(string $at): void
    {
        $this->plane = BladeSettings::plane($this->settings, $at);
    }

    protected function cut(Piece $piece, Work $work): ?Outcome
    {
        /** @var list<int> $faces */
        $faces = $this->settings['faces'];
        $scored = Score::of($piece->mesh, $this->plane, PickedFaces::of($piece, $faces, $work->at));

        return $scored === null ? null : new Outcome(Bodies::of($scored->opened()), [], true);
    }

    public function closes(): bool
    {
        return false;
    }

    public function volume(): VolumeAfter
    {
        return VolumeAfter::Same;
    }

    public function refusal(array $pieces, string $at): string
    {
        return BladeStep::missed($pieces, $this->plane, 'blade', $at);
    }
}
