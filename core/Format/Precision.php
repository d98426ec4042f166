<?php

declare(strict_types=1);

namespace Isotome\Format;

/**
 * The numbers that a file can hold: 32-bit floats, 64-bit floats, or multiples of one step (which 32-bit floats hold exactly when they are
 * counted from a place nearby). A place is known by its key: three little-endian numbers, −0 written as 0.
 */
final readonly class Precision
{
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
        $count = count($xyz);
        $size = max(1, 3 * strlen($this->minusZero));
        for ($start = 0; $start < $count; $start += 12288) {
            $chunk = array_slice($xyz, $start, 12288);
            if ($this->step > 0.0) {
                foreach ($chunk as $i => $c) {
                    $chunk[$i] = round($c / $this->step) * $this->step;
                }
            }
            $bytes = pack($this->format.'*', ...$chunk);
            $keys = str_split($bytes, $size);
            if (str_contains($bytes, $this->minusZero)) {
                foreach ($keys as $k => $key) {
                    if (str_contains($key, $this->minusZero)) {
                        $keys[$k] = $this->withoutMinusZero($key);
                    }
                }
            }
            yield $keys;
        }
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
