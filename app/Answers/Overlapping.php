<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use Closure;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Mesh\Packing;
use Isotome\Operation\Kind\CombiningStep;
use Isotome\Operation\Kinds;
use Isotome\Operation\Piece as CorePiece;
use Isotome\Operation\Work;

/** Which of several pieces overlap, by how much, and what there will be of them: told by their names. Pieces that are not closed are named and left out. */
final readonly class Overlapping extends AboutPieces
{
    /** Triangles up to which it takes less than a blink. */
    protected const SHORT = 4000;

    /** Most triangles shown. */
    private const SHOWN = 60_000;

    /** A tag that no step has. */
    private const TAG = 0x7FFFFFFF;

    /** @param  Collection<int, Piece>  $pieces  with their meshes */
    public static function of(CombiningStep $step, Collection $pieces): self
    {
        return new self([
            'step' => [...$step->toArray(), 'of' => ['*']],
            'pieces' => self::pieces($pieces),
        ]);
    }

    public function doing(): string
    {
        return 'looking for overlaps';
    }

    public function answer(Closure $progress, string $path): ?string
    {
        $step = Kinds::read($this->content['step'], 'step');
        if (! $step instanceof CombiningStep) {
            throw new BadRecipe('There is nothing to combine; set it first.');
        }
        $store = new MeshStore;
        $pieces = $open = [];
        foreach ($this->content['pieces'] as ['name' => $name, 'mesh' => $hash, 'watertight' => $isClosed]) {
            if ($isClosed) {
                $pieces[] = new CorePiece($name, $store->get(StoredMesh::query()->findOrFail($hash)));
            } else {
                $open[] = $name;
            }
        }
        $progress(0.05);
        $told = $pieces === [] ? null : $step->overlaps($pieces, new Work(self::TAG, 'the step', static fn (float $share) => $progress(0.05 + 0.9 * $share)));
        $isShown = $told !== null && count($told->surface) <= 9 * self::SHOWN;
        file_put_contents($path, json_encode([
            'pairs' => array_map(static fn (array $pair): array => ['one' => $pieces[$pair[0]]->name, 'other' => $pieces[$pair[1]]->name, 'common_mm3' => $pair[2], 'contact_mm2' => $pair[3]], $told->pairs ?? []),
            'open' => $open, 'volume_mm3' => $told->volume ?? 0.0, 'surface' => $isShown ? base64_encode(Packing::singles($told->surface)) : '',
        ], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));

        return null;
    }
}
