<?php

declare(strict_types=1);

namespace Isotome\Recipe;

/** Gives the open sheets it takes a thickness (Thicken); they keep their names. */
final readonly class ThickenStep implements Step
{
    use TakesPieces;

    /**
     * @param  list<string>  $of
     * @param  string  $side  both, front or back
     */
    public function __construct(
        private array $of,
        public float $thickness,
        public string $side,
    ) {
    }

    public function does(): string
    {
        return 'thicken';
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['do' => 'thicken', ...($this->of === ['*'] ? [] : ['of' => $this->of]), 'thickness_mm' => $this->thickness, 'side' => $this->side];
    }
}
