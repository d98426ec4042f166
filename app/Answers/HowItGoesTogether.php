<?php

declare(strict_types=1);

namespace App\Answers;

use App\Lineage\PegsBetween;
use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use App\Models\Printer;
use App\Models\Project;
use App\Plates\Layout;
use Closure;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Join\Assembly;
use Isotome\Join\AssemblyStep;
use Isotome\Join\CommonFace;
use Isotome\Join\Joints;
use Isotome\Plate\SimulatedPrint;

/** For the assembly sheet: in which order pieces go together and from which side, what each shares with its neighbours, on which plate it lies, and what printing takes. */
final readonly class HowItGoesTogether extends AboutLayout
{
    private const MOST_PIECES = 300;

    /** Of common faces, mm: across a kerf. */
    private const REACH = 1.0;

    /** What shares less is no neighbour, mm². */
    private const LEAST = 0.5;

    /**
     * @param  Collection<int, Piece>  $pieces  living, with their meshes, as they stand together
     * @param  Layout  $layout  may be of no plates; then nothing is said of printing
     *
     * @throws BadRecipe
     */
    public static function of(Project $project, Collection $pieces, Layout $layout, Printer $printer, float $margin, float $spacing, bool $isSupported): self
    {
        if ($pieces->isEmpty()) {
            throw new BadRecipe('There is no piece to put together.');
        }
        if ($pieces->count() > self::MOST_PIECES) {
            throw new BadRecipe('A sheet is made for up to '.self::MOST_PIECES.' pieces; pick some of them.');
        }

        return new self([
            ...self::about($layout, $printer, $margin, $spacing), 'supported' => $isSupported, 'pegs' => PegsBetween::living($project, $pieces),
            'pieces' => array_values($pieces->map(static fn (Piece $piece): array => ['name' => $piece->name, 'mesh' => $piece->mesh_hash])->all()),
        ]);
    }

    public function doing(): string
    {
        return 'finding an order of putting together';
    }

    public function isShort(): bool
    {
        return false;
    }

    public function meshes(): array
    {
        return array_values(array_unique([...parent::meshes(), ...array_column($this->content['pieces'], 'mesh')]));
    }

    public function answer(Closure $progress, string $path): ?string
    {
        $store = new MeshStore;
        $names = array_column($this->content['pieces'], 'name');
        $meshes = [];
        foreach ($this->content['pieces'] as ['mesh' => $hash]) {
            $meshes[] = $store->get(StoredMesh::query()->findOrFail($hash));
        }
        $pairs = [];
        foreach ($meshes as $n => $_) {
            for ($m = $n + 1, $count = count($meshes); $m < $count; $m++) {
                $pairs[] = [$n, $m];
            }
        }
        $joints = Joints::of($meshes, $pairs, self::REACH, static fn (float $share) => $progress(0.3 * $share));
        foreach ($joints as $n => [$first, $second, $faces]) {
            $joints[$n][2] = array_values(array_filter($faces, static fn (CommonFace $face): bool => $face->area >= self::LEAST));
        }
        $joints = array_values(array_filter($joints, static fn (array $joint): bool => $joint[2] !== []));
        $steps = Assembly::of($meshes, $joints, static fn (float $share) => $progress(0.3 + 0.3 * $share));
        $prints = $this->prints(static fn (float $share) => $progress(0.6 + 0.4 * $share));
        file_put_contents($path, json_encode([
            'steps' => array_map(static fn (AssemblyStep $step): array => [
                'pieces' => array_map(static fn (int $n): string => $names[$n], $step->pieces), 'onto' => array_map(static fn (int $n): string => $names[$n], $step->onto),
                'along' => $step->along, 'apart' => $step->isApart, 'blocked' => $step->isBlocked,
            ], $steps),
            'joints' => array_map(fn (array $joint): array => [
                'between' => [$names[$joint[0]], $names[$joint[1]]], 'area_mm2' => array_sum(array_map(static fn (CommonFace $face): float => $face->area, $joint[2])), 'pegs' => $this->pegs($names[$joint[0]], $names[$joint[1]]),
            ], $joints),
            'prints' => $prints,
        ], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));

        return null;
    }

    private function pegs(string $one, string $other): int
    {
        $pegs = 0;
        foreach ($this->content['pegs'] as ['between' => $between, 'count' => $count]) {
            $pegs += in_array($one, $between, true) && in_array($other, $between, true) ? $count : 0;
        }

        return $pegs;
    }

    /**
     * @param  Closure(float): void  $progress
     * @return list<array<string, mixed>> plate by plate
     */
    private function prints(Closure $progress): array
    {
        $meshes = $this->load();
        $prints = [];
        $count = count($this->content['plates']);
        foreach ($this->content['plates'] as $n => $plate) {
            $print = SimulatedPrint::of(self::laid($plate, $meshes), $this->profile(), $this->content['supported'], static fn (float $share) => $progress(($n + $share) / $count));
            // What is not closed has no layers, and so no line of its own.
            $laid = array_combine(array_map(static fn (array $one): string => Layout::label($one['piece'], $one['copy']), $plate['pieces']), $plate['pieces']);
            $prints[] = [
                'seconds' => $print->seconds(), 'grams' => SimulatedPrint::grams($print->material()),
                'pieces' => array_map(static fn (array $one): array => ['piece' => $laid[$one['name']]['piece'], 'copy' => $laid[$one['name']]['copy'], 'seconds' => $one['seconds'], 'grams' => SimulatedPrint::grams($one['mm3'] + $one['supports_mm3'])], $print->pieces),
            ];
        }

        return $prints;
    }
}
