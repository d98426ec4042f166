<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\StepRequest;
use App\Http\Requests\ThreeNumbers;
use App\Meshes\MeshStore;
use App\Meshes\RimsOfMesh;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Isotome\Cut\Plane;
use Isotome\Exception\BadRecipe;
use Isotome\Mirror\Copies;
use Isotome\Mirror\Gives;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\Nearest;
use Isotome\Mirror\SeamForecast;
use Isotome\Mirror\SeamGap;
use Isotome\Mirror\Symmetry;
use Isotome\Mirror\SymmetryMap;
use Isotome\Operation\Kind\CopiesStep;
use Isotome\Operation\Kind\MirrorStep;
use Isotome\Operation\Names;

/** What a mirror would do, before it does it; and how symmetric a piece is. */
final class MirrorController
{
    /** Triangles up to which a symmetry, or how wide a piece is about an axis, is measured while somebody waits. */
    private const LARGEST = 2_000_000;

    public function preview(StepRequest $request, Project $project, MeshStore $store, RimsOfMesh $rimsOf): JsonResponse
    {
        set_time_limit(60);
        $step = $request->step($project, ['*']);
        if ($step instanceof CopiesStep) {
            return response()->json([
                'refusal' => null, 'crosses' => false, 'apart' => 0.0, 'rims' => 0, 'gap' => 0.0, 'weld' => 0.0, 'kink' => null, 'mean_kink' => null, 'unjoined' => [],
                'span' => $this->span($request, $project, $store, $step),
            ]);
        }
        if (! $step instanceof MirrorStep) {
            throw new BadRecipe('There is no mirror to show; set it first.');
        }
        $settings = $step->settings();
        $refusal = null;
        $crosses = false;
        $apart = INF;
        $gap = $weld = 0.0;
        $rims = $seamed = 0;
        $kink = $mean = 0.0;
        $unjoined = [];
        foreach ($request->pieces($project) as $piece) {
            foreach ($settings->planes as $n => $plane) {
                [$low, $high] = $store->along($piece->mesh, $plane);
                $low -= $plane->offset;
                $high -= $plane->offset;
                if ($n === 0) {
                    $crosses = $crosses || ($low < -$settings->catch - 1e-9 && $high > $settings->catch + 1e-9);
                    $apart = min($apart, 2 * max(0.0, $low, -$high));
                }
                if (Mirror::isLost($low, $high, $settings)) {
                    $refusal ??= sprintf('Nothing of %s is on the kept side: it lies from %.1f to %.1f mm ahead of the plane. Keep the other side, or move the plane.', $piece->title ?? Names::title($piece->name), $low, $high);
                }
                if (! $piece->mesh->watertight) {
                    $seam = SeamGap::ofRims($rimsOf->of($piece->mesh), $piece->mesh->diagonal(), $plane);
                    $gap = max($gap, $seam->largest);
                    $weld = max($weld, $seam->weld());
                    $rims += $seam->rims;
                    array_push($unjoined, ...$seam->unjoined($settings->catch));
                }
                // The whole is mirrored on whichever side it is.
                if ($settings->gives === Gives::One && ($settings->cuts || $low >= -$settings->catch || $high <= $settings->catch)) {
                    $seam = SeamForecast::of($store->touching($piece->mesh, $plane, $settings->catch), $plane, $settings->cuts ? $settings->keepsAhead : $high > -$low, $settings->catch);
                    $seamed += $seam->edges;
                    $kink = max($kink, $seam->kink);
                    $mean = max($mean, $seam->meanKink);
                }
            }
        }

        return response()->json([
            'refusal' => $refusal, 'crosses' => $crosses, 'apart' => is_finite($apart) ? $apart : 0.0, 'rims' => $rims, 'gap' => $gap, 'weld' => $weld,
            'kink' => $seamed > 0 ? $kink : null, 'mean_kink' => $seamed > 0 ? $mean : null, 'unjoined' => $unjoined, 'span' => null,
        ]);
    }

    /** How much of a turn the piece that takes most of it has, degrees; null when none could be looked at. */
    private function span(StepRequest $request, Project $project, MeshStore $store, CopiesStep $step): ?float
    {
        $span = null;
        foreach ($request->pieces($project) as $piece) {
            if ($piece->mesh->triangles <= self::LARGEST) {
                $span = max($span ?? 0.0, Copies::span($store->get($piece->mesh), $step->copies()['through'], $step->copies()['axis']));
            }
        }

        return $span;
    }

    /** Deviations of a piece from its own reflection, over a plane or over the best one. */
    public function symmetry(Request $request, Project $project, MeshStore $store): JsonResponse
    {
        set_time_limit(120);
        $plane = 'The plane\'s place and facing are not three ordinary numbers each; set it again.';
        $asked = $request->validate([
            'piece' => ['required', 'integer:strict'], 'through' => ['sometimes', 'nullable', new ThreeNumbers($plane)], 'facing' => ['required_with:through', 'nullable', new ThreeNumbers($plane)],
        ], ['piece' => 'There is no piece to measure; pick one.', 'facing' => $plane]);
        /** @var Piece $piece */
        $piece = $project->pieces()->with('mesh')->findOrFail($asked['piece']);
        if ($piece->mesh->triangles > self::LARGEST) {
            throw new BadRecipe('The piece has more than 2,000,000 triangles; its symmetry is measured up to that.');
        }
        $mesh = $store->get($piece->mesh);
        $three = static fn (array $list): array => [(float) $list[0], (float) $list[1], (float) $list[2]];
        $nearest = new Nearest($mesh);
        $symmetry = isset($asked['through'], $asked['facing']) ? Symmetry::of($mesh, Plane::through($three($asked['through']), $three($asked['facing'])), nearest: $nearest) : Symmetry::best($mesh, nearest: $nearest);
        $map = SymmetryMap::of($mesh, $symmetry->plane, $nearest);
        $values = [];
        foreach ($map->mesh->corners as $v) {
            array_push($values, $map->mesh->xyz[3 * $v], $map->mesh->xyz[3 * $v + 1], $map->mesh->xyz[3 * $v + 2], $map->deviations[$v]);
        }
        $facing = $symmetry->plane->facing();

        return response()->json([
            'largest' => $symmetry->largest, 'mean' => $symmetry->mean, 'facing' => $facing,
            'through' => array_map(static fn (float $part): float => $part * $symmetry->plane->offset, $facing),
            'map' => base64_encode(implode('', array_map(static fn (array $chunk): string => pack('g*', ...$chunk), array_chunk($values, 8192)))),
        ]);
    }
}
