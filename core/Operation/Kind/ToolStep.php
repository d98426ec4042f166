<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Closure;
use Isotome\Operation\Piece;

/** What steps have in common that do something to pieces with others: with tools, which they name. */
abstract class ToolStep extends CombiningStep
{
    /** @return list<string> names of the tools, as in a recipe */
    abstract protected function with(): array;

    /** What tools are for, after "what is". */
    abstract protected function missing(): string;

    final public function takes(string $name): bool
    {
        return parent::takes($name) || $this->isTool($name);
    }

    final public function reads(string $name): bool
    {
        return $this->isTool($name);
    }

    final public function isTool(string $name): bool
    {
        return self::isNamed($name, $this->with());
    }

    /**
     * @param  list<Piece>  $pieces
     * @return array{list<Piece>, list<Piece>} tools and the others
     */
    final protected function apart(array $pieces): array
    {
        return [
            array_values(array_filter($pieces, fn (Piece $piece): bool => $this->isTool($piece->name))),
            array_values(array_filter($pieces, fn (Piece $piece): bool => ! $this->isTool($piece->name))),
        ];
    }

    /** Where tools are in others. */
    final protected function outcome(array $pieces): Closure
    {
        $tools = array_map(fn (Piece $piece): bool => $this->isTool($piece->name), $pieces);

        return static function (array $windings) use ($tools): bool {
            $isTool = $isOther = false;
            foreach ($windings as $n => $times) {
                if ($times > 0) {
                    $tools[$n] ? $isTool = true : $isOther = true;
                }
            }

            return $isTool && $isOther;
        };
    }

    final public function refusal(array $pieces, string $at): string
    {
        [$tools, $others] = $this->apart($pieces);

        return match (true) {
            $tools === [] => "$at names no piece that is there in with; name pieces {$this->missing()}.",
            $others === [] => "$at has nothing but its tools; name others in of.",
            default => "$at: what is {$this->missing()} meets none of the others; move it until it does.",
        };
    }
}
