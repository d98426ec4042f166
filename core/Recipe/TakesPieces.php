<?php

declare(strict_types=1);

namespace Isotome\Recipe;

/** Which pieces a step takes: * for all, a name, or a name followed by * for it and its descendants. */
trait TakesPieces
{
    /** @return list<string> */
    public function of(): array
    {
        return $this->of;
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
}
