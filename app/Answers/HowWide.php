<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use Closure;
use Illuminate\Support\Collection;
use Isotome\Mirror\Copies;

/** How much of a full turn about an axis the piece that takes most of it has: told with all that is told of copies about that axis. */
final readonly class HowWide extends Question
{
    /** Triangles up to which it takes less than a blink. */
    private const SHORT = 60_000;

    /** Triangles of a piece up to which memory suffices for it; a larger one is not looked at. */
    private const LARGEST = 4_000_000;

    /**
     * @param  Collection<int, Piece>  $pieces  with their meshes
     * @param  array{float, float, float}  $through
     * @param  array{float, float, float}  $axis
     */
    public static function of(Collection $pieces, array $through, array $axis): self
    {
        $meshes = [];
        foreach ($pieces as $piece) {
            if ($piece->mesh->triangles <= self::LARGEST) {
                $meshes[$piece->mesh_hash] = $piece->mesh->triangles;
            }
        }

        return new self(['meshes' => $meshes, 'through' => $through, 'axis' => $axis]);
    }

    public function doing(): string
    {
        return 'looking round the axis';
    }

    public function isShort(): bool
    {
        return array_sum($this->content['meshes']) <= self::SHORT;
    }

    public function meshes(): array
    {
        return array_map(strval(...), array_keys($this->content['meshes']));
    }

    public function answer(Closure $progress, string $path): ?string
    {
        $store = new MeshStore;
        $span = null;
        foreach ($this->meshes() as $n => $hash) {
            $progress($n / count($this->content['meshes']));
            $span = max($span ?? 0.0, Copies::span($store->get(StoredMesh::query()->findOrFail($hash)), $this->content['through'], $this->content['axis']));
        }
        file_put_contents($path, json_encode([
            'refusal' => null, 'crosses' => false, 'apart' => 0.0, 'rims' => 0, 'gap' => 0.0, 'weld' => 0.0, 'kink' => null, 'mean_kink' => null, 'unjoined' => [], 'span' => $span,
        ], JSON_THROW_ON_ERROR));

        return null;
    }
}
