<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use Closure;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Kind\JoiningStep;
use Isotome\Operation\Kinds;
use Isotome\Operation\Piece as CorePiece;
use Isotome\Operation\Work;

/** Where pegs or marks will be between pieces, face by face, and their edges to be drawn. Pieces that are not closed are named and left out. */
final readonly class AtCommonFaces extends AboutPieces
{
    /** Triangles up to which it takes less than a blink. */
    protected const SHORT = 8000;

    /** @param  Collection<int, Piece>  $pieces  with their meshes */
    public static function of(JoiningStep $step, Collection $pieces): self
    {
        return new self(['step' => [...$step->toArray(), 'of' => ['*']], 'pieces' => self::pieces($pieces)]);
    }

    public function doing(): string
    {
        return 'looking for common faces';
    }

    public function answer(Closure $progress, string $path): ?string
    {
        $step = Kinds::read($this->content['step'], 'step');
        if (! $step instanceof JoiningStep) {
            throw new BadRecipe('There is nothing to put on common faces; set it first.');
        }
        $store = new MeshStore;
        $pieces = $open = [];
        foreach ($this->content['pieces'] as ['name' => $name, 'mesh' => $hash, 'watertight' => $isClosed]) {
            if ($isClosed) {
                $pieces[] = new CorePiece($name, $store->get(StoredMesh::query()->findOrFail($hash)), watertight: true);
            } else {
                $open[] = $name;
            }
        }
        $progress(0.1);
        [$faces, $lines] = count($pieces) > 1 ? $step->foreseen($pieces, new Work(1, 'The step', static fn (float $share) => $progress(0.1 + 0.85 * $share))) : [[], []];
        file_put_contents($path, json_encode(['faces' => $faces, 'open' => $open, 'lines' => base64_encode(pack('g*', ...$lines))], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));

        return null;
    }
}
