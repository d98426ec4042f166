<?php

declare(strict_types=1);

namespace Isotome\Recipe;

/** What one step did. */
final readonly class StepRecord
{
    /**
     * @param  list<string>  $took  names of the pieces it cut
     * @param  list<string>  $gave  names of the pieces it made
     * @param  list<array{piece: string, points: int, length_mm: float, from: array{float, float, float}, to: array{float, float, float}}>  $unclosed  outlines that could not be closed
     * @param  list<string>  $crossing  pieces whose outlines cross each other, so that cut faces overlap there
     * @param  string  $do  cut, score, mirror, mend or thicken
     * @param  array<string, array<string, int>>  $mended  what a mend did, in numbers, by piece
     * @param  array<string, array<string, mixed>>  $mirrored  what there is to say about a mirror's seam, by piece
     */
    public function __construct(
        public array $took,
        public array $gave,
        public float $seconds,
        public float $peakMb,
        public array $unclosed,
        public array $crossing,
        public string $do = 'cut',
        public array $mended = [],
        public array $mirrored = [],
    ) {
    }
}
