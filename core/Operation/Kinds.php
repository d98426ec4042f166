<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Isotome\Exception\BadRecipe;
use Isotome\Schema\Shown;

/** The list of all kinds of step, and which of them a step in a recipe is. */
final class Kinds
{
    /** @var list<class-string<Step>> */
    public const ALL = [
        Kind\FlatStep::class,
        Kind\RoughStep::class,
        Kind\FacesStep::class,
        Kind\ScoreStep::class,
        Kind\SeriesStep::class,
        Kind\RoughSeriesStep::class,
        Kind\WanderStep::class,
        Kind\DrawnStep::class,
        Kind\DrawnScoreStep::class,
        Kind\BentStep::class,
        Kind\ShardsStep::class,
        Kind\GatheredStep::class,
        Kind\PointsStep::class,
        Kind\BlocksStep::class,
        Kind\RingsStep::class,
        Kind\ChopStep::class,
        Kind\MirrorStep::class,
        Kind\CopiesStep::class,
        Kind\MendStep::class,
        Kind\SingleMendStep::class,
        Kind\ThickenStep::class,
        Kind\TurnStep::class,
        Kind\StandStep::class,
        Kind\LayStep::class,
        Kind\MoveStep::class,
        Kind\ScaleStep::class,
        Kind\PaintStep::class,
        Kind\UniteStep::class,
        Kind\CommonStep::class,
        Kind\SubtractStep::class,
        Kind\BodyStep::class,
        Kind\PegsStep::class,
        Kind\MarkStep::class,
        Kind\SettleStep::class,
    ];

    /** @var list<class-string<Step>> kinds that only tests know */
    private static array $ofTests = [];

    /** Settings that tell kinds apart by a word, in the order in which a person reads them. */
    private const WORDS = ['do', 'blade.kind', 'blade.by'];

    /** @return list<class-string<Step>> */
    public static function all(): array
    {
        return [...self::ALL, ...self::$ofTests];
    }

    /**
     * For tests of what knows the protocol only.
     *
     * @param  class-string<Step>  ...$kinds
     */
    public static function alsoInTests(string ...$kinds): void
    {
        self::$ofTests = array_values($kinds);
    }

    /**
     * @param  array<mixed>  $step
     *
     * @throws BadRecipe when no kind is like that
     */
    public static function read(array $step, string $at, float $scale = 1.0): Step
    {
        return self::of($step, $at)::read($step, $at, $scale);
    }

    /**
     * @param  array<mixed>  $step
     * @return class-string<Step>
     *
     * @throws BadRecipe
     */
    public static function of(array $step, string $at): string
    {
        $kinds = self::all();
        foreach (self::WORDS as $path) {
            $words = self::words($kinds, $path);
            if ($words === []) {
                continue;
            }
            $word = self::value($step, $path);
            if (! in_array($word, $words, true)) {
                throw new BadRecipe(self::unknown($step, $path, $words, $at));
            }
            $kinds = array_values(array_filter($kinds, static fn (string $kind): bool => in_array($word, (array) ($kind::form()[$path] ?? []), true)));
        }
        foreach ($kinds as $kind) {
            if (self::fits($step, $kind)) {
                return $kind;
            }
        }

        throw new BadRecipe("$at is like no step that is known; look at the list of steps.");
    }

    /** @return list<string> the words after "do" */
    public static function does(): array
    {
        return self::words(self::all(), 'do');
    }

    /** @param  class-string<Step>  $kind */
    public static function name(string $kind): string
    {
        return substr($kind, (int) strrpos($kind, '\\') + 1);
    }

    /**
     * @param  list<class-string<Step>>  $kinds
     * @return list<string>
     */
    private static function words(array $kinds, string $path): array
    {
        $words = [];
        foreach ($kinds as $kind) {
            $own = $kind::form()[$path] ?? [];
            $words = [...$words, ...(is_array($own) ? $own : [])];
        }

        return array_values(array_unique($words));
    }

    /**
     * @param  array<mixed>  $step
     * @param  class-string<Step>  $kind
     */
    private static function fits(array $step, string $kind): bool
    {
        foreach ($kind::form() as $path => $must) {
            if (is_bool($must) && $must !== (self::value($step, $path) !== null)) {
                return false;
            }
        }

        return true;
    }

    /** @param  array<mixed>  $step */
    private static function value(array $step, string $path): mixed
    {
        $value = $step;
        foreach (explode('.', $path) as $key) {
            $value = is_array($value) ? $value[$key] ?? null : null;
        }

        return $value;
    }

    /**
     * @param  array<mixed>  $step
     * @param  list<string>  $words
     */
    private static function unknown(array $step, string $path, array $words, string $at): string
    {
        if ($path === 'blade.kind' && ! is_array($step['blade'] ?? null)) {
            return "$at.blade is ".Shown::of($step['blade'] ?? null).'; write {"kind": "flat", "through": [x, y, z], "facing": [x, y, z]}.';
        }
        $quoted = array_map(static fn (string $word): string => "\"$word\"", $words);
        $last = array_pop($quoted);

        return "$at.$path is ".Shown::of(self::value($step, $path)).'; choose '.($quoted === [] ? '' : implode(', ', $quoted).' or ')."$last.";
    }
}
