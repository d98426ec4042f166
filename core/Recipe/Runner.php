<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Closure;
use Isotome\Check\EdgeCheck;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Exception\BrokenPromise;
use Isotome\Mesh\Mesh;

/**
 * Runs the steps of a recipe, one by one, with a check after each.
 *
 * Guarantees: a sealed step that gives a body with open edges from one without stops the run (BrokenPromise); a step that
 * cuts nothing is refused; the same pieces and recipe give the same result. Pieces that a blade misses stay as they are.
 */
final class Runner
{
    private int $made = 0;

    private int $earlier = 0;

    /** @var list<StepRecord> */
    private array $records = [];

    /** @param  array<string, Piece>  $pieces by name, in order */
    private function __construct(private array $pieces)
    {
    }

    public static function on(string $name, Mesh $mesh): self
    {
        return new self([$name => new Piece($name, $mesh, null, 0, Palette::colour(0), EdgeCheck::of($mesh)->isWatertight())]);
    }

    /**
     * Goes on after earlier steps.
     *
     * @param  list<Piece>  $pieces  those to work on
     * @param  int  $steps  steps run before
     * @param  int  $made  pieces made before, for the colours to go on from
     */
    public static function resume(array $pieces, int $steps, int $made): self
    {
        $byName = [];
        foreach ($pieces as $piece) {
            $byName[$piece->name] = $piece;
        }
        $runner = new self($byName);
        $runner->earlier = $steps;
        $runner->made = $made;

        return $runner;
    }

    /** @return array<string, Piece> */
    public function pieces(): array
    {
        return $this->pieces;
    }

    /** @return list<StepRecord> */
    public function records(): array
    {
        return $this->records;
    }

    /**
     * @param  Closure(float): void|null  $progress  called with the share done, 0 to 1; it may throw to cancel
     */
    public function run(CutStep $step, ?Closure $progress = null): StepRecord
    {
        $number = $this->earlier + count($this->records) + 1;
        $at = 'steps['.($number - 1).']';
        $taken = array_filter($this->pieces, static fn (Piece $piece): bool => $step->takes($piece->name));
        if ($taken === []) {
            throw new BadRecipe("$at takes no piece (of: ".implode(', ', array_slice($step->of, 0, 5)).'); name pieces that exist: '.implode(', ', array_slice(array_keys($this->pieces), 0, 8)).'.');
        }
        memory_reset_peak_usage();
        $start = hrtime(true);
        $took = [];
        $gave = [];
        $unclosed = [];
        $crossing = [];
        $after = [];
        $done = 0;
        foreach ($this->pieces as $name => $piece) {
            $outcome = isset($taken[$name]) ? FlatCut::of($piece->mesh, $step->blade, $number) : null;
            if ($outcome === null) {
                $after[$name] = $piece;
            } else {
                $took[] = $piece->name;
                foreach ($outcome->bodies as $n => $body) {
                    $child = $this->child($piece, $body, $n, $number, $step, count($gave));
                    $after[$child->name] = $child;
                    $gave[] = $child->name;
                }
                foreach ($outcome->unclosed as $path) {
                    $unclosed[] = self::described($piece->name, $path);
                }
                if (! $outcome->sound) {
                    $crossing[] = $piece->name;
                }
            }
            if ($progress !== null && isset($taken[$name])) {
                $progress(++$done / count($taken));
            }
        }
        if ($took === []) {
            throw new BadBlade(self::missed($at, $step, $taken));
        }
        $this->made += count($gave);
        $this->pieces = $after;

        return $this->records[] = new StepRecord(
            $took, $gave, (hrtime(true) - $start) / 1e9, memory_get_peak_usage() / 1048576, $unclosed, $crossing,
        );
    }

    private function child(Piece $parent, Mesh $body, int $n, int $number, CutStep $step, int $before): Piece
    {
        $watertight = EdgeCheck::of($body)->isWatertight();
        $name = Names::child($parent->name, $n);
        if ($parent->watertight && ! $watertight && $step->blade->seal !== Seal::Open && $step->blade->keep !== Keep::Outline) {
            throw new BrokenPromise("Step $number made $name with open edges from the watertight {$parent->name}, which must not happen; keep the mesh and the recipe and report them.");
        }

        return new Piece($name, $body, $parent->name, $number, Palette::colour($this->made + $before + 1), $watertight);
    }

    /**
     * @param  list<array{float, float, float}>  $path
     * @return array{piece: string, points: int, length_mm: float, from: array{float, float, float}, to: array{float, float, float}}
     */
    private static function described(string $piece, array $path): array
    {
        $length = 0.0;
        for ($i = 1; $i < count($path); $i++) {
            $length += sqrt(($path[$i][0] - $path[$i - 1][0]) ** 2 + ($path[$i][1] - $path[$i - 1][1]) ** 2 + ($path[$i][2] - $path[$i - 1][2]) ** 2);
        }

        return ['piece' => $piece, 'points' => count($path), 'length_mm' => $length, 'from' => $path[0], 'to' => $path[count($path) - 1]];
    }

    /** @param  array<string, Piece>  $taken */
    private static function missed(string $at, CutStep $step, array $taken): string
    {
        $plane = $step->blade->plane;
        $low = INF;
        $high = -INF;
        foreach ($taken as $piece) {
            $xyz = $piece->mesh->xyz;
            for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
                $d = $plane->nx * $xyz[$i] + $plane->ny * $xyz[$i + 1] + $plane->nz * $xyz[$i + 2] - $plane->offset;
                $low = min($low, $d);
                $high = max($high, $d);
            }
        }
        $names = count($taken) === 1 ? array_key_first($taken).' lies' : 'the '.count($taken).' pieces it takes lie';

        return sprintf('The blade of %s cuts nothing: %s from %.3f to %.3f mm along its facing, counted from the blade; move it in between.', $at, $names, $low, $high);
    }
}
