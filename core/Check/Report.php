<?php

declare(strict_types=1);

namespace Isotome\Check;

use Closure;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Tree;
use Isotome\Mesh\Volume;

/**
 * Measures and faults of one mesh, as the check command and the application state them, each fault with its places: triangle
 * numbers and the vertex numbers of edges.
 */
final readonly class Report
{
    /**
     * @param  list<array{int, int}>  $nearVertices
     * @param  list<int>|null  $innerFaces  null when not looked for
     */
    private function __construct(
        public Mesh $mesh,
        public EdgeCheck $edges,
        public EdgePlaces $places,
        public FaceCheck $faces,
        public Shells $shells,
        public Rims $rims,
        public array $nearVertices,
        public ?Crossings $crossings,
        public ?array $innerFaces,
    ) {
    }

    /**
     * @param  int  $collapsed  triangles that the reader left out because two of their corners are one
     * @param  bool  $whole  look for crossing and inner faces too, which takes longer
     * @param  float|null  $near  vertices within this distance, mm, count as near; a hundred-thousandth of the size, and only at open edges, when null
     * @param  Closure(float): void|null  $progress  it may throw to cancel
     */
    public static function of(Mesh $mesh, int $collapsed = 0, bool $whole = true, ?float $near = null, ?Closure $progress = null): self
    {
        $edges = EdgeCheck::of($mesh);
        $places = $edges->isWatertight() ? EdgePlaces::of(Mesh::of([], [])) : EdgePlaces::of($mesh);
        $faces = FaceCheck::of($mesh, $collapsed, $edges);
        $shells = Shells::of($mesh, $edges->isWatertight());
        $size = Box::of($mesh->xyz)->size();
        $rimVertices = array_values(array_unique([...array_column($places->open, 0), ...array_column($places->open, 1)]));
        $close = 1e-5 * sqrt($size[0] ** 2 + $size[1] ** 2 + $size[2] ** 2);
        $pairs = $near !== null && $near > 0 ? NearVertices::of($mesh, $near) : ($close > 0 && $rimVertices !== [] ? NearVertices::of($mesh, $close, $rimVertices) : []);
        $tree = $whole && ! $mesh->isEmpty() ? Tree::of($mesh) : null;
        $crossings = $tree === null ? null : Crossings::of($mesh, $tree, $progress);
        $inner = $tree === null || $crossings === null ? null : InnerFaces::of($mesh, $shells, $places, $crossings->faces, $tree);

        return new self($mesh, $edges, $places, $faces, $shells, Rims::of($mesh, $places->open), $pairs, $crossings, $inner);
    }

    /** Watertight, and no fault that a print or a cut would stumble over; slivers alone are none. */
    public function isSound(): bool
    {
        return $this->edges->isWatertight() && $this->faces->doubled === 0 && $this->shells->inverted === []
            && ($this->crossings === null || $this->crossings->faces === []) && ($this->innerFaces ?? []) === [];
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $box = Box::of($this->mesh->xyz);
        $measures = Volume::measure($this->mesh);

        return [
            'triangles' => $this->mesh->triangleCount(),
            'vertices' => $this->mesh->vertexCount(),
            'shells' => $this->shells->count,
            'size_mm' => $box->size(),
            'min_mm' => $box->min,
            'max_mm' => $box->max,
            'volume_mm3' => $measures->volume,
            'area_mm2' => $measures->area,
            'centroid_mm' => $measures->centroid,
            'watertight' => $this->edges->isWatertight(),
            'faults' => [
                'open_edges' => $this->edges->openEdges,
                'nonmanifold_edges' => $this->edges->nonmanifoldEdges,
                'flipped_edges' => $this->edges->flippedEdges,
                'doubled_faces' => $this->faces->doubled,
                'sliver_faces' => $this->faces->slivers,
                'crossing_faces' => $this->crossings === null ? null : count($this->crossings->faces),
                'inner_faces' => $this->innerFaces === null ? null : count($this->innerFaces),
            ],
        ];
    }

    /** @return array{rims: int, cavities: int, handles: int|null, inverted_shells: int, near_vertices: int, isolated_vertices: int} what else there is to know */
    public function notes(): array
    {
        return [
            'rims' => count($this->rims->list),
            'cavities' => count($this->shells->cavities),
            'handles' => $this->shells->handles,
            'inverted_shells' => count($this->shells->inverted),
            'near_vertices' => count($this->nearVertices),
            'isolated_vertices' => $this->shells->isolatedVertices,
        ];
    }

    /**
     * Where the faults are, at most so many places a fault.
     *
     * @return array<string, mixed>
     */
    public function places(int $most = 1000): array
    {
        return [
            'open_edges' => array_slice($this->places->open, 0, $most),
            'rims' => array_map(static fn (array $rim): array => [...$rim, 'vertices' => array_slice($rim['vertices'], 0, $most)], array_slice($this->rims->list, 0, $most)),
            'nonmanifold_edges' => array_slice($this->places->nonmanifold, 0, $most),
            'flipped_edges' => array_slice($this->places->flipped, 0, $most),
            'doubled_faces' => array_slice($this->faces->doubledFaces, 0, $most),
            'sliver_faces' => array_slice($this->faces->sliverFaces, 0, $most),
            'crossing_faces' => array_slice($this->crossings->pairs ?? [], 0, $most),
            'inner_faces' => array_slice($this->innerFaces ?? [], 0, $most),
            'near_vertices' => array_slice($this->nearVertices, 0, $most),
        ];
    }

    /** @return list<string> */
    public function sentences(string $file): array
    {
        $size = Box::of($this->mesh->xyz)->size();
        $measures = Volume::measure($this->mesh);
        $lines = [
            sprintf('%s: %d triangles, %d vertices, %d shells, %d of them cavities%s', $file, $this->mesh->triangleCount(), $this->mesh->vertexCount(), $this->shells->count, count($this->shells->cavities),
                $this->shells->handles === null ? '' : ", {$this->shells->handles} handles"),
            sprintf('size %.3f × %.3f × %.3f mm, volume %.3f mm³, area %.3f mm²', ...[...$size, $measures->volume, $measures->area]),
            $this->edges->isWatertight() ? 'watertight' : sprintf(
                'not watertight: %d open edges in %d rims, %d edges with more than two faces, %d edges whose faces disagree in direction',
                $this->edges->openEdges, count($this->rims->list), $this->edges->nonmanifoldEdges, $this->edges->flippedEdges,
            ),
            sprintf('%d doubled faces, %d slivers', $this->faces->doubled, $this->faces->slivers)
                .($this->crossings === null ? '' : sprintf(', %d faces that cross others, %d inner faces', count($this->crossings->faces), count($this->innerFaces ?? []))),
        ];
        foreach (array_slice($this->rims->list, 0, 5) as $n => $rim) {
            $v = 3 * $rim['vertices'][0];
            $lines[] = sprintf('rim %d: %d edges, %.3f mm long, at (%.3f, %.3f, %.3f)', $n + 1, count($rim['vertices']), $rim['length_mm'],
                $this->mesh->xyz[$v], $this->mesh->xyz[$v + 1], $this->mesh->xyz[$v + 2]);
        }
        if ($this->shells->inverted !== []) {
            $lines[] = count($this->shells->inverted).' shells are turned inside out';
        }
        if ($this->nearVertices !== []) {
            $lines[] = count($this->nearVertices).' pairs of vertices lie at one place without being joined';
        }

        return $lines;
    }
}
