<?php

declare(strict_types=1);

namespace Isotome\Recipe;

/** Mends the pieces it takes (Mend); they keep their names. */
final readonly class MendStep implements Step
{
    use TakesPieces;

    /** @param  list<string>  $of */
    public function __construct(private array $of)
    {
    }

    public function does(): string
    {
        return 'mend';
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return $this->of === ['*'] ? ['do' => 'mend'] : ['do' => 'mend', 'of' => $this->of];
    }
}
