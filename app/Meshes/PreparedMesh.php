<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Mesh as StoredMesh;
use Isotome\Geometry\Box;
use Isotome\Mesh\Blocks;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\SkinBytes;
use Isotome\Mesh\Volume;
use Isotome\Process\SideBySide;

/** A mesh measured and cut into blocks, so that storing it is only writing: the database is locked no longer than that. */
final readonly class PreparedMesh
{
    /** Bytes of what a mesh carries that go into one row. */
    private const SKIN_PART = 100_000;

    /**
     * @param  array<string, mixed>  $row  for the table of meshes
     * @param  list<array{box: array{float, float, float, float, float, float}, sums: array{float, float, float, float}, payload: string}|string>  $blocks  and behind
     *                                                                                                                                              them what the mesh carries, as bytes
     */
    private function __construct(
        public Mesh $mesh,
        public array $row,
        public array $blocks,
    ) {
    }

    /** The row as the database has it once it is stored. */
    public function stored(): StoredMesh
    {
        return (new StoredMesh)->newFromBuilder($this->columns());
    }

    /** @return array<string, mixed> */
    public function columns(): array
    {
        return [...$this->row, 'watertight' => (int) (bool) $this->row['watertight'], 'faults' => json_encode($this->row['faults'], JSON_THROW_ON_ERROR), 'carries' => $this->row['carries'] === [] ? null : json_encode($this->row['carries'], JSON_THROW_ON_ERROR)];
    }

    public function hash(): string
    {
        return is_string($this->row['hash']) ? $this->row['hash'] : '';
    }

    /** Of the blocks. */
    public function bytes(): int
    {
        return is_int($this->row['bytes']) ? $this->row['bytes'] : 0;
    }

    public static function of(Mesh $mesh): self
    {
        // What is told in a few numbers may be found by another process meanwhile.
        [['blocks' => $blocks, 'whole' => $whole], $told] = SideBySide::all([
            static fn (): array => ['blocks' => self::blocks($mesh), 'whole' => self::wholeness($mesh)],
            static fn (): array => self::measured($mesh),
        ], [$mesh->triangleCount(), $mesh->triangleCount()]);

        return new self($mesh, [
            ...$told,
            ...$whole,
            'triangles' => $mesh->triangleCount(),
            'vertices' => $mesh->vertexCount(),
            'carries' => $mesh->skin?->words() ?? [],
            'bytes' => array_sum(array_map(static fn (array|string $block): int => strlen(is_string($block) ? $block : $block['payload']), $blocks)),
        ], $blocks);
    }

    /** @return list<array{box: array{float, float, float, float, float, float}, sums: array{float, float, float, float}, payload: string}|string> */
    private static function blocks(Mesh $mesh): array
    {
        $blocks = Blocks::of($mesh);
        if ($mesh->skin !== null) {
            array_push($blocks, ...str_split(SkinBytes::of($mesh->skin), self::SKIN_PART));
        }

        return $blocks;
    }

    /** @return array<string, mixed> columns */
    private static function wholeness(Mesh $mesh): array
    {
        $edges = EdgeCheck::of($mesh);

        return [
            'watertight' => $edges->isWatertight(),
            'faults' => ['open_edges' => $edges->openEdges, 'nonmanifold_edges' => $edges->nonmanifoldEdges, 'flipped_edges' => $edges->flippedEdges],
            'shells' => Bodies::shellCount($mesh),
        ];
    }

    /** @return array<string, mixed> columns */
    private static function measured(Mesh $mesh): array
    {
        $box = Box::of($mesh->xyz);
        $measures = Volume::measure($mesh);

        return [
            'hash' => Packing::hash($mesh),
            'volume' => $measures->volume,
            'area' => $measures->area,
            'x0' => $box->min[0], 'x1' => $box->max[0], 'y0' => $box->min[1], 'y1' => $box->max[1], 'z0' => $box->min[2], 'z1' => $box->max[2],
            'cx' => $measures->centroid[0], 'cy' => $measures->centroid[1], 'cz' => $measures->centroid[2],
        ];
    }
}
