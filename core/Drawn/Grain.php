<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Exception\BadBlade;

/**
 * Roughness of a blade's surface, like broken stone: smooth noise of one size, and of a second, finer one. The same settings give the same surface on every machine.
 *
 * Source of the noise: K. Perlin, "Improving noise" (2002): gradients at the points of a grid, blended by a polynomial of the fifth degree. Here in two dimensions, with gradients from a hash of the
 * seed, and scaled so that it reaches 1 at most.
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
        // 32 bits mixed (the finalizer of A. Appleby's MurmurHash3), in parts that stay whole numbers.
        $h = ($i * 0x9E37 + $j * 0x85EB + $seed * 0xC2B3) & 0xFFFFFFFF;
        $h ^= $h >> 16;
        $h = ($h * 0x7FEB352D) & 0xFFFFFFFF;
        $h ^= $h >> 15;
        $h = ($h * 0x046CA68B) & 0xFFFFFFFF;
        $h ^= $h >> 16;
        $angle = ($h & 0xFF) * (M_PI / 128);

        return cos($angle) * $x + sin($angle) * $y;
    }
}
