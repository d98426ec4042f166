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
    private const BEYOND = 0.1;

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
            'blocks' => $this->ofBlocks($box, $attempt),
            'rings' => $this->ofRings($box, $attempt),
            default => $this->ofSites(self::left($this->sites($piece), $without), $box, $attempt),
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

    /** @param  list<float>  $sites */
    private function ofSites(array $sites, Box $box, int $attempt): Complex
    {
        $min = $box->min;
        $max = $box->max;
        for ($i = 0, $count = count($sites); $i < $count; $i++) {
            $k = $i % 3;
            $min[$k] = min($min[$k], $sites[$i]);
            $max[$k] = max($max[$k], $sites[$i]);
        }
        $diagonal = self::diagonal($min, $max);
        if ($attempt > 0) {
            $chance = new Chance($attempt);
            foreach ($sites as $i => $c) {
                $sites[$i] = $c + 1e-7 * $diagonal * (2 * $chance->uniform() - 1);
            }
        }
        if ($this->along === null || $this->stretch === 1.0) {
            return Voronoi::of($sites, self::moved($min, -self::BEYOND * $diagonal), self::moved($max, self::BEYOND * $diagonal));
        }
        // Where lengths along the direction count less, the nearest points give longer cells.
        $about = [($min[0] + $max[0]) / 2, ($min[1] + $max[1]) / 2, ($min[2] + $max[2]) / 2];
        $squeeze = self::along($this->along, 1 / $this->stretch);
        for ($i = 0, $count = count($sites); $i < $count; $i += 3) {
            [$sites[$i], $sites[$i + 1], $sites[$i + 2]] = self::apply($squeeze, [$sites[$i] - $about[0], $sites[$i + 1] - $about[1], $sites[$i + 2] - $about[2]]);
        }
        $reach = array_fill(0, 3, 0.0);
        foreach ($squeeze as $k => $row) {
            $reach[$k] = self::BEYOND * $diagonal + abs($row[0]) * ($max[0] - $min[0]) / 2 + abs($row[1]) * ($max[1] - $min[1]) / 2 + abs($row[2]) * ($max[2] - $min[2]) / 2;
        }

        return Voronoi::of(array_values($sites), [-$reach[0], -$reach[1], -$reach[2]], [$reach[0], $reach[1], $reach[2]])
            ->mapped(self::along($this->along, $this->stretch), [0.0, 0.0, 0.0])->moved($about);
    }

    private function ofBlocks(Box $box, int $attempt): Complex
    {
        $middle = [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $turn = self::turn($this->turned);
        $half = [];
        $isTurned = $this->turned !== [0.0, 0.0, 0.0];
        for ($k = 0; $k < 3; $k++) {
            // The box about the box, seen along the turned axes.
            $half[$k] = 0.0;
            for ($l = 0; $l < 3; $l++) {
                $half[$k] += ($isTurned ? abs($turn[$l][$k]) : ($k === $l ? 1.0 : 0.0)) * ($box->max[$l] - $box->min[$l]) / 2;
            }
        }
        $reach = self::BEYOND * self::diagonal($box->min, $box->max);
        $shift = $attempt * 1e-7 * $reach;
        $low = $high = $min = $max = [];
        for ($k = 0; $k < 3; $k++) {
            $from = $isTurned ? 0.0 : $middle[$k];
            $min[$k] = $from - $half[$k] + $shift;
            $max[$k] = $from + $half[$k] + $shift;
            $low[$k] = $min[$k] - $reach;
            $high[$k] = $max[$k] + $reach;
        }
        /** @var array{float, float, float} $min */
        /** @var array{float, float, float} $max */
        /** @var array{float, float, float} $low */
        /** @var array{float, float, float} $high */
        $blocks = Blocks::of($min, $max, $low, $high, $this->blocks, $this->size, $this->brick, $this->wander, $this->seed);

        return $isTurned ? $blocks->mapped($turn, [0.0, 0.0, 0.0])->moved($middle) : $blocks;
    }

    private function ofRings(Box $box, int $attempt): Complex
    {
        Rings::refuse($this->rings, $this->sectors, $this->layers);
        $through = $this->through ?? [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $frame = self::frame($this->axis);
        $low = INF;
        $high = -INF;
        $farthest = 0.0;
        for ($c = 0; $c < 8; $c++) {
            $p = [($c & 1 ? $box->max : $box->min)[0] - $through[0], ($c & 2 ? $box->max : $box->min)[1] - $through[1], ($c & 4 ? $box->max : $box->min)[2] - $through[2]];
            $z = $p[0] * $frame[0][2] + $p[1] * $frame[1][2] + $p[2] * $frame[2][2];
            $low = min($low, $z);
            $high = max($high, $z);
            $farthest = max($farthest, sqrt(max(0.0, $p[0] ** 2 + $p[1] ** 2 + $p[2] ** 2 - $z * $z)));
        }
        // The walls' corners lie on the radius; the outermost ring reaches the farthest corner of the box.
        $radii = $heights = [];
        for ($r = 1; $r < $this->rings; $r++) {
            $radii[] = $farthest * $r / $this->rings;
        }
        for ($l = 1; $l < $this->layers; $l++) {
            $heights[] = $low + ($high - $low) * $l / $this->layers;
        }
        $reach = self::BEYOND * self::diagonal($box->min, $box->max);
        $shift = $attempt * 1e-7 * $reach;

        return Rings::of($radii, $this->sectors, $heights, $farthest + $reach, $low - $reach, $high + $reach, $this->wander, $this->seed)
            ->mapped($frame, [0.0, 0.0, 0.0])->moved([$through[0] + $shift, $through[1] + $shift, $through[2] + $shift]);
    }

    /**
     * @param  array{float, float, float}  $min
     * @param  array{float, float, float}  $max
     */
    private static function diagonal(array $min, array $max): float
    {
        return sqrt(($max[0] - $min[0]) ** 2 + ($max[1] - $min[1]) ** 2 + ($max[2] - $min[2]) ** 2);
    }

    /**
     * @param  array{float, float, float}  $place
     * @return array{float, float, float}
     */
    private static function moved(array $place, float $by): array
    {
        return [$place[0] + $by, $place[1] + $by, $place[2] + $by];
    }

    /**
     * Longer along a direction, as it is across: the matrix 1 + (f − 1) d dᵗ.
     *
     * @param  array{float, float, float}  $direction
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private static function along(array $direction, float $times): array
    {
        [$x, $y, $z] = Direction::unit($direction) ?? [0.0, 0.0, 0.0];
        $f = $times - 1;

        return [[1 + $f * $x * $x, $f * $x * $y, $f * $x * $z], [$f * $y * $x, 1 + $f * $y * $y, $f * $y * $z], [$f * $z * $x, $f * $z * $y, 1 + $f * $z * $z]];
    }

    /**
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $rows
     * @param  array{float, float, float}  $p
     * @return array{float, float, float}
     */
    private static function apply(array $rows, array $p): array
    {
        return [
            $rows[0][0] * $p[0] + $rows[0][1] * $p[1] + $rows[0][2] * $p[2],
            $rows[1][0] * $p[0] + $rows[1][1] * $p[1] + $rows[1][2] * $p[2],
            $rows[2][0] * $p[0] + $rows[2][1] * $p[1] + $rows[2][2] * $p[2],
        ];
    }

    /**
     * About x, then y, then z.
     *
     * @param  array{float, float, float}  $degrees
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private static function turn(array $degrees): array
    {
        [$a, $b, $c] = [deg2rad($degrees[0]), deg2rad($degrees[1]), deg2rad($degrees[2])];
        [$sa, $ca, $sb, $cb, $sc, $cc] = [sin($a), cos($a), sin($b), cos($b), sin($c), cos($c)];

        return [
            [$cc * $cb, $cc * $sb * $sa - $sc * $ca, $cc * $sb * $ca + $sc * $sa],
            [$sc * $cb, $sc * $sb * $sa + $cc * $ca, $sc * $sb * $ca - $cc * $sa],
            [-$sb, $cb * $sa, $cb * $ca],
        ];
    }

    /**
     * Columns: across, across, and the axis itself.
     *
     * @param  array{float, float, float}  $axis
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private static function frame(array $axis): array
    {
        [$x, $y, $z] = Direction::unit($axis) ?? [0.0, 0.0, 1.0];
        if ($x == 0.0 && $y == 0.0) {
            return $z > 0 ? [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]] : [[1.0, 0.0, 0.0], [0.0, -1.0, 0.0], [0.0, 0.0, -1.0]];
        }
        $level = hypot($x, $y);
        $u = [-$y / $level, $x / $level, 0.0];
        $v = [$y * $u[2] - $z * $u[1], $z * $u[0] - $x * $u[2], $x * $u[1] - $y * $u[0]];

        return [[$u[0], $v[0], $x], [$u[1], $v[1], $y], [$u[2], $v[2], $z]];
    }
}
