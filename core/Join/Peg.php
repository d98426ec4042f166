<?php

declare(strict_types=1);

namespace Isotome\Join;

use Isotome\Mesh\Mesh;

/** A peg across a common face, in its place: what is added to the pieces, and what is taken out of them. */
final readonly class Peg
{
    /** Pins reach so far into their own piece, and hollows out of theirs, that nothing is only just touched, mm. */
    public const OVER = 0.5;

    /**
     * @param  float  $length  what of it is in each piece, mm
     * @param  array{float, float}  $first  between which heights the first piece's face is across it, mm
     * @param  array{float, float}  $second
     */
    public function __construct(
        public CommonFace $face,
        public Style $style,
        public Shape $shape,
        public float $x,
        public float $y,
        public float $diameter,
        public float $length,
        public float $clearance,
        public float $taper,
        public float $degrees,
        public array $first,
        public array $second,
    ) {
    }

    /** @return array{float, float, float} its middle on the first piece's face, mm */
    public function place(): array
    {
        return $this->face->inSpace($this->x, $this->y, $this->first[1]);
    }

    /** What the first piece gets, or loses. */
    public function atFirst(): Tool
    {
        return $this->style === Style::Pin
            ? $this->tool(0, true, [[$this->first[0] - self::OVER, 1.0], ...$this->tip($this->first[1] + $this->length)])
            : $this->tool(0, false, [[$this->first[0] - $this->length - $this->clearance, 1.0], [$this->first[1] + self::OVER, 1.0]]);
    }

    /** What the second piece loses. */
    public function atSecond(): Tool
    {
        return $this->tool(1, false, [[$this->second[0] - self::OVER, 1.0], [$this->second[1] + $this->length + $this->clearance, 1.0]]);
    }

    /** @return array{Bore, Bore} where it is in the first piece and in the second */
    public function bores(): array
    {
        $wide = $this->shape->reach($this->diameter / 2, $this->clearance);

        return [
            $this->style === Style::Pin ? $this->bore($this->first[0] - self::OVER, $this->first[1], $this->diameter / 2) : $this->bore($this->first[0] - $this->length - $this->clearance, $this->first[1], $wide),
            $this->bore($this->second[0], $this->second[1] + $this->length + $this->clearance, $wide),
        ];
    }

    private function bore(float $from, float $to, float $radius): Bore
    {
        return new Bore($this->face->inSpace($this->x, $this->y, $from), $this->face->inSpace($this->x, $this->y, $to), $radius);
    }

    /** The loose dowel. */
    public function dowel(): Mesh
    {
        [$low, $high] = [$this->first[0] - $this->length, $this->first[1] + $this->length];
        $lower = array_map(static fn (array $level): array => [$low + $high - $level[0], $level[1]], array_reverse($this->tip($high)));

        return $this->tool(0, true, [...$lower, ...$this->tip($high)])->mesh();
    }

    /** @param  non-empty-list<array{float, float}>  $levels */
    private function tool(int $side, bool $isAdded, array $levels): Tool
    {
        $radius = $this->diameter / 2;
        [$cos, $sin] = [cos(deg2rad($this->degrees)), sin(deg2rad($this->degrees))];
        $corners = array_map(fn (array $at): array => [$this->x + $cos * $at[0] - $sin * $at[1], $this->y + $sin * $at[0] + $cos * $at[1]], $isAdded ? $this->shape->corners($radius) : $this->shape->widened($radius, $this->clearance));

        return new Tool($this->face, $side, $isAdded, $this->x, $this->y, $corners, $levels);
    }

    /** @return non-empty-list<array{float, float}> */
    private function tip(float $top): array
    {
        $taper = min($this->taper, $this->diameter / 4, $this->length / 2);

        return $taper > 0.0 ? [[$top - $taper, 1.0], [$top, 1.0 - 2 * $taper / $this->diameter]] : [[$top, 1.0]];
    }

    /**
     * Its edges, and those of what it goes into, to be drawn.
     *
     * @return list<float> six numbers a line, mm
     */
    public function lines(): array
    {
        $lines = [];
        foreach ([$this->atFirst(), $this->atSecond()] as $side => $tool) {
            $levels = $tool->levels;
            // What reaches over the face is not there in the end.
            $ends = $side === 0 ? [$tool->isAdded ? $levels[count($levels) - 1][0] : $levels[0][0], $this->first[1]] : [$this->second[0], $levels[count($levels) - 1][0]];
            [$low, $high] = array_map(static fn (float $height): array => array_chunk($tool->ring($height, 1.0), 3), $ends);
            $count = count($low);
            foreach ($low as $n => $at) {
                array_push($lines, ...$at, ...$low[($n + 1) % $count], ...$high[$n], ...$high[($n + 1) % $count]);
                if ($n % max(1, intdiv($count, 8)) === 0) {
                    array_push($lines, ...$at, ...$high[$n]);
                }
            }
        }

        return $lines;
    }

    /** @return list<array{float, float}> its outline on the page of its face, mm */
    public function outline(): array
    {
        return $this->tool(0, true, [[0.0, 1.0]])->corners;
    }

    /** @return array{at: array{float, float, float}, along: array{float, float, float}, shape: string, diameter_mm: float, length_mm: float} */
    public function toArray(): array
    {
        return ['at' => $this->place(), 'along' => $this->face->axis, 'shape' => $this->shape->value, 'diameter_mm' => $this->diameter, 'length_mm' => $this->length];
    }
}
