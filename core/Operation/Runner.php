<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Closure;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Exception\BrokenPromise;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Motion\Actor;
use Isotome\Motion\Movement;
use Isotome\Motion\Poses;
use Isotome\Process\SideBySide;

/**
 * Runs the steps of a recipe, one by one, with a check after each. It knows no kinds of step.
 *
 * Guarantees: a step that promises closed pieces and gives one with open edges made of closed ones stops the run (BrokenPromise); a step that must
 * change something and changes nothing is refused; the same pieces and recipe give the same result. Pieces that a step does not change stay as they
 * are. What a step gives stands where the first of its parents stood.
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
     * @param  Closure(Movement, list<Actor>): ?Poses|null  $poses  what is known already of movements, see Work
     *
     * @throws BadRecipe|BadBlade|BrokenPromise with the pieces as they were
     */
    public function run(Step $step, ?Closure $progress = null, ?Closure $poses = null): StepRecord
    {
        $number = $this->earlier + count($this->records) + 1;
        $at = 'steps['.($number - 1).']';
        $taken = array_values(array_filter($this->pieces, static fn (Piece $piece): bool => $step->takes($piece->name)));
        if ($taken === []) {
            throw new BadRecipe("$at takes no piece (of: ".implode(', ', array_slice($step->of(), 0, 5)).'); name pieces that exist: '.implode(', ', array_slice(array_keys($this->pieces), 0, 8)).'.');
        }
        memory_reset_peak_usage();
        $start = hrtime(true);
        $work = new Work($number, $at, $progress, $poses);
        $applied = Carrying::through($taken, $step, static fn (array $pieces): Applied => $step->apply($pieces, $work));
        $refusal = $applied->took === [] ? $step->refusal($taken, $at) : null;
        if ($refusal !== null) {
            throw new BadBlade($refusal);
        }
        $made = $this->named($applied, $step, $number);
        $after = $gave = $parents = [];
        $used = array_fill_keys($applied->took, true);
        foreach ($this->pieces as $name => $piece) {
            if (! isset($used[$name])) {
                $after[$name] = $piece;
            }
            foreach ($made[$name] ?? [] as [$child, $of]) {
                $after[$child->name] = $child;
                $gave[] = $child->name;
                $parents[$child->name] = $of;
                $this->made += $of === [$child->name] ? 0 : 1;
            }
        }
        $this->pieces = $after;

        return $this->records[] = new StepRecord($step->does(), $applied->took, $gave, $parents, (hrtime(true) - $start) / 1e9, memory_get_peak_usage() / 1048576, $applied->report);
    }

    /**
     * What a step gave as pieces, with the names of their parents, by the piece in whose place they stand.
     *
     * @return array<string, list<array{Piece, list<string>}>>
     */
    private function named(Applied $applied, Step $step, int $number): array
    {
        $made = $letters = [];
        $new = 0;
        $isTight = self::areWatertight($applied->gave);
        foreach ($applied->gave as $n => $given) {
            $first = $given->parents[0];
            if ($given->isInPlace()) {
                // The same mesh: nothing was to be done, and the piece stays the one it was.
                $piece = $given->mesh === $first->mesh ? $first
                    : new Piece($first->name, $given->mesh, $first->parent, $number, $first->colour, self::checked($given, $isTight[$n], $first->name, $step, $number), $first->known, $first->others);
            } else {
                $letters[$first->name] ??= 0;
                $name = $given->name ?? Names::child($first->name, $letters[$first->name]++);
                $others = array_map(static fn (Piece $parent): string => $parent->name, array_slice($given->parents, 1));
                $piece = new Piece($name, $given->mesh, $first->name, $number, Palette::colour($this->made + ++$new), self::checked($given, $isTight[$n], $name, $step, $number), null, $others);
            }
            $made[$first->name][] = [$piece, array_map(static fn (Piece $parent): string => $parent->name, $given->parents)];
        }

        return $made;
    }

    /**
     * Whether the meshes that a step gave are watertight; of those that are the pieces they were nobody asks. Large ones are looked at in two processes.
     *
     * @param  list<Given>  $gave
     * @return list<bool>
     */
    private static function areWatertight(array $gave): array
    {
        $works = $triangles = [];
        foreach ($gave as $given) {
            $isNew = ! ($given->isInPlace() && $given->mesh === $given->parents[0]->mesh);
            $triangles[] = $isNew ? $given->mesh->triangleCount() : 0;
            $works[] = static fn (): array => [! $isNew || EdgeCheck::of($given->mesh)->isWatertight()];
        }

        return array_map(static fn (array $told): bool => $told[0], SideBySide::all($works, $triangles));
    }

    /** Whether it is watertight; a promise that is not kept stops the run. */
    private static function checked(Given $given, bool $isTight, string $name, Step $step, int $number): bool
    {
        if ($isTight) {
            return true;
        }
        if (! $step->closes()) {
            return false;
        }
        foreach ($given->parents as $parent) {
            if (! ($parent->watertight ?? EdgeCheck::of($parent->mesh)->isWatertight())) {
                return false;
            }
        }
        $names = implode(', ', array_map(static fn (Piece $parent): string => $parent->name, $given->parents));

        throw new BrokenPromise($given->isInPlace()
            ? "Step $number opened the watertight $name, which must not happen; keep the mesh and the recipe and report them."
            : "Step $number made $name with open edges from the watertight $names, which must not happen; keep the mesh and the recipe and report them.");
    }
}
