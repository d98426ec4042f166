<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\BladeRequest;
use App\Meshes\MeshStore;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Isotome\Cut\Catching;
use Isotome\Cut\Section;
use Isotome\Cut\SectionDrawing;
use Isotome\Geometry\Plane;
use Isotome\Measure\NarrowestWidth;
use Isotome\Measure\Simplified;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Names;

/** The section of the taken pieces as the blade stands now; asked while it is dragged. */
final class SectionController
{
    /** Share of a section's extent by which its drawing may be off: a tenth of a dot. */
    private const DRAWN = 2e-4;

    public function __construct(private readonly MeshStore $store)
    {
    }

    /** The drawing, its area and perimeter: what must follow the hand. */
    public function show(BladeRequest $request, Project $project): JsonResponse
    {
        $plane = $request->plane();
        $area = $perimeter = 0.0;
        $page = null;
        $sections = [];
        foreach ($request->asked($project) as $piece) {
            [$low, $high] = $this->reach($piece, $plane);
            if ($low > 0 || $high < 0) {
                $sections[] = ['piece' => $piece->id, 'cuts' => false, 'outlines' => [], 'lines' => []];

                continue;
            }
            $section = Section::of($this->store->touching($piece->mesh, $plane), $plane, $piece->mesh->extent());
            // Bodies of one piece may lie apart on either side without being touched; then the cut separates them.
            $cuts = ! $section->isEmpty() || ($piece->mesh->shells > 1 && $low < 0 && $high > 0);
            $area += $section->area;
            $perimeter += $section->perimeter;
            $page = $section->page;
            // A drawing needs no more points than its lines have dots.
            $sections[] = [
                'piece' => $piece->id, 'cuts' => $cuts, 'outlines' => Simplified::all($section->outlines, self::DRAWN), 'lines' => Simplified::all($section->lines, self::DRAWN, false),
            ];
        }

        return response()->json(['area' => $area, 'perimeter' => $perimeter, 'page' => $page, 'pieces' => $sections]);
    }

    /** What takes a little longer: volume and box of either side less the kerf, the narrowest width, the vertices that a catch would move. */
    public function sides(BladeRequest $request, Project $project): JsonResponse
    {
        $blade = $request->blade();
        $sides = ['behind' => null, 'ahead' => null];
        $narrowest = null;
        $caught = 0;
        foreach ($request->asked($project) as $piece) {
            [$back, $front] = $blade->faces();
            [$low, $high] = $this->reach($piece, $blade->plane);
            // A piece that lies aside as a whole needs no reading.
            $whole = ['volume' => $piece->mesh->volume, 'min' => [$piece->mesh->x0, $piece->mesh->y0, $piece->mesh->z0], 'max' => [$piece->mesh->x1, $piece->mesh->y1, $piece->mesh->z1]];
            if ($low > $blade->kerf || $high < -$blade->kerf) {
                $found = $low > 0 ? ['ahead' => $whole] : ['behind' => $whole];
            } else {
                $found = $this->store->eitherSide($piece->mesh, $back)->sides();
                $found['ahead'] = $front === $back ? $found['ahead'] : $this->store->eitherSide($piece->mesh, $front)->sides()['ahead'];
            }
            foreach ($found as $side => $more) {
                $sides[$side] = self::sum($sides[$side], $more);
            }
            if ($low > 0 || $high < 0) {
                continue;
            }
            $width = NarrowestWidth::of(Simplified::all(Section::of($this->store->touching($piece->mesh, $blade->plane), $blade->plane, $piece->mesh->extent())->outlines, self::DRAWN));
            $narrowest = $width === null ? $narrowest : min($narrowest ?? INF, $width);
            if ($blade->catch > 0.0) {
                $caught += Catching::of($this->store->touching($piece->mesh, $blade->plane, $blade->catch), $blade->plane, $blade->catch)->caught;
            }
        }
        $space = $project->printer?->space();
        foreach ($sides as $side => $box) {
            if ($box !== null) {
                $size = [$box['max'][0] - $box['min'][0], $box['max'][1] - $box['min'][1], $box['max'][2] - $box['min'][2]];
                $sides[$side] = ['volume' => $box['volume'], 'size' => $size, 'fit' => $space?->holds($size)];
            }
        }

        return response()->json([...$sides, 'narrowest' => $narrowest, 'caught' => $caught]);
    }

    /** The section of all taken pieces as one drawing. */
    public function drawing(BladeRequest $request, Project $project, string $format): Response
    {
        $plane = $request->plane();
        $xyz = $corners = [];
        $extent = 0.0;
        foreach ($request->asked($project) as $piece) {
            $extent = max($extent, $piece->mesh->extent());
            $part = $this->store->touching($piece->mesh, $plane);
            $base = intdiv(count($xyz), 3);
            $xyz = [...$xyz, ...$part->xyz];
            foreach ($part->corners as $corner) {
                $corners[] = $corner + $base;
            }
        }
        $section = Section::of(Mesh::of($xyz, $corners), $plane, $extent);

        return response($format === 'svg' ? SectionDrawing::svg($section) : SectionDrawing::dxf($section), 200, [
            'Content-Type' => $format === 'svg' ? 'image/svg+xml' : 'application/dxf',
            'Content-Disposition' => 'attachment; filename="'.rawurlencode(Names::file($project->name)).'-section.'.$format.'"',
        ]);
    }

    /** @return array{float, float} how far behind and ahead of the plane the piece's box reaches, mm */
    private function reach(Piece $piece, Plane $plane): array
    {
        $mesh = $piece->mesh;
        [$x, $y, $z] = $mesh->centre();
        [$a, $b, $c] = $mesh->size();
        $middle = $plane->nx * $x + $plane->ny * $y + $plane->nz * $z - $plane->offset;
        $half = (abs($plane->nx) * $a + abs($plane->ny) * $b + abs($plane->nz) * $c) / 2;

        return [$middle - $half, $middle + $half];
    }

    /**
     * @param  array{volume: float, min: array{float, float, float}, max: array{float, float, float}}|null  $one
     * @param  array{volume: float, min: array{float, float, float}, max: array{float, float, float}}|null  $other
     * @return array{volume: float, min: array{float, float, float}, max: array{float, float, float}}|null
     */
    private static function sum(?array $one, ?array $other): ?array
    {
        if ($one === null || $other === null) {
            return $one ?? $other;
        }

        return [
            'volume' => $one['volume'] + $other['volume'],
            'min' => [min($one['min'][0], $other['min'][0]), min($one['min'][1], $other['min'][1]), min($one['min'][2], $other['min'][2])],
            'max' => [max($one['max'][0], $other['max'][0]), max($one['max'][1], $other['max'][1]), max($one['max'][2], $other['max'][2])],
        ];
    }
}
