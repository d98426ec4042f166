<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use App\Plates\Layout;
use Closure;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Fit\BuildSpace;
use Isotome\Operation\Names;
use Isotome\Operation\PlateFiles;
use Isotome\Plan\Wishes;
use Isotome\Plate\Plates;

/** Pieces laid down and packed on the plates of a printer, some of them several times. */
final readonly class OnPlates extends Question
{
    /** Triangles up to which memory and patience suffice. */
    private const LARGEST = 4_000_000;

    /**
     * @param  Collection<int, Piece>  $pieces  with their meshes
     * @param  float  $step  degrees: they are turned by multiples of it only; 0 for freely
     * @param  array<string, int>  $copies  how many of a piece, by name; one where nothing is said
     * @param  Layout  $kept  what lies on plates that stay as they are
     *
     * @throws BadRecipe
     */
    public static function of(Collection $pieces, BuildSpace $bed, float $margin, float $spacing, bool $isTurned, float $step, array $copies, Layout $kept): self
    {
        if ($pieces->isEmpty()) {
            throw new BadRecipe('There is no piece to put on a plate.');
        }
        $count = $pieces->sum(static fn (Piece $piece): int => $copies[$piece->name] ?? 1);
        if ($count > Layout::MOST_PIECES || $pieces->sum(static fn (Piece $piece): int => $piece->mesh->triangles) > self::LARGEST) {
            throw new BadRecipe(number_format($count).' pieces, copies among them, are too many for one go: up to '.number_format(Layout::MOST_PIECES).' are packed, of up to '.number_format(self::LARGEST).' triangles; pick some of them, or fewer copies.');
        }
        $open = $pieces->first(static fn (Piece $piece): bool => ! $piece->mesh->watertight);
        if ($open !== null) {
            throw new BadRecipe(($open->title ?? Names::title($open->name)).' is not watertight, so nobody can say what it weighs or how it stands; mend it at the Check station first, or pick others.');
        }
        // What is wrong with them is said at once.
        $space = Wishes::of($bed->sides(), $margin)->space;
        if (! is_finite($spacing) || $spacing < 0.0 || $spacing > max($space->x, $space->y)) {
            throw new BadRecipe('The spacing is no length from 0 mm to the width of the bed; type it again.');
        }
        $there = $kept->labels();
        $asked = [];
        foreach ($pieces as $piece) {
            for ($copy = 1, $last = $copies[$piece->name] ?? 1; $copy <= $last; $copy++) {
                if (! isset($there[Layout::label($piece->name, $copy)])) {
                    $asked[] = ['name' => $piece->name, 'copy' => $copy, 'mesh' => $piece->mesh_hash];
                }
            }
        }

        return new self(['bed' => $bed->sides(), 'margin' => $margin, 'spacing' => $spacing, 'turned' => $isTurned, 'step' => $step, 'pieces' => $asked]);
    }

    public function doing(): string
    {
        return 'packing plates';
    }

    public function isShort(): bool
    {
        return $this->content['pieces'] === [];
    }

    public function meshes(): array
    {
        return array_values(array_unique(array_column($this->content['pieces'], 'mesh')));
    }

    public function answer(Closure $progress, string $path): ?string
    {
        ['bed' => $bed, 'margin' => $margin, 'spacing' => $spacing, 'turned' => $isTurned, 'step' => $step] = $this->content;
        $store = new MeshStore;
        $pieces = $meshes = [];
        foreach ($this->content['pieces'] as $n => ['name' => $name, 'copy' => $copy, 'mesh' => $hash]) {
            $progress(0.2 * $n / count($this->content['pieces']));
            $pieces[Layout::label($name, $copy)] = $meshes[$hash] ??= $store->get(StoredMesh::query()->findOrFail($hash));
        }
        $progress(0.2);
        $plates = $pieces === [] ? [] : PlateFiles::packed(Plates::of($pieces, Wishes::of($bed, $margin)->space, $spacing, $isTurned, $step), array_map(strval(...), array_keys($pieces)), $margin);
        $by = array_combine(array_map(static fn (array $one): string => Layout::label($one['name'], $one['copy']), $this->content['pieces']), $this->content['pieces']);
        file_put_contents($path, json_encode(['bed' => $bed, 'plates' => array_map(static fn (array $plate): array => array_map(static fn (array $one): array => [
            'piece' => $by[$one['name']]['name'], 'copy' => $by[$one['name']]['copy'], 'mesh' => $by[$one['name']]['mesh'], 'pose' => $one['pose'], 'stable' => $one['stable'],
        ], $plate), $plates)], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));

        return null;
    }
}
