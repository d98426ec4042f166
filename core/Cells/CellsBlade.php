<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Direction;
use Isotome\Mesh\Mesh;

/**
 * A cells blade: how space is divided, as settings. What it does to a piece depends on the piece's box, its inside and the seed only.
 *
 * by: uniform, even (evenly spaced by chance), gathered (around places), points, blocks or rings.
 */
final readonly class CellsBlade
{
    public const KINDS = ['uniform', 'even', 'gathered', 'points', 'blocks', 'rings'];

    /** How far beyond the piece's box the outermost cells reach, as a share of its diagonal. */
    public const BEYOND = 0.1;

    /** Share of that by which another attempt moves the cells. */
    public const ATTEMPT = 1e-7;

    /**
     * @param  list<array{float, float, float}>  $places  picked places, mm
     * @param  float  $falloff  mm
     * @param  list<float>  $points  3 a point, mm
     * @param  array{float, float, float}|null  $along  direction along which cells are longer
     * @param  float  $stretch  how many times
     * @param  array{int, int, int}|null  $blocks  counts along three axes
     * @param  array{float, float, float}|null  $size  block sizes instead, mm
     * @param  array{float, float, float}  $turned  degrees about x, then y, then z
     * @param  float  $wander  0 to 0.45: share of a block's length, or a sector's angle
     * @param  array{float, float, float}|null  $through  of the rings' axis; the middle of the box when null
     * @param  array{float, float, float}  $axis
     */
    public function __construct(
        public string $by,
        public int $count = 0,
        public int $seed = 1,
        public array $places = [],
        public float $falloff = 0.0,
        public array $points = [],
        public ?array $along = null,
        public float $stretch = 1.0,
        public ?array $blocks = null,
        public ?array $size = null,
        public array $turned = [0.0, 0.0, 0.0],
        public bool $brick = false,
        public float $wander = 0.0,
        public ?array $through = null,
        public array $axis = [0.0, 0.0, 1.0],
        public int $rings = 1,
        public int $sectors = 1,
        public int $layers = 1,
    ) {
        if (! in_array($by, self::KINDS, true)) {
            throw new BadBlade("The cells are by \"$by\"; choose one of ".implode(', ', self::KINDS).'.');
        }
        if ($stretch < 0.05 || $stretch > 50.0 || ($along !== null && Direction::unit($along) === null)) {
            throw new BadBlade("The cells are stretched $stretch times; give 0.05 to 50, and a direction that is not 0, 0, 0.");
        }
        if (Direction::unit($axis) === null) {
            throw new BadBlade('The rings\' axis has no direction (0, 0, 0); give one with a number that is not zero.');
        }
    }

    /**
     * The cells for a piece.
     *
     * @param  int  $attempt  from 0: another one moves points by a ten-millionth of the piece, where rounding did not close
     * @param  array<int, true>  $without  points to leave out, by number
     *
     * @throws BadBlade
     */
    public function complex(Mesh $piece, int $attempt = 0, array $without = []): Complex
    {
        return $this->within(StandIn::of($piece), $attempt, $without);
    }

    /**
     * The same from what stands in for the piece.
     *
     * @param  array<int, true>  $without
     */
    public function within(StandIn $piece, int $attempt = 0, array $without = []): Complex
    {
        $box = $piece->box;

        return match ($this->by) {
            'blocks' => BlockCells::of($this, $box, $attempt),
            'rings' => RingCells::of($this, $box, $attempt),
            default => SiteCells::of($this, self::left($this->sites($piece), $without), $box, $attempt),
        };
    }

    /** @return list<float> 3 a point, mm */
    public function sites(StandIn $piece): array
    {
        return $this->by === 'points' ? $this->points : Sites::random($piece, $this->by, $this->count, $this->seed, $this->places, $this->falloff);
    }

    /**
     * The same blade, its places moved.
     *
     * @param  array{float, float, float}  $by  mm
     */
    public function movedBy(array $by): self
    {
        $places = [];
        foreach ($this->places as $place) {
            $places[] = [$place[0] + $by[0], $place[1] + $by[1], $place[2] + $by[2]];
        }
        $through = $this->through === null ? null : [$this->through[0] + $by[0], $this->through[1] + $by[1], $this->through[2] + $by[2]];
        $points = [];
        foreach ($this->points as $i => $c) {
            $points[] = $c + $by[$i % 3];
        }

        return new self(
            $this->by, $this->count, $this->seed, $places, $this->falloff, $points, $this->along, $this->stretch, $this->blocks, $this->size,
            $this->turned, $this->brick, $this->wander, $through, $this->axis, $this->rings, $this->sectors, $this->layers,
        );
    }

    public function hasSites(): bool
    {
        return $this->by !== 'blocks' && $this->by !== 'rings';
    }

    /**
     * @param  list<float>  $sites
     * @param  array<int, true>  $without
     * @return list<float>
     */
    private static function left(array $sites, array $without): array
    {
        return $without === [] ? $sites : array_values(array_filter($sites, static fn (int $i): bool => ! isset($without[intdiv($i, 3)]), ARRAY_FILTER_USE_KEY));
    }
}
