<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\Fits;
use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use Closure;
use Isotome\Fit\BuildSpace;

/** Which meshes go into a printer's space in any turn. It is kept with the meshes: the answer is only how many were looked at. */
final readonly class WhetherTheyFit extends Question
{
    /** Triangles up to which it takes about a second. */
    private const SHORT = 20_000;

    /** @param  non-empty-list<StoredMesh>  $meshes  of which it is not known */
    public static function of(array $meshes, BuildSpace $space): self
    {
        return new self([
            'space' => $space->sides(), 'meshes' => array_values(array_unique(array_map(static fn (StoredMesh $mesh): string => $mesh->hash, $meshes))),
            'triangles' => array_sum(array_map(static fn (StoredMesh $mesh): int => $mesh->triangles, $meshes)),
        ]);
    }

    public function doing(): string
    {
        return 'looking how pieces fit the printer';
    }

    public function isShort(): bool
    {
        return count($this->content['meshes']) === 1 && $this->content['triangles'] <= self::SHORT;
    }

    public function meshes(): array
    {
        return $this->content['meshes'];
    }

    public function answer(Closure $progress, string $path): ?string
    {
        $space = BuildSpace::of($this->content['space']);
        $count = count($this->content['meshes']);
        foreach ($this->content['meshes'] as $n => $hash) {
            $progress($n / $count);
            $row = StoredMesh::query()->findOrFail($hash);
            Fits::learn($row, (new MeshStore)->get($row), $space);
        }
        file_put_contents($path, json_encode(['looked_at' => $count], JSON_THROW_ON_ERROR));

        return null;
    }
}
