<?php

declare(strict_types=1);

namespace Isotome\Recipe;

/** One step of a recipe: what it does, and to which pieces. */
interface Step
{
    /** The word after "do". */
    public function does(): string;

    public function takes(string $name): bool;

    /** @return list<string> names as given, with * for all and name* for descendants */
    public function of(): array;

    /** @return array<string, mixed> the step as version 1 of the recipe writes it */
    public function toArray(): array;
}
