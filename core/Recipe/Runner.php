<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Closure;
use Isotome\Check\EdgeCheck;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Cut\Outcome;
use Isotome\Cut\Score;
use Isotome\Cut\Seal;
use Isotome\Cut\SeriesCut;
use Isotome\Cut\WanderCut;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Exception\BrokenPromise;
use Isotome\Mend\Thicken;
use Isotome\Mesh\Bodies;
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

    /** @param  array<string, Mesh>  $parts  bodies that stand for themselves, by name; instead of the mesh when there are any */
    public static function on(string $name, Mesh $mesh, array $parts = []): self
    {
        $pieces = [];
        foreach ($parts === [] ? [$name => $mesh] : $parts as $part => $one) {
            $part = (string) $part;
            $pieces[$part] = new Piece($part, $one, null, 0, Palette::colour(count($pieces)));
        }
        $runner = new self($pieces);
        $runner->made = count($pieces) - 1;

        return $runner;
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
    public function run(Step $step, ?Closure $progress = null): StepRecord
    {
        $number = $this->earlier + count($this->records) + 1;
        $at = 'steps['.($number - 1).']';
        $taken = array_filter($this->pieces, static fn (Piece $piece): bool => $step->takes($piece->name));
        if ($taken === []) {
            throw new BadRecipe("$at takes no piece (of: ".implode(', ', array_slice($step->of(), 0, 5)).'); name pieces that exist: '.implode(', ', array_slice(array_keys($this->pieces), 0, 8)).'.');
        }
        memory_reset_peak_usage();
        $start = hrtime(true);
        $took = $gave = $unclosed = $crossing = $mended = $mirrored = $after = [];
        $done = 0;
        foreach ($this->pieces as $name => $piece) {
            if (! isset($taken[$name])) {
                $after[$name] = $piece;

                continue;
            }
            $share = static fn (float $part) => $progress !== null ? $progress(($done + $part) / count($taken)) : null;
            if ($step instanceof MendStep) {
                ['mesh' => $mesh, 'did' => $mended[$piece->name]] = $step->on($piece->mesh, $number);
                // One mend alone may open what another closes: nothing is promised of it.
                $after[$name] = $mesh === $piece->mesh ? $piece
                    : new Piece($piece->name, $mesh, $piece->parent, $number, $piece->colour, EdgeCheck::of($mesh)->isWatertight());
                $took[] = $piece->name;
                $gave[] = $piece->name;
            } elseif ($step instanceof ThickenStep) {
                $after[$name] = $this->inPlace($piece, Thicken::of($piece->mesh, $step->thickness, $step->side, $number), $number);
                $took[] = $piece->name;
                $gave[] = $piece->name;
            } elseif ($step instanceof CutStep && $step->isScore) {
                $scored = Score::of($piece->mesh, $step->blade->plane, self::picked($piece, $step, $at))?->mesh;
                $after[$name] = $scored === null ? $piece : $this->inPlace($piece, $scored, $number);
                if ($scored !== null) {
                    $took[] = $piece->name;
                    $gave[] = $piece->name;
                }
            } elseif ($step instanceof MirrorStep) {
                $outcome = $step->mirror($piece->mesh, $number);
                $wasWatertight = $piece->watertight ?? EdgeCheck::of($piece->mesh)->isWatertight();
                $took[] = $piece->name;
                foreach ($outcome->bodies as $n => $body) {
                    $child = $this->child($piece, $body, $n, $number, $wasWatertight && $step->settings !== null, count($gave));
                    $after[$child->name] = $child;
                    $gave[] = $child->name;
                }
                foreach ($outcome->unjoined as $path) {
                    $unclosed[] = self::described($piece->name, $path);
                }
                $mirrored[$piece->name] = $outcome->said();
            } elseif ($step instanceof CutStep || $step instanceof CellsStep) {
                $outcome = $step instanceof CellsStep
                    ? $step->cut($piece->mesh, $number, static function (float $part) use ($share): void {
                        $share($part);
                    }) : self::cut($piece, $step, $number, $at, $share);
                $mustClose = $step instanceof CellsStep
                    ? $step->settings->seal !== Seal::Open
                    : $step->blade->seal !== Seal::Open && $step->blade->keep !== Keep::Outline && $step->faces === null;
                if ($outcome === null) {
                    $after[$name] = $piece;
                } else {
                    $took[] = $piece->name;
                    foreach ($outcome->bodies as $n => $body) {
                        $child = $this->child($piece, $body, $n, $number, $mustClose, count($gave));
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
            }
            $done++;
            $progress !== null && $progress($done / count($taken));
        }
        if ($took === [] && $step instanceof CutStep) {
            throw new BadBlade(self::missed($at, $step, $taken));
        }
        if ($took === [] && $step instanceof CellsStep) {
            throw new BadBlade("The cells of $at cut nothing: each piece lies within one cell, or is smaller than the smallest; give more cells or a smaller share.");
        }
        $this->made += ($step instanceof CutStep && ! $step->isScore) || $step instanceof CellsStep || $step instanceof MirrorStep ? count($gave) : 0;
        $this->pieces = $after;

        return $this->records[] = new StepRecord(
            $took, $gave, (hrtime(true) - $start) / 1e9, memory_get_peak_usage() / 1048576, $unclosed, $crossing, $step->does(), $mended, $mirrored,
        );
    }

    /** @param  Closure(float): mixed  $progress */
    private static function cut(Piece $piece, CutStep $step, int $number, string $at, Closure $progress): ?Outcome
    {
        if ($step->series !== null) {
            $planes = $step->series->planes($piece->mesh);
            $report = static function (float $share) use ($progress): void {
                $progress($share);
            };

            return $step->series->wander === null
                ? SeriesCut::of($piece->mesh, $planes, $step->blade, $number, $report) : WanderCut::of($piece->mesh, $planes, $step->blade, $number, $report);
        }
        if ($step->faces === null) {
            return FlatCut::of($piece->mesh, $step->blade, $number);
        }
        $scored = Score::of($piece->mesh, $step->blade->plane, self::picked($piece, $step, $at));

        return $scored === null ? null : new Outcome(Bodies::of($scored->opened()), [], true);
    }

    /** @return array<int, true>|null */
    private static function picked(Piece $piece, CutStep $step, string $at): ?array
    {
        if ($step->faces === null) {
            return null;
        }
        $highest = $step->faces === [] ? 0 : max($step->faces);
        if ($highest >= $piece->mesh->triangleCount()) {
            throw new BadRecipe("$at.faces names triangle $highest where {$piece->name} has ".$piece->mesh->triangleCount().'; pick faces of this piece.');
        }

        return array_fill_keys($step->faces, true);
    }

    private function inPlace(Piece $piece, Mesh $mesh, int $number): Piece
    {
        $watertight = EdgeCheck::of($mesh)->isWatertight();
        if (! $watertight && ($piece->watertight ?? EdgeCheck::of($piece->mesh)->isWatertight())) {
            throw new BrokenPromise("Step $number opened the watertight {$piece->name}, which must not happen; keep the mesh and the recipe and report them.");
        }

        return new Piece($piece->name, $mesh, $piece->parent, $number, $piece->colour, $watertight);
    }

    private function child(Piece $parent, Mesh $body, int $n, int $number, bool $mustClose, int $before): Piece
    {
        $watertight = EdgeCheck::of($body)->isWatertight();
        $name = Names::child($parent->name, $n);
        if (! $watertight && $mustClose
            && ($parent->watertight ?? EdgeCheck::of($parent->mesh)->isWatertight())) {
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

        return sprintf('The blade of %s cuts nothing: %s from %.3f to %.3f mm along its facing, counted from the '.($step->series === null ? 'blade' : 'first stop').'; move it in between.', $at, $names, $low, $high);
    }
}
