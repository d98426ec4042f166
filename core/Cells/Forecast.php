<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * What cells will make of a body, told from its stand-in without filling anything: lines along which the skin parts, the cells' edges within it, and
 * the shards' volumes by the divergence theorem from the outlines alone.
 */
final readonly class Forecast
{
    /**
     * @param  list<float>  $skin  lines on the skin, 6 numbers each, mm
     * @param  list<float>  $inner  edges of cells within the body, 6 numbers each, mm
     * @param  list<float>  $volumes  of the shards, largest first, mm³
     * @param  bool  $isExact  the body stood for itself
     */
    private function __construct(
        public array $skin,
        public array $inner,
        public array $volumes,
        public bool $isExact,
    ) {
    }

    /**
     * @param  float  $smallest  share of the volume below which shards join a neighbour
     * @param  bool  $isSheet  the skin alone is divided: there are shards, but no volumes (all 0)
     */
    public static function of(StandIn $body, Complex $complex, float $smallest = 0.0, bool $isSheet = false): self
    {
        $overlay = Overlay::of($body->mesh, $complex, isSkinOnly: $isSheet);
        [$skin, $inner] = CellLines::of($overlay);
        if ($isSheet) {
            return new self($skin, $inner, array_fill(0, max(1, count(ShardMeasures::of($overlay)[0])), 0.0), $body->isItself);
        }
        [$volumes, $areas] = ShardMeasures::of($overlay);
        $factor = 1.0;
        $sum = array_sum($volumes);
        if (! $body->isItself && $sum > 0.0) {
            $factor = $body->volume / $sum;
        }
        $volumes = array_map(static fn (float $volume): float => $factor * $volume, array_filter($volumes, static fn (float $volume): bool => $volume > 1e-9 * $sum));
        if ($smallest > 0.0) {
            // As JoinSmall does it.
            $volumes = array_map(static fn (array $parts): float => array_sum(array_map(static fn (int $part): float => $volumes[$part], $parts)), Merging::of($volumes, $areas, $smallest * $body->volume));
        }
        rsort($volumes);

        return new self($skin, $inner, $volumes, $body->isItself);
    }

    /**
     * From pieces that were really made.
     *
     * @param  list<Mesh>  $pieces
     * @param  int  $tag  of the faces that part them
     * @param  bool  $isExact  they were made of the body itself, not of what stands in for it
     */
    public static function ofPieces(array $pieces, int $tag, bool $isExact): self
    {
        [$skin, $inner] = PartingLines::of($pieces, $tag);
        $volumes = array_map(static fn (Mesh $piece): float => Volume::of($piece), $pieces);
        rsort($volumes);

        return new self($skin, $inner, $volumes, $isExact);
    }

    /** Without the edges within the body. */
    public function onSkin(): self
    {
        return new self($this->skin, [], $this->volumes, $this->isExact);
    }

    /** These pieces, with the lines of another forecast. */
    public function along(self $other): self
    {
        return new self($other->skin, $other->inner, $this->volumes, $this->isExact);
    }
}
