<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Isotome\Exception\BadRecipe;
use Isotome\Schema\Settings;

/**
 * One step of a recipe. Each kind of step is one class below this one, listed in Kinds, and owns everything that is said about it once: its schema,
 * what it does to the pieces it takes, what it promises, its report and its words. Everything else (recipe, runner, command line, lineage, HTTP) knows
 * this class only.
 *
 * A step is a value: its settings, read and completed, in millimetres.
 */
abstract class Step
{
    /**
     * @param  array<string, mixed>  $settings  complete, as version 1 of the recipe writes them
     * @param  string  $at  its place in the recipe, for refusals
     *
     * @throws BadRecipe where settings that are right one by one do not go together
     */
    final public function __construct(protected readonly array $settings, string $at)
    {
        $this->accept($at);
    }

    /**
     * @param  array<mixed>  $given  as a recipe gives it
     * @param  float  $scale  millimetres a unit of the recipe
     *
     * @throws BadRecipe
     */
    final public static function read(array $given, string $at, float $scale = 1.0): static
    {
        return new static(Settings::read($given, static::schema(), static::class, $at, $scale), $at);
    }

    /**
     * How a step of this kind is told from all others: settings, by their path, that must be one of these words, be there (true), or not be there (false).
     *
     * @return non-empty-array<string, list<string>|bool>
     */
    abstract public static function form(): array;

    /** The kinds that a step can be changed into when it is edited, as one word: they belong together and are set on one card. */
    abstract public static function group(): string;

    /** @return array<string, mixed> JSON Schema of an object, made of the parts in Isotome\Schema\Schema; its title names the kind */
    abstract public static function schema(): array;

    /**
     * Makes of the settings what the step works with, and refuses what does not go together.
     *
     * @throws BadRecipe
     */
    protected function accept(string $at): void
    {
    }

    /**
     * Does it. All pieces that the step takes come at once.
     *
     * @param  non-empty-list<Piece>  $pieces
     */
    abstract public function apply(array $pieces, Work $work): Applied;

    /**
     * Where else than in its place a triangle may have been put whole: maps of 12 numbers, see Isotome\Mesh\Carry.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @return list<list<float>>
     */
    public function images(array $pieces): array
    {
        return [];
    }

    /** Whether it moves no vertex and divides triangles only where they are marked as parts of others (Isotome\Mesh\Mark). */
    public function keepsPlaces(): bool
    {
        return false;
    }

    /** Whether it says itself what its results carry; else that is worked out from what the pieces carried (Isotome\Mesh\Carry). */
    public function givesLooks(): bool
    {
        return false;
    }

    /** Whether pieces made of watertight ones must be watertight. */
    abstract public function closes(): bool;

    /**
     * Why it is refused when it changed none of the pieces it took; null when that is no fault.
     *
     * @param  non-empty-list<Piece>  $pieces
     */
    public function refusal(array $pieces, string $at): ?string
    {
        return null;
    }

    /** What it is called where it can be undone: "the cut". */
    abstract public function what(): string;

    /** What it is doing while it works: "cutting and checking". */
    abstract public function doing(): string;

    /** What was done, in one line. */
    public function said(Done $done): string
    {
        return Words::pieces([$done]);
    }

    /** Said when it ran and changed nothing. */
    public function nothing(): string
    {
        return 'The step changed nothing; the pieces are as they were.';
    }

    /** What becomes of the volume. */
    public function volume(): VolumeAfter
    {
        return VolumeAfter::Other;
    }

    /** What there is to add to the line about the pieces it made. */
    public function more(Report $report): string
    {
        return '';
    }

    /** How an outline is called that should have been dealt with and was not: "closed". */
    public function unclosedWord(): string
    {
        return 'closed';
    }

    /** Whether the only piece made of another one goes on under the title that a person gave that one. */
    public function passesTitleOn(): bool
    {
        return false;
    }

    /** The word after "do". */
    final public function does(): string
    {
        $do = $this->settings['do'] ?? null;

        return is_string($do) ? $do : '';
    }

    /** @return list<string> names as given, with * for all and name* for descendants */
    final public function of(): array
    {
        /** @var list<string> */
        return $this->settings['of'] ?? ['*'];
    }

    public function takes(string $name): bool
    {
        return self::isNamed($name, $this->of());
    }

    /** Is it a piece that the step works with, whether or not it is changed or used up? Of tools: when one of them changes, all that was done with it is done again. */
    public function reads(string $name): bool
    {
        return false;
    }

    /** @param  list<string>  $patterns */
    final protected static function isNamed(string $name, array $patterns): bool
    {
        foreach ($patterns as $pattern) {
            if ($pattern === '*' || $pattern === $name) {
                return true;
            }
            if (str_ends_with($pattern, '*')) {
                $ancestor = substr($pattern, 0, -1);
                if ($name === $ancestor || str_starts_with($name, $ancestor.'-')) {
                    return true;
                }
            }
        }

        return false;
    }

    /** @return array<string, mixed> the step as version 1 of the recipe writes it */
    final public function toArray(): array
    {
        return $this->settings;
    }
}
