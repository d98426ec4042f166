<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Join\Peg;
use Isotome\Join\Pegs;
use Isotome\Operation\Report;

/** The pegs of every common face, and the faces that have none. */
final class PegsReport extends Report
{
    /** @param  list<array{string, string, Pegs}>  $faces  by the names of the two pieces */
    public function __construct(private readonly array $faces)
    {
        parent::__construct();
    }

    public function toArray(): array
    {
        return [...parent::toArray(), 'faces' => array_map(self::face(...), $this->faces)];
    }

    /**
     * @param  array{string, string, Pegs}  $face
     * @return array{between: array{string, string}, area_mm2: float, pegs: list<array<string, mixed>>, ways: int, why: string|null}
     */
    public static function face(array $face): array
    {
        [$first, $second, $pegs] = $face;

        return ['between' => [$first, $second], 'area_mm2' => $pegs->face->area, 'pegs' => array_map(static fn (Peg $peg): array => $peg->toArray(), $pegs->pegs), 'ways' => $pegs->ways, 'why' => $pegs->why];
    }

    public function said(): string
    {
        $with = array_values(array_filter($this->faces, static fn (array $face): bool => $face[2]->pegs !== []));
        $pegs = array_sum(array_map(static fn (array $face): int => count($face[2]->pegs), $with));
        $without = count($this->faces) - count($with);
        $turning = count(array_filter($with, static fn (array $face): bool => $face[2]->ways !== 1));

        return sprintf(', %s across %s', $pegs === 1 ? '1 peg' : "$pegs pegs", count($with) === 1 ? '1 face' : count($with).' faces')
            .($without === 0 ? '' : ($without === 1 ? ', 1 face has no room for any' : ", $without faces have no room for any"))
            .($turning === 0 ? '' : ($turning === 1 ? ', 1 face goes together in more than one way' : ", $turning faces go together in more than one way"));
    }
}
