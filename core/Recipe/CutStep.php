<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Series;

/** One cut of a recipe: the blade and the pieces it takes; also a score, which lays the section's edges into the mesh only. */
final readonly class CutStep implements Step
{
    use TakesPieces;

    /**
     * @param  list<string>  $of
     * @param  array{float, float, float}  $through  as given; not used by a series
     * @param  array{float, float, float}  $facing  as given
     * @param  array<string, mixed>|null  $seriesAs  the series as it was given
     * @param  list<int>|null  $faces  triangles that a score, or an opening cut, is limited to
     */
    public function __construct(
        public FlatBlade $blade,
        public array $of,
        public array $through,
        public array $facing,
        public ?Series $series = null,
        public ?array $seriesAs = null,
        public bool $isScore = false,
        public ?array $faces = null,
    ) {
    }

    public function does(): string
    {
        return $this->isScore ? 'score' : 'cut';
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $blade = $this->seriesAs ?? ['kind' => 'flat', 'through' => $this->through, 'facing' => $this->facing];
        $faces = $this->faces === null ? [] : ['faces' => $this->faces];
        if ($this->isScore) {
            return ['do' => 'score', 'blade' => $blade, 'of' => $this->of, ...$faces];
        }

        return [
            'do' => 'cut',
            'blade' => $blade,
            'of' => $this->of,
            'keep' => $this->blade->keep->value,
            'kerf' => $this->blade->kerf,
            'kerf_side' => $this->blade->kerfSide->value,
            'seal' => $this->blade->seal->value,
            ...($this->blade->edge !== null ? ['edge_mm' => $this->blade->edge] : []),
            'catch' => $this->blade->catch,
            ...$faces,
        ];
    }
}
