<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Mesh;
use Isotome\Recipe\Description;

/** Measures and faults of one mesh, as the check command and the application state them. */
final readonly class Report
{
    /**
     * @param  array{triangles: int, vertices: int, shells: int, watertight: bool, volume_mm3: float, area_mm2: float, size_mm: array{float, float, float}, min_mm: array{float, float, float}, max_mm: array{float, float, float}, centroid_mm: array{float, float, float}}  $measures
     */
    private function __construct(
        private array $measures,
        private EdgeCheck $edges,
        private FaceCheck $faces,
    ) {
    }

    /** @param  int  $collapsed triangles that the reader left out because two of their corners are one */
    public static function of(Mesh $mesh, int $collapsed = 0): self
    {
        return new self(Description::of($mesh), EdgeCheck::of($mesh), FaceCheck::of($mesh, $collapsed));
    }

    public function isSound(): bool
    {
        return $this->edges->isWatertight() && $this->faces->doubled === 0;
    }

    /**
     * Crossing and inner faces are null: this version does not look for them.
     *
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        $m = $this->measures;

        return [
            'triangles' => $m['triangles'],
            'vertices' => $m['vertices'],
            'shells' => $m['shells'],
            'size_mm' => $m['size_mm'],
            'min_mm' => $m['min_mm'],
            'max_mm' => $m['max_mm'],
            'volume_mm3' => $m['volume_mm3'],
            'area_mm2' => $m['area_mm2'],
            'centroid_mm' => $m['centroid_mm'],
            'watertight' => $m['watertight'],
            'faults' => [
                'open_edges' => $this->edges->openEdges,
                'nonmanifold_edges' => $this->edges->nonmanifoldEdges,
                'flipped_edges' => $this->edges->flippedEdges,
                'doubled_faces' => $this->faces->doubled,
                'sliver_faces' => $this->faces->slivers,
                'crossing_faces' => null,
                'inner_faces' => null,
            ],
        ];
    }

    /** @return list<string> */
    public function sentences(string $file): array
    {
        $m = $this->measures;

        return [
            sprintf('%s: %d triangles, %d vertices, %d shells', $file, $m['triangles'], $m['vertices'], $m['shells']),
            sprintf('size %.3f × %.3f × %.3f mm, volume %.3f mm³, area %.3f mm²', ...[...$m['size_mm'], $m['volume_mm3'], $m['area_mm2']]),
            $m['watertight'] ? 'watertight' : sprintf(
                'not watertight: %d open edges, %d edges with more than two faces, %d edges whose faces disagree in direction',
                $this->edges->openEdges, $this->edges->nonmanifoldEdges, $this->edges->flippedEdges,
            ),
            sprintf('%d doubled faces, %d slivers', $this->faces->doubled, $this->faces->slivers),
        ];
    }
}
