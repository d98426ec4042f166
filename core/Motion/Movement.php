<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Closure;
use Isotome\Exception\BadRecipe;
use Isotome\Schema\Shown;

/** A movement: how many frames, how fast, and layers that add up, in their order. */
final readonly class Movement
{
    /** The layers, by the word after "do". */
    public const LAYERS = ['spread' => SpreadLayer::class, 'wave' => WaveLayer::class, 'scatter' => ScatterLayer::class, 'keys' => KeysLayer::class, 'drop' => DropLayer::class];

    public const MOST_FRAMES = 10_000;

    private const MOST_LAYERS = 100;

    /** Poses that memory suffices for: pieces times frames. */
    private const MOST_POSES = 4_000_000;

    /** @param  list<MovementLayer>  $layers */
    private function __construct(
        public int $fps,
        public int $frames,
        public array $layers,
    ) {
    }

    /**
     * @param  array<mixed>  $given  as movement.json has it
     *
     * @throws BadRecipe
     */
    public static function fromArray(array $given, ?int $frames = null, ?int $fps = null): self
    {
        if (($given['isotome_movement'] ?? null) !== 1) {
            throw new BadRecipe('isotome_movement is '.Shown::of($given['isotome_movement'] ?? null).'; write "isotome_movement": 1.');
        }
        $unknown = array_diff(array_map(strval(...), array_keys($given)), ['isotome_movement', 'fps', 'frames', 'layers']);
        if ($unknown !== []) {
            throw new BadRecipe('"'.reset($unknown).'" is not known in a movement; it has fps, frames and layers.');
        }
        $fps ??= $given['fps'] ?? 25;
        $frames ??= $given['frames'] ?? 120;
        if (! is_int($fps) || $fps < 1 || $fps > 240) {
            throw new BadRecipe('fps is '.Shown::of($fps).'; give frames a second, a whole number from 1 to 240, such as 25.');
        }
        if (! is_int($frames) || $frames < 1 || $frames > self::MOST_FRAMES) {
            throw new BadRecipe('frames is '.Shown::of($frames).'; give a whole number from 1 to '.number_format(self::MOST_FRAMES).'.');
        }
        $layers = $given['layers'] ?? null;
        if (! is_array($layers) || ! array_is_list($layers) || count($layers) > self::MOST_LAYERS) {
            throw new BadRecipe('layers is '.Shown::of($layers).'; give a list of at most '.self::MOST_LAYERS.' layers, [{"do": "spread", …}, …].');
        }
        $read = [];
        foreach ($layers as $n => $layer) {
            $do = is_array($layer) ? $layer['do'] ?? null : $layer;
            if (! is_array($layer) || ! is_string($do) || ! isset(self::LAYERS[$do])) {
                throw new BadRecipe("layers[$n].do is ".Shown::of($do).'; choose "'.implode('", "', array_keys(self::LAYERS)).'".');
            }
            $read[] = self::LAYERS[$do]::read($layer, "layers[$n]");
        }

        return new self($fps, $frames, $read);
    }

    /** The same up to a frame. */
    public function until(int $frame): self
    {
        return new self($this->fps, min($this->frames, $frame + 1), $this->layers);
    }

    /** @return array<string, mixed> complete, as movement.json has it */
    public function toArray(): array
    {
        return ['isotome_movement' => 1, 'fps' => $this->fps, 'frames' => $this->frames, 'layers' => array_map(static fn (MovementLayer $layer): array => $layer->settings, $this->layers)];
    }

    /**
     * Where the pieces are at every frame.
     *
     * @param  list<Actor>  $actors
     * @param  Closure(int, Poses): mixed|null  $reached  told of every frame as soon as its poses stay, in their order: while something falls, one after the other; it may throw to cancel
     *
     * @throws BadRecipe when there are too many
     */
    public function poses(array $actors, ?Closure $reached = null): Poses
    {
        $this->demand(count($actors));
        $poses = new Poses($actors, $this->frames, $this->fps);
        $last = $this->lastDrop();
        foreach (array_slice($this->layers, 0, $last) as $layer) {
            $layer->addTo($poses);
        }
        // What comes after the last fall does not depend on it, so that every frame of it can be told at once.
        $after = new Poses($actors, $this->frames, $this->fps);
        foreach (array_slice($this->layers, $last + 1) as $layer) {
            $layer->addTo($after);
        }
        $next = 0;
        $told = static function (int $frame) use ($poses, $after, $reached, &$next): void {
            for (; $next <= $frame; $next++) {
                $poses->join($after, $next);
                $reached === null || $reached($next, $poses);
            }
        };
        if (isset($this->layers[$last])) {
            $poses->reached = $told;
            $this->layers[$last]->addTo($poses);
            $poses->reached = null;
        }
        $told($this->frames - 1);

        return $poses;
    }

    /** @throws BadRecipe when memory does not suffice for so many pieces */
    public function demand(int $pieces): void
    {
        if ($pieces * $this->frames > self::MOST_POSES) {
            throw new BadRecipe(number_format($pieces).' pieces in '.number_format($this->frames).' frames are too many for one movement; give fewer frames.');
        }
    }

    /** Number of the last layer in which something falls; that after all when nothing does. */
    private function lastDrop(): int
    {
        $last = count($this->layers);
        foreach ($this->layers as $n => $layer) {
            if ($layer instanceof DropLayer && ! $layer->isOff()) {
                $last = $n;
            }
        }

        return $last;
    }

    /** Whether some layer goes by the shapes of pieces, so that the actors must have them; that may take long. */
    public function needsShapes(): bool
    {
        return array_filter($this->layers, static fn (MovementLayer $layer): bool => ! $layer->isOff() && $layer->needsShapes()) !== [];
    }

    /** Whether something falls, which takes long to work out. */
    public function falls(): bool
    {
        return $this->lastDrop() < count($this->layers);
    }

    /**
     * What the layers do in time, for drawings.
     *
     * @return list<array{starts: list<float>, curve: list<float>}> of each layer, the frames at which its pieces begin, in their order, and how far it has come at each frame, 0 to 1, on an average of its pieces; none when it is off
     */
    public function inTime(Poses $poses): array
    {
        return array_map(static fn (MovementLayer $layer): array => $layer->inTime($poses), $this->layers);
    }
}
