<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Meshes\MeshStore;
use App\Models\Project;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Plane;
use Isotome\Operation\Kind\TurningStep;
use Isotome\Operation\Step;

/** How large the pieces are once they are turned, and how many of them then fit the printer. */
final class TurnForesight implements Foresight
{
    /** Pieces that are looked at one by one; of more, the first ones. */
    private const PIECES = 200;

    public function __construct(private readonly MeshStore $store)
    {
    }

    public function foresee(Step $step, Collection $pieces, bool $tried): array
    {
        if (! $step instanceof TurningStep) {
            throw new BadRecipe('There is no turn to show; set it first.');
        }
        // The extent along an axis after the turn is the extent before it along the direction that comes to that axis.
        $planes = array_map(static fn (array $row): Plane => Plane::through([0.0, 0.0, 0.0], $row), $step->turn()->rows());
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        $fits = 0;
        $over = 0.0;
        $space = Project::query()->find($pieces->first()?->project_id)?->printer?->space();
        foreach ($pieces->take(self::PIECES) as $piece) {
            $size = [];
            foreach ($planes as $k => $plane) {
                [$from, $to] = $this->store->along($piece->mesh, $plane);
                $low[$k] = min($low[$k], $from);
                $high[$k] = max($high[$k], $to);
                $size[] = $to - $from;
            }
            $fit = $space?->holds([$size[0], $size[1], $size[2]]);
            $fits += ($fit['fits'] ?? false) ? 1 : 0;
            $over = max($over, $fit['over_mm'] ?? 0.0);
        }

        return [
            'size' => [$high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]], 'pieces' => min(self::PIECES, $pieces->count()),
            'fits' => $space === null ? null : $fits, 'over_mm' => $over,
        ];
    }
}
