<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use Closure;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Nearest;
use Isotome\Mirror\Symmetry;
use Isotome\Mirror\SymmetryMap;

/** How far a mesh lies from its own reflection, over a plane or over the best one. */
final readonly class HowSymmetric extends Question
{
    /** Triangles up to which it takes less than a blink. */
    private const SHORT = 6000;

    /** Triangles up to which memory suffices for it. */
    private const LARGEST = 2_000_000;

    /**
     * @param  array{through: array{float, float, float}, facing: array{float, float, float}}|null  $plane  null for the best one
     *
     * @throws BadRecipe
     */
    public static function of(StoredMesh $mesh, ?array $plane): self
    {
        if ($mesh->triangles > self::LARGEST) {
            throw new BadRecipe('The piece has more than 2,000,000 triangles; its symmetry is measured up to that.');
        }

        return new self(['mesh' => $mesh->hash, 'triangles' => $mesh->triangles, 'plane' => $plane]);
    }

    public function doing(): string
    {
        return 'measuring its symmetry';
    }

    public function isShort(): bool
    {
        return $this->content['triangles'] <= self::SHORT;
    }

    public function meshes(): array
    {
        return [$this->content['mesh']];
    }

    public function answer(Closure $progress, string $path): ?string
    {
        $mesh = (new MeshStore)->get(StoredMesh::query()->findOrFail($this->content['mesh']));
        $progress(0.05);
        $nearest = new Nearest($mesh);
        $progress(0.3);
        $measuring = static fn (float $share) => $progress(0.3 + 0.4 * $share);
        $plane = $this->content['plane'];
        $symmetry = $plane === null ? Symmetry::best($mesh, nearest: $nearest, progress: $measuring) : Symmetry::of($mesh, Plane::through($plane['through'], $plane['facing']), nearest: $nearest, progress: $measuring);
        $map = SymmetryMap::of($mesh, $symmetry->plane, $nearest, static fn (float $share) => $progress(0.7 + 0.3 * $share));
        $bytes = '';
        foreach ($map->mesh->corners as $v) {
            $bytes .= pack('g4', $map->mesh->xyz[3 * $v], $map->mesh->xyz[3 * $v + 1], $map->mesh->xyz[3 * $v + 2], $map->deviations[$v]);
        }
        $facing = $symmetry->plane->facing();
        file_put_contents($path, json_encode([
            'largest' => $symmetry->largest, 'mean' => $symmetry->mean, 'facing' => $facing,
            'through' => array_map(static fn (float $part): float => $part * $symmetry->plane->offset, $facing),
            'map' => base64_encode($bytes),
        ], JSON_THROW_ON_ERROR));

        return null;
    }
}
