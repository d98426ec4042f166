<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Meshes\MeshStore;
use App\Meshes\StandIns;
use App\Models\Piece;
use Illuminate\Support\Collection;
use Isotome\Cells\Forecast;
use Isotome\Cells\StandIn;
use Isotome\Cut\Seal;
use Isotome\Exception\BadRecipe;
use Isotome\Exception\BrokenPromise;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Given;
use Isotome\Operation\Kind\CellsStep;
use Isotome\Operation\Kind\ChopStep;
use Isotome\Operation\Kind\ShatteringStep;
use Isotome\Operation\Names;
use Isotome\Operation\Piece as CorePiece;
use Isotome\Operation\Step;
use Isotome\Operation\Work;

/**
 * What cells would make of the pieces: lines to draw, how many pieces, the largest and the smallest. At once, from what stands in for them; or
 * tried out on the pieces themselves, when they are small enough, for the numbers that will come.
 */
final class CellsForesight implements Foresight
{
    /** Pieces that are forecast one by one; of more, the first ones. */
    private const PIECES = 24;

    /** Triangles up to which a piece that nothing can stand in for is forecast. */
    private const TRIANGLES = 60_000;

    /** Triangles of all pieces up to which a step is tried out; what it makes of them may take a second. */
    private const TRIED = 160_000;

    /** The same where walls are rough. */
    private const TRIED_ROUGH = 40_000;

    /** Pieces up to which it is tried out. */
    private const TRIED_CELLS = 600;

    /** Rounds of a chop up to which it is made of what stands in, for the preview. */
    private const ROUNDS = 8;

    /** A tag that no step has. */
    private const TAG = 0x7FFFFFFF;

    public function __construct(private readonly StandIns $standIns, private readonly MeshStore $store)
    {
    }

    public function foresee(Step $step, Collection $pieces, bool $tried): array
    {
        if (! $step instanceof ShatteringStep) {
            throw new BadRecipe('There are no cells to show; set them first.');
        }
        $most = $step->shatter()->grain === null ? self::TRIED : self::TRIED_ROUGH;
        if ($tried && ($pieces->sum(static fn (Piece $piece): int => $piece->mesh->triangles) > $most || $pieces->count() > self::PIECES)) {
            return ['pieces' => 0, 'largest' => null, 'smallest' => null, 'about' => true, 'left_out' => $pieces->count(), 'skin' => '', 'inner' => ''];
        }
        $skin = $inner = '';
        $volumes = [];
        $isExact = true;
        $left = 0;
        foreach ($pieces as $n => $piece) {
            $this->refuseSealed($piece, $step);
            $forecast = $n >= self::PIECES ? null : ($tried ? $this->tried($piece, $step) : $this->foreseen($piece, $step));
            if ($forecast === null) {
                $left++;

                continue;
            }
            array_push($volumes, ...$forecast->volumes);
            $isExact = $isExact && $forecast->isExact;
            $skin .= pack('g*', ...$forecast->skin);
            $inner .= pack('g*', ...$forecast->inner);
        }
        // Bodies apart in one cell, walls, kerfs and rough walls are not foreseen, only tried out.
        $isExact = $isExact && ($tried || ($step->shatter()->kerf <= 0.0 && $step->shatter()->wall <= 0.0 && $step->shatter()->grain === null));

        return [
            'pieces' => count($volumes), 'largest' => ($volumes === [] ? 0.0 : max($volumes)) ?: null, 'smallest' => ($volumes === [] ? 0.0 : min($volumes)) ?: null,
            'about' => ! $isExact, 'left_out' => $left, 'skin' => base64_encode($skin), 'inner' => base64_encode($inner),
        ];
    }

    /** @throws BadRecipe */
    private function refuseSealed(Piece $piece, ShatteringStep $step): void
    {
        if (! $piece->mesh->watertight && $step->shatter()->wall <= 0.0 && $step->shatter()->seal !== Seal::Open) {
            throw new BadRecipe(($piece->title ?? Names::title($piece->name)).' is not watertight, so its shards cannot be sealed; mend it first, give it a wall, or leave the shards open.');
        }
    }

    private function foreseen(Piece $piece, ShatteringStep $step): ?Forecast
    {
        $standIn = $this->standIns->of($piece->mesh);
        if ($standIn->mesh->triangleCount() > self::TRIANGLES) {
            return null;
        }
        try {
            if ($step instanceof CellsStep) {
                return Forecast::of($this->standIns->rough($piece->mesh), $step->cells()->within($standIn), $step->shatter()->smallest, ! $piece->mesh->watertight);
            }
            if (self::rounds($step) > self::ROUNDS) {
                return null;
            }

            return Forecast::ofPieces(self::bodies($step, $standIn->mesh), self::TAG, $standIn->isItself);
        } catch (BrokenPromise) {
            return null;
        }
    }

    private static function rounds(ShatteringStep $step): int
    {
        return $step instanceof ChopStep ? $step->rounds() : 0;
    }

    /** @return list<Mesh> the piece itself when nothing of it is cut */
    private static function bodies(ShatteringStep $step, Mesh $mesh): array
    {
        $gave = $step->apply([new CorePiece('piece', $mesh)], new Work(self::TAG, 'the step'))->gave;

        return $gave === [] ? [$mesh] : array_map(static fn (Given $given): Mesh => $given->mesh, $gave);
    }

    private function tried(Piece $piece, ShatteringStep $step): ?Forecast
    {
        try {
            $cells = $step instanceof CellsStep ? $step->cells()->within($this->standIns->of($piece->mesh))->labels : 2 ** self::rounds($step);
            if ($cells > self::TRIED_CELLS) {
                return null;
            }
            $mesh = $this->store->get($piece->mesh);
            $bodies = self::bodies($step, $mesh);
            if ($step->shatter()->seal === Seal::Open && $step instanceof CellsStep) {
                // Open pieces have no faces that would tell where they part.
                $itself = new StandIn($mesh, Box::of($mesh->xyz), abs(Volume::of($mesh)), true);
                $lines = Forecast::of($itself, $step->cells()->within($itself), isSheet: true);

                return Forecast::ofPieces($bodies, self::TAG, true)->along($lines);
            }

            $forecast = Forecast::ofPieces($bodies, self::TAG, true);

            // Of a rough wall only the rim is drawn: all its edges would hide it.
            return $step->shatter()->grain === null ? $forecast : $forecast->onSkin();
        } catch (BrokenPromise) {
            return null;
        }
    }
}
