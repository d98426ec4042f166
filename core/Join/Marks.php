<?php

declare(strict_types=1);

namespace Isotome\Join;

use Isotome\Measure\LargestCircle;
use Isotome\Mesh\Mesh;

/**
 * The mark of a common face: the same number on both pieces, read from outside each, and an arrow that points the same way in space.
 *
 * It lies in the largest circle that is clear of the rims (and so of pegs that are there already) and has the depth behind it. Engraved, both pieces lose it; raised, the first gains it and the second has a pocket for it.
 */
final readonly class Marks
{
    /** Heights, mm: what a nozzle of 0.4 mm still draws (common practice: strokes no narrower than it), and what is large enough to read. */
    public const LEAST = 4.0;

    public const GREATEST = 10.0;

    /** Circles that are tried. */
    private const TRIES = 6;

    private function __construct(
        public CommonFace $face,
        public string $text,
        public float $x,
        public float $y,
        public float $size,
        public ?string $why,
    ) {
    }

    /**
     * @param  string  $text  see StrokeFont
     * @param  float|null  $size  height, mm; null lets the face decide
     * @param  float  $depth  mm
     * @param  float  $rim  least distance to the rim, mm
     * @param  float  $wall  least material behind, mm
     * @param  float  $clearance  around what is raised, mm
     */
    public static function on(CommonFace $face, Mesh $first, Mesh $second, string $text, ?float $size, float $depth, float $rim, float $wall, float $clearance = 0.0): self
    {
        $clear = $face->clear();
        // The skin begins at the rim: a wall is kept there as well.
        $rim = max($rim, $wall);
        // Half of the diagonal, the height being 1.
        $half = hypot(1.0, StrokeFont::width($text)) / 2;
        $rim += $clearance;
        [$below, $above] = [new Behind($face, $first, 0), new Behind($face, $second, 1)];
        $taken = [];
        $most = 0.0;
        for ($n = 0; $n < self::TRIES; $n++) {
            $circle = LargestCircle::deepest(static function (float $x, float $y) use ($clear, $taken): float {
                $d = $clear($x, $y);
                foreach ($taken as [$cx, $cy, $radius]) {
                    $d = min($d, hypot($x - $cx, $y - $cy) - $radius);
                }

                return $d;
            }, $face->box, 0.02 * sqrt($face->area));
            if ($circle === null) {
                break;
            }
            $most = max($most, $circle->radius);
            $height = $size ?? min(self::GREATEST, ($circle->radius - $rim) / $half);
            if ($height < ($size ?? self::LEAST) || $height * $half + $rim > $circle->radius + 1e-9) {
                break;
            }
            $taken[] = [$circle->x, $circle->y, $circle->radius / 2];
            $low = $face->heights($first, 0, $circle->x, $circle->y, $height * $half);
            $high = $face->heights($second, 1, $circle->x, $circle->y, $height * $half);
            if (
                $low !== null && $high !== null && $below->tooNear($circle->x, $circle->y, $low[1], $low[0] - $depth, $height * $half, $wall) === null
                && $above->tooNear($circle->x, $circle->y, $high[0], $high[1] + $depth + $clearance, $height * $half + $clearance, $wall) === null
            ) {
                return new self($face, $text, $circle->x, $circle->y, $height, null);
            }
        }

        return new self($face, $text, 0.0, 0.0, 0.0, $taken === []
            ? sprintf('a mark %.1f mm high needs a circle of %.1f mm radius, and their common face takes one of %.1f', $size ?? self::LEAST, ($size ?? self::LEAST) * $half + $rim, $most)
            : sprintf('what is behind their common face is thinner than the mark is deep and %.1f mm', $wall));
    }

    /**
     * What is worked into both pieces.
     *
     * @param  float  $clearance  around what is raised, mm
     * @return array{list<Tool>, list<Tool>} of the first piece and of the second
     */
    public function tools(Mesh $first, Mesh $second, float $depth, bool $isRaised, float $clearance): array
    {
        $reach = hypot(1.0, StrokeFont::width($this->text)) / 2 * $this->size;
        $low = $this->face->heights($first, 0, $this->x, $this->y, $reach) ?? [0.0, 0.0];
        $high = $this->face->heights($second, 1, $this->x, $this->y, $reach) ?? [0.0, 0.0];
        $tools = [[], []];
        foreach (StrokeFont::outlines($this->text, $this->size) as $outline) {
            $tools[0][] = $this->tool(0, $isRaised, $outline, $isRaised ? [[$low[0] - Peg::OVER, 1.0], [$low[1] + $depth, 1.0]] : [[$low[0] - $depth, 1.0], [$low[1] + Peg::OVER, 1.0]]);
        }
        if ($isRaised) {
            // One pocket for all of it: strokes that are widened by the clearance would meet.
            [$x, $y] = [$this->size * StrokeFont::width($this->text) / 2 + $clearance, $this->size / 2 + $clearance];
            $tools[1][] = $this->tool(1, false, [[-$x, -$y], [$x, -$y], [$x, $y], [-$x, $y]], [[$high[0] - Peg::OVER, 1.0], [$high[1] + $depth + $clearance, 1.0]]);
        } else {
            // To be read from outside the other piece.
            foreach (StrokeFont::outlines($this->text, $this->size, true) as $outline) {
                $tools[1][] = $this->tool(1, false, $outline, [[$high[0] - Peg::OVER, 1.0], [$high[1] + $depth, 1.0]]);
            }
        }

        return $tools;
    }

    /**
     * Its outlines on the first piece's face, to be drawn.
     *
     * @return list<float> six numbers a line, mm
     */
    public function lines(): array
    {
        $lines = [];
        foreach ($this->why === null ? StrokeFont::outlines($this->text, $this->size) : [] as $outline) {
            foreach ($outline as $n => [$x, $y]) {
                [$p, $q] = $outline[($n + 1) % count($outline)];
                array_push($lines, ...$this->face->inSpace($this->x + $x, $this->y + $y, $this->face->high), ...$this->face->inSpace($this->x + $p, $this->y + $q, $this->face->high));
            }
        }

        return $lines;
    }

    /**
     * @param  non-empty-list<array{float, float}>  $outline
     * @param  non-empty-list<array{float, float}>  $levels
     */
    private function tool(int $side, bool $isAdded, array $outline, array $levels): Tool
    {
        $corners = array_map(fn (array $at): array => [$this->x + $at[0], $this->y + $at[1]], $outline);
        $middle = [array_sum(array_column($corners, 0)) / count($corners), array_sum(array_column($corners, 1)) / count($corners)];

        return new Tool($this->face, $side, $isAdded, $middle[0], $middle[1], $corners, $levels);
    }
}
