<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Geometry\Zero;

/**
 * The numbers that a file can hold: 32-bit floats, 64-bit floats, or multiples of one step (which 32-bit floats hold exactly when they are
 * counted from a place nearby). A place is known by its key: three little-endian numbers, −0 written as 0.
 */
final readonly class Precision
{
    private const CHUNK = 12288;

    /**
     * Bytes of 64-bit floats that are all 32-bit floats too: the 29 last bits of the fraction are 0 and the exponent is from −95 to 96, well
     * within the range of 32-bit floats; or the number is 0, not −0. Asking so takes a fifth of making 32-bit floats of them (IEEE 754).
     */
    private const SINGLE = '/\A(?>\0{3}[\x00\x20\x40\x60\x80\xa0\xc0\xe0].{3}[\x3a-\x45\xba-\xc5]|\0{8})*+\z/s';

    private function __construct(
        public float $step,
        private string $format,
        private string $minusZero,
    ) {
    }

    public static function single(): self
    {
        return new self(0.0, 'g', "\0\0\0\x80");
    }

    public static function double(): self
    {
        return new self(0.0, 'e', "\0\0\0\0\0\0\0\x80");
    }

    /** @param  float  $step a power of two */
    public static function steps(float $step): self
    {
        return new self($step, 'e', "\0\0\0\0\0\0\0\x80");
    }

    /** The largest distance between neighbouring numbers of the file, among numbers up to a size. */
    public function grain(float $size): float
    {
        return $this->step > 0.0 ? $this->step : $size * ($this->format === 'g' ? 2.0 ** -23 : 2.0 ** -52);
    }

    public function key(float $x, float $y, float $z): string
    {
        if ($this->step > 0.0) {
            $x = round($x / $this->step) * $this->step;
            $y = round($y / $this->step) * $this->step;
            $z = round($z / $this->step) * $this->step;
        }
        $key = pack($this->format.'3', $x, $y, $z);

        return str_contains($key, $this->minusZero) ? $this->withoutMinusZero($key) : $key;
    }

    /**
     * The keys of many places, in chunks.
     *
     * @param  list<float>  $xyz
     * @return iterable<list<string>>
     */
    public function keys(array $xyz): iterable
    {
        $size = max(1, 3 * strlen($this->minusZero));
        foreach (array_chunk($xyz, self::CHUNK) as $chunk) {
            yield str_split($this->held($chunk)[1], $size);
        }
    }

    /**
     * Coordinates as the file holds them, when no two places fall together in it.
     *
     * @param  list<float>  $xyz
     * @return array{list<float>, int}|null  and so many of them, the first ones, did not have to be rounded; null when some places fall together
     */
    public function apart(array $xyz): ?array
    {
        $size = max(1, 3 * strlen($this->minusZero));
        $index = [];
        $places = [];
        $count = count($xyz);
        $exact = 0;
        for ($start = 0; $start < $count; $start += self::CHUNK) {
            $chunk = array_slice($xyz, $start, self::CHUNK);
            [$held, $bytes, $isExact] = $this->held($chunk);
            $index += array_flip(str_split($bytes, $size));
            if (3 * count($index) < min($start + self::CHUNK, $count)) {
                return null;
            }
            // Meshes that were read and cut are exact but for their rims, which stand at the end.
            if ($isExact && $exact === $start) {
                $exact += count($chunk);
            } else {
                array_push($places, ...$held);
            }
        }
        unset($index);

        return [$exact === $count ? $xyz : [...array_slice($xyz, 0, $exact), ...$places], $exact];
    }

    /**
     * @param  list<float>  $xyz
     * @return list<float> the nearest of the file's numbers to each
     */
    public function nearest(array $xyz): array
    {
        $nearest = [];
        foreach (array_chunk($xyz, self::CHUNK) as $chunk) {
            array_push($nearest, ...$this->held($chunk)[0]);
        }

        return $nearest;
    }

    /**
     * @param  list<float>  $chunk
     * @return array{list<float>, string, bool}  as the file holds them, their bytes, and whether nothing had to be rounded
     */
    private function held(array $chunk): array
    {
        $given = $chunk;
        if ($this->step > 0.0) {
            foreach ($chunk as $i => $c) {
                $chunk[$i] = round($c / $this->step) * $this->step;
            }
        } elseif ($this->format === 'g') {
            $bytes = pack('g*', ...$chunk);
            if (preg_match(self::SINGLE, pack('e*', ...$chunk)) === 1) {
                return [$chunk, $bytes, true];
            }
            /** @var array<int, float> $values */
            $values = unpack('g*', $bytes);
            $chunk = array_values($values);
        }
        $bytes = pack($this->format.'*', ...$chunk);
        if (str_contains($bytes, $this->minusZero)) {
            foreach ($chunk as $i => $c) {
                $chunk[$i] = Zero::plain($c);
            }

            return [$chunk, pack($this->format.'*', ...$chunk), false];
        }

        return [$chunk, $bytes, $chunk === $given];
    }

    /**
     * @param  iterable<list<string>>  $chunks  of keys
     * @return list<float>
     */
    public function decode(iterable $chunks): array
    {
        $xyz = [];
        foreach ($chunks as $keys) {
            foreach (array_chunk($keys, 4096) as $chunk) {
                /** @var array<int, float> $values */
                $values = unpack($this->format.'*', implode('', $chunk));
                foreach ($values as $value) {
                    $xyz[] = $value;
                }
            }
        }

        return $xyz;
    }

    private function withoutMinusZero(string $key): string
    {
        $size = strlen($this->minusZero);
        for ($at = 0; $at < 3 * $size; $at += $size) {
            if (substr($key, $at, $size) === $this->minusZero) {
                $key[$at + $size - 1] = "\0";
            }
        }

        return $key;
    }
}
