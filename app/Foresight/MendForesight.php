<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Meshes\MeshStore;
use App\Models\Piece;
use Illuminate\Support\Collection;
use Isotome\Check\PlacedReport;
use Isotome\Check\Report;
use Isotome\Exception\BadRecipe;
use Isotome\Mend\Difference;
use Isotome\Operation\Kind\MendingStep;
use Isotome\Operation\Kind\ThickenStep;
use Isotome\Operation\Step;

/** What a mend, or a thickness, would change on one piece. */
final class MendForesight implements Foresight
{
    /** Largest mesh whose mend is tried out before it is done, triangles. */
    private const LARGEST = 400_000;

    /** Most triangles shown. */
    private const SHOWN = 4000;

    public function __construct(private readonly MeshStore $store)
    {
    }

    public function foresee(Step $step, Collection $pieces, bool $tried): array
    {
        /** @var Piece $piece */
        $piece = $pieces->first();
        if ($piece->mesh->triangles > self::LARGEST) {
            return ['too_large' => true];
        }
        $before = $this->store->get($piece->mesh);
        $did = [];
        if ($step instanceof MendingStep) {
            ['mesh' => $after, 'did' => $did] = $step->on($before, 1);
        } elseif ($step instanceof ThickenStep) {
            $after = $step->on($before, 1);
        } else {
            throw new BadRecipe('There is no mend to show; choose one.');
        }
        $difference = Difference::of($before, $after);

        return [
            'too_large' => false, 'did' => $did,
            'before' => Report::of($before, 0, false)->toArray(), 'after' => Report::of($after, 0, false)->toArray(),
            'removed' => count($difference->removed), 'added' => count($difference->added),
            'removed_faces' => PlacedReport::faces($before, array_slice($difference->removed, 0, self::SHOWN)),
            'added_faces' => PlacedReport::faces($after, array_slice($difference->added, 0, self::SHOWN)),
        ];
    }
}
