<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use Closure;
use Isotome\Exception\BadRecipe;
use Isotome\Fit\BuildSpace;
use Isotome\Operation\Names;
use Isotome\Operation\PlannedCuts;
use Isotome\Plan\Alternative;
use Isotome\Plan\Cut;
use Isotome\Plan\Plans;
use Isotome\Plan\Wishes;

/** Plans for a piece that is too large: sets of cuts after which every piece fits the printer. */
final readonly class HowToCut extends Question
{
    /** Triangles up to which memory suffices for it. */
    private const LARGEST = 2_000_000;

    private const ALTERNATIVES = 4;

    /**
     * @param  Piece  $piece  with its mesh
     * @param  list<array{float, float, float, float}>  $whole  balls, centre and radius, that no cut may go through
     * @param  list<array{of: string, through: array{float, float, float}, facing: array{float, float, float}}>|null  $cuts  set by hand; null to have them looked for
     * @param  bool  $goesOn  whether pieces that do not fit after those are cut further
     *
     * @throws BadRecipe
     */
    public static function of(Piece $piece, BuildSpace $bed, float $margin, float $gap, float $peg, array $whole = [], ?array $cuts = null, bool $goesOn = false): self
    {
        $title = $piece->title ?? Names::title($piece->name);
        if ($piece->mesh->triangles > self::LARGEST) {
            throw new BadRecipe("$title has more than 2,000,000 triangles; plans are made up to that, so cut it once by hand first.");
        }
        if (! $piece->mesh->watertight) {
            throw new BadRecipe("$title is not watertight, so nobody can say what is inside of it; mend it at the Check station first.");
        }
        // What is wrong with them is said at once.
        Wishes::of($bed->sides(), $margin, $gap, self::ALTERNATIVES, $peg, $whole);

        $set = $cuts === null ? null : array_map(static fn (array $cut): array => [PlannedCuts::path($piece->name, $cut['of']) ?? throw new BadRecipe('The plan is for another piece; look for cuts again.'), $cut['through'], $cut['facing']], $cuts);

        return new self(['name' => $piece->name, 'mesh' => $piece->mesh_hash, 'bed' => $bed->sides(), 'margin' => $margin, 'gap' => $gap, 'peg' => $peg, 'whole' => $whole, 'set' => $set, 'goes_on' => $goesOn]);
    }

    public function doing(): string
    {
        return 'looking for cuts';
    }

    public function isShort(): bool
    {
        return false;
    }

    public function meshes(): array
    {
        return [$this->content['mesh']];
    }

    public function answer(Closure $progress, string $path): ?string
    {
        ['name' => $name, 'bed' => $bed, 'margin' => $margin, 'gap' => $gap, 'peg' => $peg] = $this->content;
        $mesh = (new MeshStore)->get(StoredMesh::query()->findOrFail($this->content['mesh']));
        $wishes = Wishes::of($bed, $margin, $gap, self::ALTERNATIVES, $peg, $this->content['whole']);
        if ($this->content['set'] !== null) {
            $cuts = array_map(static fn (array $cut): array => [$cut[0], Cut::at($cut[1], $cut[2])], $this->content['set']);
            $least = 1;
            $alternatives = [Plans::revised($mesh, $wishes, $cuts, $this->content['goes_on'])];
        } else {
            $plans = Plans::of($mesh, $wishes, $progress);
            $least = $plans->least;
            $alternatives = $plans->alternatives;
        }
        file_put_contents($path, json_encode([
            'least' => $least,
            'alternatives' => array_map(static fn (Alternative $of): array => [
                'cost' => $of->cost(), 'terms' => $of->terms->toArray(), 'cuts' => PlannedCuts::drawn($of, $name), 'pieces' => PlannedCuts::pieces($of, $name), 'steps' => PlannedCuts::steps($of, $name, $gap),
            ], $alternatives),
        ], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));

        return null;
    }
}
