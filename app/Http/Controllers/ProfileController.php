<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\BladeRequest;
use App\Meshes\Kept;
use App\Meshes\MeshStore;
use App\Models\Mesh;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Http\JsonResponse;
use Isotome\Cut\Section;
use Isotome\Geometry\Plane;
use Isotome\Measure\GoodPlaces;
use Isotome\Measure\NarrowestWidth;
use Isotome\Measure\Profile;
use Isotome\Measure\Simplified;

/** The rail: section area along the facing, good and bad places, and where a series would stop. */
final class ProfileController
{
    private const SAMPLES = 240;

    /** Positions at which the narrowest width is sought. */
    private const WIDTHS = 48;

    /** Narrower than this is a bad place: four lines of a common nozzle (0.4 mm) and a little (common practice). */
    private const THIN = 2.0;

    /** Share of a section's extent by which its outlines may be off for a width. */
    private const SIMPLE = 5e-4;

    /** Pieces whose blades are previewed one by one. */
    private const PREVIEWED = 24;

    public function __construct(private readonly MeshStore $store)
    {
    }

    public function show(BladeRequest $request, Project $project): JsonResponse
    {
        set_time_limit(120);
        $facing = $request->plane()->facing();
        $meshes = $request->asked($project)->map(static fn (Piece $piece): Mesh => $piece->mesh);
        $key = 'profile-'.hash('sha256', json_encode([$facing, $meshes->pluck('hash')], JSON_THROW_ON_ERROR));

        return response()->json(Kept::remember($key, fn (): array => $this->profile($facing, array_values($meshes->all()))));
    }

    /** The narrowest width along the facing; asked after the profile, because it takes longer. */
    public function widths(BladeRequest $request, Project $project): JsonResponse
    {
        set_time_limit(120);
        $facing = $request->plane()->facing();
        $meshes = $request->asked($project)->map(static fn (Piece $piece): Mesh => $piece->mesh);
        $key = 'widths-'.hash('sha256', json_encode([$facing, $meshes->pluck('hash')], JSON_THROW_ON_ERROR));

        return response()->json(Kept::remember($key, fn (): array => $this->narrowest($facing, array_values($meshes->all()))));
    }

    /** The blades of a series as they would cut each piece, with the extents between them against the printer. */
    public function stops(BladeRequest $request, Project $project): JsonResponse
    {
        $series = $request->series();
        $level = Plane::at(0.0, $series->facing);
        $shown = [];
        $low = INF;
        $high = -INF;
        $common = null;
        $pieces = $request->asked($project);
        foreach ($pieces as $n => $piece) {
            $mesh = $piece->mesh;
            [$from, $to] = $this->store->along($mesh, $level);
            $low = min($low, $from);
            $high = max($high, $to);
            $planes = $series->parallelBetween($from, $to);
            // Equal parts of several pieces have no stops in common.
            $common ??= $series->parts !== null && $pieces->count() > 1 ? [] : array_map(static fn (Plane $plane): float => $plane->offset, $planes);
            if ($n < self::PREVIEWED) {
                $wandering = $series->wander?->overBox($planes, [$mesh->x0, $mesh->y0, $mesh->z0], [$mesh->x1, $mesh->y1, $mesh->z1]) ?? $planes;
                $shown[] = ['piece' => $piece->id, 'planes' => array_map(static fn (Plane $plane): array => ['facing' => $plane->facing(), 'offset' => $plane->offset], $wandering)];
            }
        }
        $within = array_values(array_filter($common ?? [], static fn (float $stop): bool => $stop > $low && $stop < $high));
        $ends = [$low, ...$within, $high];
        $most = $project->printer?->z;
        $slabs = [];
        for ($i = 1; $within !== [] && $i < count($ends); $i++) {
            $extent = $ends[$i] - $ends[$i - 1];
            // Laid on its cut face a slab is as tall as this extent (common practice).
            $slabs[] = ['from' => $ends[$i - 1], 'to' => $ends[$i], 'extent' => $extent, 'over' => $most === null ? 0.0 : max(0.0, $extent - $most)];
        }

        return response()->json(['stops' => $common ?? [], 'low' => $low, 'high' => $high, 'slabs' => $slabs, 'pieces' => $shown]);
    }

    /**
     * @param  array{float, float, float}  $facing
     * @param  list<Mesh>  $meshes
     * @return array<string, mixed>
     */
    private function profile(array $facing, array $meshes): array
    {
        [$low, $high] = $this->ends($facing, $meshes);
        $positions = [];
        for ($n = 0; $n < self::SAMPLES; $n++) {
            $positions[] = $low + ($n + 0.5) / self::SAMPLES * ($high - $low);
        }
        $areas = array_fill(0, self::SAMPLES, 0.0);
        $outlines = array_fill(0, self::SAMPLES, 0);
        foreach ($meshes as $mesh) {
            $profile = Profile::at($this->store->get($mesh), $facing, $positions);
            foreach ($profile->areas as $n => $area) {
                $areas[$n] += $area;
                $outlines[$n] += $profile->outlines[$n];
            }
        }

        return ['low' => $low, 'high' => $high, 'positions' => $positions, 'areas' => $areas, 'outlines' => $outlines, 'good' => GoodPlaces::of($positions, $areas)];
    }

    /**
     * @param  array{float, float, float}  $facing
     * @param  list<Mesh>  $meshes
     * @return array{thin_mm: float, widths: list<float|null>, positions: list<float>, bad: list<array{float, float}>}
     */
    private function narrowest(array $facing, array $meshes): array
    {
        $plane = Plane::at(0.0, $facing);
        $reaches = array_map(fn (Mesh $mesh): array => $this->store->along($mesh, $plane), $meshes);
        $low = min(array_column($reaches, 0));
        $high = max(array_column($reaches, 1));
        $widths = $positions = $bad = [];
        $step = ($high - $low) / self::WIDTHS;
        for ($n = 0; $n < self::WIDTHS; $n++) {
            $at = $low + ($n + 0.5) * $step;
            $plane = Plane::at($at, $facing);
            $least = null;
            foreach ($meshes as $m => $mesh) {
                if ($at < $reaches[$m][0] || $at > $reaches[$m][1]) {
                    continue;
                }
                $width = NarrowestWidth::of(Simplified::all(Section::of($this->store->touching($mesh, $plane), $plane, $mesh->extent())->outlines, self::SIMPLE));
                $least = $width === null ? $least : min($least ?? INF, $width);
            }
            $positions[] = $at;
            $widths[] = $least;
            if ($least !== null && $least < self::THIN) {
                $last = count($bad) - 1;
                if ($last >= 0 && $at - $step / 2 - $bad[$last][1] < 1e-6 * $step) {
                    $bad[$last][1] = $at + $step / 2;
                } else {
                    $bad[] = [$at - $step / 2, $at + $step / 2];
                }
            }
        }

        return ['thin_mm' => self::THIN, 'positions' => $positions, 'widths' => $widths, 'bad' => $bad];
    }

    /**
     * @param  array{float, float, float}  $facing
     * @param  list<Mesh>  $meshes
     * @return array{float, float}
     */
    private function ends(array $facing, array $meshes): array
    {
        $plane = Plane::at(0.0, $facing);
        $ends = array_map(fn (Mesh $mesh): array => $this->store->along($mesh, $plane), $meshes);

        return [min(array_column($ends, 0)), max(array_column($ends, 1))];
    }
}
