<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Cells\CellLines;
use Isotome\Cells\Forecast;
use Isotome\Cells\Overlay;
use Isotome\Cells\ShardMeasures;
use Isotome\Cells\StandIn;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;

/** What a cut along lines will make of a body, told from its stand-in without filling anything; or from pieces that were really made. */
final readonly class DrawnForecast
{
    /** A smaller share of the body is no piece: rounding left it. */
    private const NOTHING = 1e-9;

    /**
     * @param  list<float>  $skin  lines along which the skin parts, 6 numbers each, mm
     * @param  list<float>  $inner  edges within the body, 6 numbers each, mm
     * @param  array{float, float, float}  $volumes  mm³: behind, removed, ahead
     * @param  int  $parts  into which it falls
     * @param  int  $pieces  of them that stay
     * @param  int  $loose  ends of lines beside which the body hangs together
     * @param  bool  $isExact  the body stood for itself, and bodies in one part were told apart
     * @param  LostSide  $lost  what does not stay
     */
    private function __construct(
        public array $skin,
        public array $inner,
        public array $volumes,
        public int $parts,
        public int $pieces,
        public int $loose,
        public bool $isExact,
        public LostSide $lost,
    ) {
    }

    /** @param  bool  $isSheet  an open surface: it has pieces, but no volumes */
    public static function of(StandIn $body, DrawnBlade $blade, bool $isSheet = false): self
    {
        // A grain moves volumes to and fro by little, and would take long.
        $space = $blade->withGrain(null)->space($body->mesh);
        $overlay = Overlay::of($body->mesh, $space->complex, isSkinOnly: $isSheet);
        [$skin, $inner] = CellLines::of($overlay);
        $shards = $isSheet ? self::present($overlay) : ShardMeasures::of($overlay)[0];
        $sum = array_sum($shards);
        $factor = ! $body->isItself && $sum > 0.0 ? $body->volume / $sum : 1.0;
        $volumes = [-1 => 0.0, 0 => 0.0, 1 => 0.0];
        $parts = $pieces = 0;
        foreach ($shards as $shard => $volume) {
            $side = $space->sides[$shard] ?? 1;
            if ($volume > self::NOTHING * $sum) {
                $volumes[$side] += $isSheet ? 0.0 : $factor * $volume;
                $parts++;
                $pieces += $side !== 0 && $blade->keeps($side) ? 1 : 0;
            }
        }

        return new self($skin, $inner, [$volumes[-1], $volumes[0], $volumes[1]], $parts, $pieces, $space->loose, false, LostSide::of($blade, $space, Box::of($body->mesh->xyz)));
    }

    /** @return array<int, float> the shards that something of the skin is in */
    private static function present(Overlay $overlay): array
    {
        $present = [];
        foreach ($overlay->whole as $of) {
            if ($of >= 0) {
                $present[$of] = 1.0;
            }
        }
        foreach ($overlay->parts as $parts) {
            foreach ($parts as $of => $_) {
                $present[$of] = 1.0;
            }
        }

        return $present;
    }

    /** Is anything parted, or removed? */
    public function cuts(): bool
    {
        return $this->parts > 1;
    }

    /**
     * @param  list<Mesh>  $bodies  that were made
     * @param  int  $tag  of the faces that part them
     * @param  bool  $isRough  then only the rims are drawn: all edges of the walls would hide them
     */
    public function made(array $bodies, int $tag, bool $isRough = false): self
    {
        $lines = Forecast::ofPieces($bodies, $tag, true);

        return new self($lines->skin, $isRough ? [] : $lines->inner, $this->volumes, $this->parts, count($bodies), $this->loose, true, $this->lost);
    }
}
