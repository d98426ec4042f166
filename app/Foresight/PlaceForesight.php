<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Answers\HowItStands;
use App\Answers\Question;
use App\Meshes\MeshStore;
use App\Models\Project;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Plane;
use Isotome\Operation\Kind\LayStep;
use Isotome\Operation\Kind\PlacingStep;
use Isotome\Operation\Step;

/** How large the pieces are once they are turned or scaled, and how many of them then fit the printer; how they stand once they are laid down. */
final class PlaceForesight implements Foresight
{
    /** Pieces that are looked at one by one; of more, the first ones. */
    private const PIECES = 200;

    public function __construct(private readonly MeshStore $store)
    {
    }

    public function foresee(Step $step, Collection $pieces, bool $tried): array|Question
    {
        if ($step instanceof LayStep) {
            return HowItStands::of($step, $pieces->values());
        }
        if (! $step instanceof PlacingStep) {
            throw new BadRecipe('There is nothing to show; set where the pieces are to be placed first.');
        }
        // The extent along an axis afterwards is the extent before along the direction that comes to that axis, times what that grows.
        $rows = $step->rows();
        $planes = array_map(static fn (array $row): Plane => Plane::through([0.0, 0.0, 0.0], $row), $rows);
        $times = array_map(static fn (array $row): float => sqrt($row[0] ** 2 + $row[1] ** 2 + $row[2] ** 2), $rows);
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        $fits = 0;
        $over = 0.0;
        $space = Project::query()->find($pieces->first()?->project_id)?->printer?->space();
        foreach ($pieces->take(self::PIECES) as $piece) {
            $size = [];
            foreach ($planes as $k => $plane) {
                [$from, $to] = array_map(static fn (float $at): float => $times[$k] * $at, $this->store->along($piece->mesh, $plane));
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
