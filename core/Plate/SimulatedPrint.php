<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Closure;
use Isotome\Exception\BadMesh;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;

/**
 * What a printer would do with a plate: its layers with their outlines, how long each takes, what material goes into it, and why it would refuse.
 *
 * A stand-in for a printer, not one: time and material follow from a simple model, stated here and in docs/commands.md. In each layer every outline is gone along WALLS times at WALL_SPEED; the rest of the area is filled to a
 * share FILL at FILL_SPEED, wholly in the first and the last FLOORS layers of a piece; lines are as wide as the nozzle; a layer begins with a pause. Supports are columns below what hangs over (see Overhang), filled to the same
 * share. The numbers are common practice.
 *
 * It refuses what is not closed, what reaches beyond the space, what is nearer to another piece than the spacing, what begins in the air when there are no supports, and what is thinner than the nozzle over a height of ten nozzles, or of two and a length
 * of ten: thin tips and edges are left out and do not matter.
 */
final readonly class SimulatedPrint
{
    public const WALLS = 2;

    public const FILL = 0.15;

    public const FLOORS = 4;

    /** mm/s */
    public const WALL_SPEED = 40.0;

    public const FILL_SPEED = 80.0;

    /** Seconds a layer. */
    public const PAUSE = 1.5;

    /** g/cm³: polylactide, the most common material. */
    public const DENSITY = 1.24;

    /** Nozzles that a thin part may be long, or high. */
    private const THIN = 10;

    /** Nozzles up to which a thin part may be high however long it is. */
    private const EDGE = 2;

    /** Troubles of a kind that are told of one piece. */
    private const MOST = 40;

    /** Corners nearer to each other are one in what is drawn, as a share of the nozzle. */
    private const COARSE = 0.25;

    /**
     * @param  list<array{at: float, area: float, seconds: float}>  $layers  height of the cut, mm²
     * @param  list<list<list<float>>>  $outlines  of each layer, to be drawn
     * @param  list<array{name: string, seconds: float, mm3: float, supports_mm3: float, layers: int, overhang_mm2: float, below_mm3: float}>  $pieces
     * @param  list<array{what: string, pieces: list<string>, at: array{float, float, float}, mm: float}>  $troubles  what is beyond, near, open, air or thin
     */
    private function __construct(
        public array $layers,
        public array $outlines,
        public array $pieces,
        public array $troubles,
    ) {
    }

    public function seconds(): float
    {
        return array_sum(array_column($this->layers, 'seconds'));
    }

    /** mm³ of material, supports among it. */
    public function material(): float
    {
        return array_sum(array_column($this->pieces, 'mm3')) + array_sum(array_column($this->pieces, 'supports_mm3'));
    }

    public static function grams(float $mm3): float
    {
        return self::DENSITY * $mm3 / 1000;
    }

    /**
     * @param  list<array{name: string, mesh: Mesh, map: list<float>}>  $pieces  with the map to where they lie on the whole bed, whose corner is the origin
     * @param  Closure(float): void|null  $progress
     *
     * @throws BadMesh when there would be too many layers
     */
    public static function of(array $pieces, Profile $profile, bool $isSupported, ?Closure $progress = null): self
    {
        $troubles = $layers = $outlines = $told = [];
        $names = array_column($pieces, 'name');
        $crowding = Crowding::of(array_map(static fn (array $one): array => [$one['mesh'], $one['map']], $pieces), $profile->space, $profile->margin, $profile->spacing);
        $laid = array_map(static fn (array $one): Mesh => Mesh::of(array_values(Affine::points($one['mesh']->xyz, $one['map'])), $one['mesh']->corners), $pieces);
        foreach ($crowding->beyond as [$n, $by]) {
            $troubles[] = ['what' => 'beyond', 'pieces' => [$names[$n]], 'at' => self::middle($laid[$n]), 'mm' => $by];
        }
        foreach ($crowding->near as [$n, $m, $by, [$x, $y]]) {
            $troubles[] = ['what' => 'near', 'pieces' => [$names[$n], $names[$m]], 'at' => [$x, $y, 0.0], 'mm' => $by];
        }
        foreach ($laid as $n => $mesh) {
            try {
                $cut = Layers::of($mesh, $profile->layer);
            } catch (BadMesh $refused) {
                if ($refused->getCode() !== Layers::OPEN) {
                    throw $refused;
                }
                $troubles[] = ['what' => 'open', 'pieces' => [$names[$n]], 'at' => self::middle($mesh), 'mm' => 0.0];

                continue;
            }
            $count = $cut->count();
            $seconds = $material = 0.0;
            $below = null;
            $thin = $found = [];
            foreach ($cut->each() as $k => $layer) {
                $long = array_sum(array_map(ThinParts::around(...), $layer->outlines));
                $area = $layer->area();
                $walls = min($area, self::WALLS * $long * $profile->nozzle);
                $isWhole = $k < self::FLOORS || $k >= $count - self::FLOORS;
                $fill = ($isWhole ? 1.0 : self::FILL) * ($area - $walls);
                $time = ($walls / self::WALL_SPEED + $fill / self::FILL_SPEED) / $profile->nozzle;
                $layers[$k] ??= ['at' => $layer->height, 'area' => 0.0, 'seconds' => self::PAUSE];
                $layers[$k]['area'] += $area;
                $layers[$k]['seconds'] += $time;
                $seconds += $time;
                $material += ($walls + $fill) * $profile->layer;
                foreach ($layer->outlines as $outline) {
                    $outlines[$k][] = self::coarse($outline, self::COARSE * $profile->nozzle);
                }
                if ($below !== null && ! $isSupported) {
                    foreach (Islands::of($layer, $below) as [$x, $y, $island]) {
                        $found[] = ['what' => 'air', 'pieces' => [$names[$n]], 'at' => [$x, $y, $layer->height], 'mm' => sqrt($island)];
                    }
                }
                $thin = self::thin($layer, $profile, $thin, $names[$n], $found);
                $below = $layer;
                $k % 16 === 0 && $progress !== null && $progress(($n + $k / $count) / count($laid));
            }
            foreach (['air', 'thin'] as $what) {
                $some = array_values(array_filter($found, static fn (array $one): bool => $one['what'] === $what));
                usort($some, static fn (array $a, array $b): int => $b['mm'] <=> $a['mm']);
                array_push($troubles, ...array_slice($some, 0, self::MOST));
            }
            $overhang = Overhang::of($mesh);
            $supports = $isSupported ? self::FILL * $overhang->volume : 0.0;
            if ($supports > 0.0) {
                // Spread over the layers, as nobody can say from the volume alone where it is.
                $each = $supports / $profile->layer / $profile->nozzle / self::FILL_SPEED / $count;
                foreach ($layers as $k => $one) {
                    if ($k < $count) {
                        $layers[$k] = [...$one, 'seconds' => $one['seconds'] + $each];
                    }
                }
                $seconds += $each * $count;
            }
            $told[] = ['name' => $names[$n], 'seconds' => $seconds, 'mm3' => $material, 'supports_mm3' => $supports, 'layers' => $count, 'overhang_mm2' => $overhang->area, 'below_mm3' => $overhang->volume];
        }
        ksort($layers);
        ksort($outlines);

        return new self(array_values($layers), array_map(static fn (int $k): array => $outlines[$k] ?? [], array_keys($layers)), $told, $troubles);
    }

    /**
     * Thin parts of a layer, with how high each goes on from the layers below.
     *
     * @param  list<array{array{float, float, float, float}, float, bool}>  $before  those of the layer below: boxes, heights, and whether they were told
     * @param  list<array{what: string, pieces: list<string>, at: array{float, float, float}, mm: float}>  $found
     * @return list<array{array{float, float, float, float}, float, bool}>
     */
    private static function thin(Layer $layer, Profile $profile, array $before, string $name, array &$found): array
    {
        $now = [];
        $most = self::THIN * $profile->nozzle;
        foreach (ThinParts::of($layer, $profile->nozzle) as $box) {
            $high = $profile->layer;
            $wasTold = false;
            foreach ($before as [$other, $so, $is]) {
                if ($other[0] <= $box[2] && $other[2] >= $box[0] && $other[1] <= $box[3] && $other[3] >= $box[1]) {
                    $high = max($high, $so + $profile->layer);
                    $wasTold = $wasTold || $is;
                }
            }
            $long = max($high, hypot($box[2] - $box[0], $box[3] - $box[1]));
            // What is thin in some layers only is the edge of something wider.
            if ($long > $most && $high > self::EDGE * $profile->nozzle && ! $wasTold) {
                $found[] = ['what' => 'thin', 'pieces' => [$name], 'at' => [($box[0] + $box[2]) / 2, ($box[1] + $box[3]) / 2, $layer->height], 'mm' => $long];
                $wasTold = true;
            }
            $now[] = [$box, $high, $wasTold];
        }

        return $now;
    }

    /**
     * @param  list<float>  $outline
     * @return list<float> with corners left out that are next to others
     */
    private static function coarse(array $outline, float $least): array
    {
        $kept = [];
        $least *= $least;
        $px = $py = INF;
        for ($k = 0, $n = count($outline); $k < $n; $k += 2) {
            $x = $outline[$k];
            $y = $outline[$k + 1];
            if (($x - $px) * ($x - $px) + ($y - $py) * ($y - $py) >= $least || $k === 0) {
                $kept[] = $px = $x;
                $kept[] = $py = $y;
            }
        }

        return count($kept) >= 6 ? $kept : $outline;
    }

    /** @return array{float, float, float} */
    private static function middle(Mesh $mesh): array
    {
        $box = Box::of($mesh->xyz === [] ? [0.0, 0.0, 0.0] : $mesh->xyz);

        return [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
    }
}
