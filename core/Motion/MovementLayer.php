<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Closure;
use Isotome\Exception\BadRecipe;
use Isotome\Schema\Schema;
use Isotome\Schema\Settings;

/** A layer of a movement: what it adds to where pieces are. Frames are counted from 0. */
abstract class MovementLayer
{
    protected const MOST_FRAMES = 100_000;

    /** @param  array<string, mixed>  $settings  as its schema has them */
    final private function __construct(public readonly array $settings)
    {
    }

    /** @return array<string, mixed> JSON Schema */
    abstract public static function schema(): array;

    /**
     * Adds itself to the poses of some pieces.
     *
     * @param  non-empty-list<int>  $pieces  their numbers among the actors
     */
    abstract protected function act(Poses $poses, array $pieces): void;

    /**
     * @param  array<mixed>  $given
     *
     * @throws BadRecipe
     */
    final public static function read(array $given, string $at): static
    {
        $settings = Settings::read($given, static::schema(), static::class, $at);
        foreach (['facing', 'along', 'about'] as $key) {
            $way = $settings[$key] ?? null;
            if (is_array($way) && $way === array_filter($way, static fn (mixed $part): bool => $part === 0.0)) {
                throw new BadRecipe("$at.$key is no direction; give three numbers that are not all 0.");
            }
        }

        return new static($settings);
    }

    /** Unless it is switched off. */
    final public function addTo(Poses $poses): void
    {
        $pieces = $this->pieces($poses);
        if ($pieces !== []) {
            $this->act($poses, $pieces);
        }
    }

    /** Whether it goes by the shapes of pieces, which are read for it. */
    public function needsShapes(): bool
    {
        return false;
    }

    final public function isOff(): bool
    {
        return $this->settings['off'] === true;
    }

    /** @return list<int> those that it moves; none when it is off */
    private function pieces(Poses $poses): array
    {
        /** @var list<string> $of */
        $of = $this->settings['of'];

        return $this->isOff() ? [] : self::named($poses, $of);
    }

    /** @return array{starts: list<float>, curve: list<float>} see Movement::inTime() */
    final public function inTime(Poses $poses): array
    {
        $pieces = $this->pieces($poses);
        if ($pieces === []) {
            return ['starts' => [], 'curve' => []];
        }
        $starts = $this->starts($poses, $pieces);
        sort($starts);

        return ['starts' => $starts, 'curve' => $this->curve($poses, $pieces)];
    }

    /**
     * @param  non-empty-list<int>  $pieces
     * @return array<int, float> by piece, the frame at which it begins
     */
    public function starts(Poses $poses, array $pieces): array
    {
        return array_fill_keys($pieces, $this->number('start'));
    }

    /**
     * @param  non-empty-list<int>  $pieces
     * @return list<float> by frame, 0 to 1
     */
    protected function curve(Poses $poses, array $pieces): array
    {
        return $this->shares($poses, fn (int $frame): float => $this->ease()->at(($frame - $this->number('start')) / $this->number('length')));
    }

    /**
     * @param  Closure(int): float  $share
     * @return list<float>
     */
    final protected function shares(Poses $poses, Closure $share): array
    {
        return array_map(static fn (int $frame): float => round(max(0.0, min(1.0, $share($frame))), 4), range(0, $poses->frames - 1));
    }

    /**
     * @param  list<string>  $names  as a recipe names pieces
     * @return list<int>
     */
    final protected static function named(Poses $poses, array $names): array
    {
        $pieces = [];
        foreach ($poses->actors as $n => $actor) {
            foreach ($names as $name) {
                if ($name === '*' || $name === $actor->name || (str_ends_with($name, '*') && str_starts_with($actor->name, substr($name, 0, -1)))) {
                    $pieces[] = $n;
                    break;
                }
            }
        }

        return $pieces;
    }

    /**
     * @param  array<string, array<string, mixed>>  $own
     * @param  list<string>  $required
     * @return array<string, mixed>
     */
    final protected static function form(string $do, string $title, array $own, array $required = []): array
    {
        return ['title' => $title, ...Schema::object([
            'do' => Schema::word($do), 'of' => Schema::of(), 'off' => Schema::yesNo('Whether it is left out for now', false), ...$own,
        ], ['do', ...$required])];
    }

    /** @return array<string, array<string, mixed>> when it begins and how long it takes */
    final protected static function span(float $length): array
    {
        return [
            'start' => Schema::number('Frame at which it begins', 0.0, 'give a frame, 0 or more', 0.0, null, (float) self::MOST_FRAMES),
            'length' => Schema::number('Frames that it takes', $length, 'give a number of frames above 0', null, 0.0, (float) self::MOST_FRAMES),
        ];
    }

    final protected function number(string $key): float
    {
        /** @var float */
        return $this->settings[$key];
    }

    /** @return array{float, float, float} */
    final protected function three(string $key): array
    {
        /** @var array{float, float, float} */
        return $this->settings[$key];
    }

    final protected function ease(): Ease
    {
        /** @var string $ease */
        $ease = $this->settings['ease'];

        return Ease::from($ease);
    }

    /**
     * @param  list<int>  $pieces
     * @return array{float, float, float} of their centres
     */
    final protected static function middle(Poses $poses, array $pieces): array
    {
        $sum = [0.0, 0.0, 0.0];
        foreach ($pieces as $n) {
            foreach ($poses->actors[$n]->centre as $k => $c) {
                $sum[$k] += $c / max(1, count($pieces));
            }
        }

        return $sum;
    }
}
