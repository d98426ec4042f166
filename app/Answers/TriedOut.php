<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use Closure;
use Isotome\Check\PlacedReport;
use Isotome\Check\Report;
use Isotome\Exception\BadRecipe;
use Isotome\Mend\Difference;
use Isotome\Operation\Kind\MendingStep;
use Isotome\Operation\Kind\ThickenStep;
use Isotome\Operation\Kinds;
use Isotome\Operation\Step;

/** What a mend, or a thickness, would change on one mesh: it is done, compared, and thrown away. */
final readonly class TriedOut extends Question
{
    /** Triangles up to which it takes less than a blink; but for parts with gaps between them, around which a new surface may have to be drawn. */
    private const SHORT = 4000;

    /** Most triangles shown. */
    private const SHOWN = 4000;

    public static function of(Step $step, StoredMesh $mesh): self
    {
        if (! $step instanceof MendingStep && ! $step instanceof ThickenStep) {
            throw new BadRecipe('There is no mend to show; choose one.');
        }

        return new self(['mesh' => $mesh->hash, 'triangles' => $mesh->triangles, 'in_parts' => ! $mesh->watertight && $mesh->shells > 1, 'step' => [...$step->toArray(), 'of' => ['*']]]);
    }

    public function doing(): string
    {
        return 'trying it out';
    }

    public function isShort(): bool
    {
        return $this->content['triangles'] <= self::SHORT && $this->content['in_parts'] !== true;
    }

    public function meshes(): array
    {
        return [$this->content['mesh']];
    }

    public function answer(Closure $progress, string $path): ?string
    {
        $step = Kinds::read($this->content['step'], 'step');
        $before = (new MeshStore)->get(StoredMesh::query()->findOrFail($this->content['mesh']));
        $progress(0.05);
        $did = [];
        if ($step instanceof MendingStep) {
            ['mesh' => $after, 'did' => $did] = $step->on($before, 1, static fn (float $share) => $progress(0.05 + 0.75 * $share));
        } elseif ($step instanceof ThickenStep) {
            $after = $step->on($before, 1);
        } else {
            throw new BadRecipe('There is no mend to show; choose one.');
        }
        $progress(0.8);
        $difference = Difference::of($before, $after);
        $progress(0.85);
        file_put_contents($path, json_encode([
            'did' => (object) $did,
            'before' => Report::of($before, 0, false)->toArray(), 'after' => Report::of($after, 0, false)->toArray(),
            'removed' => count($difference->removed), 'added' => count($difference->added),
            'removed_faces' => PlacedReport::faces($before, array_slice($difference->removed, 0, self::SHOWN)),
            'added_faces' => PlacedReport::faces($after, array_slice($difference->added, 0, self::SHOWN)),
        ], JSON_THROW_ON_ERROR));

        return null;
    }
}
