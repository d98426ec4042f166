<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Exception\BadRecipe;
use Isotome\Schema\Shown;

/** A movement: how many frames, how fast, and layers that add up, in their order. */
final readonly class Movement
{
    /** The layers, by the word after "do". */
    public const LAYERS = ['spread' => SpreadLayer::class, 'wave' => WaveLayer::class, 'scatter' => ScatterLayer::class, 'keys' => KeysLayer::class, 'drop' => DropLayer::class];

    private const MOST_FRAMES = 10_000;

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

    /**
     * Where the pieces are at every frame.
     *
     * @param  list<Actor>  $actors
     *
     * @throws BadRecipe when there are too many
     */
    public function poses(array $actors): Poses
    {
        if (count($actors) * $this->frames > self::MOST_POSES) {
            throw new BadRecipe(number_format(count($actors)).' pieces in '.number_format($this->frames).' frames are too many for one movement; give fewer frames.');
        }
        $poses = new Poses($actors, $this->frames, $this->fps);
        foreach ($this->layers as $layer) {
            $layer->addTo($poses);
        }

        return $poses;
    }
}
