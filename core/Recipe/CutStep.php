<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Cut\FlatBlade;

/** One cut of a recipe: the blade and the pieces it takes. */
final readonly class CutStep
{
    /**
     * @param  list<string>  $of  names of pieces, a name followed by * for it and its descendants, * for all
     * @param  array{float, float, float}  $through  as given
     * @param  array{float, float, float}  $facing  as given
     */
    public function __construct(
        public FlatBlade $blade,
        public array $of,
        public array $through,
        public array $facing,
    ) {
    }

    public function takes(string $name): bool
    {
        foreach ($this->of as $pattern) {
            if ($pattern === '*' || $pattern === $name) {
                return true;
            }
            if (str_ends_with($pattern, '*')) {
                $ancestor = substr($pattern, 0, -1);
                if ($name === $ancestor || str_starts_with($name, $ancestor.'-')) {
                    return true;
                }
            }
        }

        return false;
    }

    /** @return array<string, mixed> the step as version 1 of the recipe writes it */
    public function toArray(): array
    {
        return [
            'do' => 'cut',
            'blade' => ['kind' => 'flat', 'through' => $this->through, 'facing' => $this->facing],
            'of' => $this->of,
            'keep' => $this->blade->keep->value,
            'kerf' => $this->blade->kerf,
            'kerf_side' => $this->blade->kerfSide->value,
            'seal' => $this->blade->seal->value,
            'catch' => 0,
        ];
    }
}
