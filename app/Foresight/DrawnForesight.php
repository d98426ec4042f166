<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Meshes\MeshStore;
use App\Meshes\StandIns;
use App\Models\Piece;
use Illuminate\Support\Collection;
use Isotome\Drawn\DrawnForecast;
use Isotome\Drawn\FlatSheet;
use Isotome\Drawn\LostSide;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Exception\BrokenPromise;
use Isotome\Operation\Given;
use Isotome\Operation\Kind\AlongLines;
use Isotome\Operation\Kind\DrawingStep;
use Isotome\Operation\Names;
use Isotome\Operation\Piece as CorePiece;
use Isotome\Operation\Step;
use Isotome\Operation\Work;

/**
 * What a cut along drawn lines would make of the pieces: the lines on their skin, how many pieces, the volume on either side. At once, from what stands in for them; or tried out on the pieces
 * themselves, when they are small enough, for the numbers that will come.
 */
final class DrawnForesight implements Foresight
{
    /** Pieces that are forecast one by one; of more, the first ones. */
    private const PIECES = 24;

    /** Triangles up to which a piece that nothing can stand in for is forecast. */
    private const TRIANGLES = 60_000;

    /** Triangles of all pieces up to which a cut is tried out. */
    private const TRIED = 200_000;

    /** The same of a rough cut. */
    private const TRIED_ROUGH = 60_000;

    /** A tag that no step has. */
    private const TAG = 0x7FFFFFFF;

    public function __construct(private readonly StandIns $standIns, private readonly MeshStore $store)
    {
    }

    public function foresee(Step $step, Collection $pieces, bool $tried): array
    {
        if (! $step instanceof AlongLines) {
            throw new BadRecipe('There is no line to show; draw it first.');
        }
        $most = $step->drawn()->grain === null ? self::TRIED : self::TRIED_ROUGH;
        if ($tried && ($pieces->sum(static fn (Piece $piece): int => $piece->mesh->triangles) > $most || $pieces->count() > self::PIECES)) {
            return self::told([], $pieces->count());
        }
        $forecasts = [];
        $left = 0;
        foreach ($pieces as $n => $piece) {
            $forecast = $n < self::PIECES ? $this->forecast($piece, $step, $tried) : null;
            if ($forecast === null) {
                $left++;
            } else {
                $forecasts[] = $forecast;
            }
        }

        return self::told($forecasts, $left);
    }

    private function forecast(Piece $piece, Step&AlongLines $step, bool $tried): ?DrawnForecast
    {
        $body = $this->standIns->rough($piece->mesh);
        if ($body->mesh->triangleCount() > self::TRIANGLES) {
            return null;
        }
        $isSheet = ! $piece->mesh->watertight && FlatSheet::is($body->mesh);
        if (! $piece->mesh->watertight && ! $isSheet) {
            throw new BadRecipe(($piece->title ?? Names::title($piece->name)).' is not watertight, so nobody can say what is inside of it; mend it first.');
        }
        try {
            $forecast = DrawnForecast::of($body, $step->drawn(), $isSheet);
            // A score leaves nothing that would be told in more detail.
            if (! $tried || ! $step instanceof DrawingStep) {
                return $forecast;
            }
            $mesh = $this->store->get($piece->mesh);
            $applied = $step->apply([new CorePiece('piece', $mesh, watertight: $piece->mesh->watertight)], new Work(self::TAG, 'the step'));

            return $forecast->made($applied->took === [] ? [$mesh] : array_map(static fn (Given $given) => $given->mesh, $applied->gave), self::TAG, $step->drawn()->grain !== null);
        } catch (BadBlade $refusal) {
            throw new BadRecipe($refusal->getMessage());
        } catch (BrokenPromise) {
            return null;
        }
    }

    /**
     * @param  list<DrawnForecast>  $forecasts
     * @return array<string, mixed>
     */
    private static function told(array $forecasts, int $left): array
    {
        $sum = static fn (int $k): float => array_sum(array_map(static fn (DrawnForecast $one): float => $one->volumes[$k], $forecasts));
        $pack = static fn (array $lines): string => base64_encode(pack('g*', ...array_merge(...$lines)));

        return [
            'pieces' => array_sum(array_map(static fn (DrawnForecast $one): int => $one->pieces, $forecasts)),
            'cut' => count(array_filter($forecasts, static fn (DrawnForecast $one): bool => $one->cuts())),
            'behind_mm3' => $sum(0), 'removed_mm3' => $sum(1), 'ahead_mm3' => $sum(2),
            'loose' => array_sum(array_map(static fn (DrawnForecast $one): int => $one->loose, $forecasts)),
            'about' => array_filter($forecasts, static fn (DrawnForecast $one): bool => ! $one->isExact) !== [], 'left_out' => $left,
            'skin' => $pack(array_map(static fn (DrawnForecast $one): array => $one->skin, $forecasts)), 'inner' => $pack(array_map(static fn (DrawnForecast $one): array => $one->inner, $forecasts)),
            'lost' => self::lost(array_map(static fn (DrawnForecast $one): LostSide => $one->lost, $forecasts)),
        ];
    }

    /**
     * @param  list<LostSide>  $lost  of one blade
     * @return array<string, mixed>|null what does not stay, as an area of the page; null when all does
     */
    private static function lost(array $lost): ?array
    {
        $triangles = array_merge(...array_map(static fn (LostSide $one): array => $one->triangles, $lost));
        if ($lost === [] || $triangles === []) {
            return null;
        }
        [$one] = $lost;

        return [
            'eye' => $one->sight->eye, 'along' => $one->sight->along, 'right' => $one->sight->right, 'up' => $one->sight->up, 'floor' => $one->floor, 'beneath' => $one->isLostBeneath,
            'area' => base64_encode(pack('g*', ...$triangles)),
        ];
    }
}
