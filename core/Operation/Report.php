<?php

declare(strict_types=1);

namespace Isotome\Operation;

/** What a step has to report of its work. Kinds that have more to say extend it. */
class Report
{
    /**
     * @param  list<array{piece: string, points: int, length_mm: float, from: array{float, float, float}, to: array{float, float, float}}>  $unclosed  outlines that could not be closed
     * @param  list<string>  $crossing  pieces whose outlines cross each other, so that cut faces overlap there
     * @param  list<string>  $fine  pieces with details finer than 32-bit floats, so that faces cross in files of such numbers
     */
    public function __construct(
        public readonly array $unclosed = [],
        public readonly array $crossing = [],
        public readonly array $fine = [],
    ) {
    }

    /** @return array<string, mixed> as the manifest and the lineage keep it */
    public function toArray(): array
    {
        return ['unclosed' => $this->unclosed, 'crossing' => $this->crossing, 'fine' => $this->fine];
    }

    /**
     * @param  list<array{float, float, float}>  $path
     * @return array{piece: string, points: int, length_mm: float, from: array{float, float, float}, to: array{float, float, float}}
     */
    public static function outline(string $piece, array $path): array
    {
        $length = 0.0;
        for ($i = 1; $i < count($path); $i++) {
            $length += sqrt(($path[$i][0] - $path[$i - 1][0]) ** 2 + ($path[$i][1] - $path[$i - 1][1]) ** 2 + ($path[$i][2] - $path[$i - 1][2]) ** 2);
        }

        return ['piece' => $piece, 'points' => count($path), 'length_mm' => $length, 'from' => $path[0], 'to' => $path[count($path) - 1]];
    }
}
