<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BadBlade;

/**
 * Roughness of a blade's surface, like broken stone: smooth noise of one size, and of a second, finer one. The same settings give the same surface on every machine.
 *
 * On a plane it is a height, see at(); for surfaces that turn or meet it is a way in space, see way(), so that what meets at an edge stays together.
 *
 * Source of the noise: K. Perlin, "Improving noise" (2002): gradients at the points of a grid, blended by a polynomial of the fifth degree. Here with gradients from a hash of the seed; on a plane
 * scaled so that it reaches 1 at most.
 */
final readonly class Grain
{
    /** Edges of the surface for each size, when no length is given. */
    private const EDGES = 4;

    /** So much of the greatest value the noise can have: half of the square root of 2, at the middle of a square whose gradients all look there. */
    private const GREATEST = 0.7071067811865476;

    public float $edge;

    /**
     * @param  float  $height  mm: how far it departs from the blade at most, to either side
     * @param  float  $size  mm: how far apart its hills are
     * @param  float  $fineHeight  mm; 0 for none
     * @param  float  $fineSize  mm
     * @param  float|null  $edge  mm: length of an edge of the surface
     *
     * @throws BadBlade
     */
    public function __construct(
        public float $height,
        public float $size,
        public float $fineHeight = 0.0,
        public float $fineSize = 0.0,
        ?float $edge = null,
        public int $seed = 1,
    ) {
        if ($height <= 0.0 || $size <= 0.0 || $fineHeight < 0.0 || ($fineHeight > 0.0 && $fineSize <= 0.0)) {
            throw new BadBlade('The grain has a height or a size that is not more than 0; give both in millimetres.');
        }
        $this->edge = $edge ?? ($fineHeight > 0.0 ? min($size, $fineSize) : $size) / self::EDGES;
    }

    /** The same with another seed: for a further blade of a series. */
    public function again(int $n): self
    {
        return new self($this->height, $this->size, $this->fineHeight, $this->fineSize, $this->edge, ($this->seed + 2 * $n) & 0x7FFFFFFF);
    }

    /** How far from the blade it reaches at most, mm. */
    public function reach(): float
    {
        return $this->height + $this->fineHeight;
    }

    /** The height at a place of the blade's page, mm. */
    public function at(float $u, float $v): float
    {
        $height = $this->height * self::noise($u / $this->size, $v / $this->size, $this->seed);

        return $this->fineHeight > 0.0 ? $height + $this->fineHeight * self::noise($u / $this->fineSize, $v / $this->fineSize, $this->seed + 1) : $height;
    }

    /**
     * How far and which way a place in space is moved, mm; never farther than the heights together.
     *
     * @return array{float, float, float}
     */
    public function way(float $x, float $y, float $z): array
    {
        $way = self::within($this->height, $x / $this->size, $y / $this->size, $z / $this->size, $this->seed);
        if ($this->fineHeight <= 0.0) {
            return $way;
        }
        $fine = self::within($this->fineHeight, $x / $this->fineSize, $y / $this->fineSize, $z / $this->fineSize, $this->seed + 3);

        return [$way[0] + $fine[0], $way[1] + $fine[1], $way[2] + $fine[2]];
    }

    /**
     * Three noises, one an axis, and what is longer than the height shortened to it.
     *
     * @return array{float, float, float}
     */
    private static function within(float $height, float $x, float $y, float $z, int $seed): array
    {
        // A third of a cell apart, so that the three are not 0 at the same places.
        $dx = $height * self::solidNoise($x, $y, $z, $seed);
        $dy = $height * self::solidNoise($x + 1 / 3, $y + 1 / 3, $z + 1 / 3, $seed + 1);
        $dz = $height * self::solidNoise($x + 2 / 3, $y + 2 / 3, $z + 2 / 3, $seed + 2);
        $length = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
        $share = $length > $height ? $height / $length : 1.0;

        return [$share * $dx, $share * $dy, $share * $dz];
    }

    /** In three dimensions, with the twelve gradients of the source; hardly ever beyond −1 and 1. */
    private static function solidNoise(float $x, float $y, float $z, int $seed): float
    {
        $i = floor($x);
        $j = floor($y);
        $k = floor($z);
        $x -= $i;
        $y -= $j;
        $z -= $k;
        $i = (int) $i;
        $j = (int) $j;
        $k = (int) $k;
        $r = $x * $x * $x * ($x * ($x * 6 - 15) + 10);
        $s = $y * $y * $y * ($y * ($y * 6 - 15) + 10);
        $t = $z * $z * $z * ($z * ($z * 6 - 15) + 10);
        $sum = 0.0;
        for ($n = 0; $n < 8; $n++) {
            $a = $n & 1;
            $b = $n >> 1 & 1;
            $c = $n >> 2;
            $h = self::mixed(($i + $a) * 0x9E37 + ($j + $b) * 0x85EB + ($k + $c) * 0x27D5 + $seed * 0xC2B3) % 12;
            $p = $h < 8 ? $x - $a : $y - $b;
            $q = $h < 4 ? $y - $b : $z - $c;
            $sum += ($a ? $r : 1 - $r) * ($b ? $s : 1 - $s) * ($c ? $t : 1 - $t) * (($h & 1 ? -$p : $p) + ($h & 2 ? -$q : $q));
        }

        return $sum;
    }

    /** From −1 to 1. */
    private static function noise(float $u, float $v, int $seed): float
    {
        $i = floor($u);
        $j = floor($v);
        $x = $u - $i;
        $y = $v - $j;
        $i = (int) $i;
        $j = (int) $j;
        $s = $x * $x * $x * ($x * ($x * 6 - 15) + 10);
        $t = $y * $y * $y * ($y * ($y * 6 - 15) + 10);
        $low = (1 - $s) * self::slope($i, $j, $seed, $x, $y) + $s * self::slope($i + 1, $j, $seed, $x - 1, $y);
        $high = (1 - $s) * self::slope($i, $j + 1, $seed, $x, $y - 1) + $s * self::slope($i + 1, $j + 1, $seed, $x - 1, $y - 1);

        return ((1 - $t) * $low + $t * $high) / self::GREATEST;
    }

    /** A place times the gradient at a point of the grid: one of 256 directions. */
    private static function slope(int $i, int $j, int $seed, float $x, float $y): float
    {
        $angle = (self::mixed($i * 0x9E37 + $j * 0x85EB + $seed * 0xC2B3) & 0xFF) * (M_PI / 128);

        return cos($angle) * $x + sin($angle) * $y;
    }

    /** 32 bits mixed (the finalizer of A. Appleby's MurmurHash3), in parts that stay whole numbers. */
    private static function mixed(int $h): int
    {
        $h &= 0xFFFFFFFF;
        $h ^= $h >> 16;
        $h = ($h * 0x7FEB352D) & 0xFFFFFFFF;
        $h ^= $h >> 15;
        $h = ($h * 0x046CA68B) & 0xFFFFFFFF;

        return $h ^ $h >> 16;
    }
}
