<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Join\Marks;
use Isotome\Operation\Report;

/** The mark of every common face, and the faces that have none. */
final class MarksReport extends Report
{
    /** @param  list<array{string, string, Marks}>  $faces  by the names of the two pieces */
    public function __construct(private readonly array $faces)
    {
        parent::__construct();
    }

    public function toArray(): array
    {
        return [...parent::toArray(), 'faces' => array_map(self::face(...), $this->faces)];
    }

    /**
     * @param  array{string, string, Marks}  $face
     * @return array{between: array{string, string}, area_mm2: float, number: int, arrow: bool, size_mm: float, why: string|null}
     */
    public static function face(array $face): array
    {
        [$first, $second, $marks] = $face;

        return ['between' => [$first, $second], 'area_mm2' => $marks->face->area, 'number' => (int) $marks->text, 'arrow' => str_ends_with($marks->text, '^'), 'size_mm' => $marks->size, 'why' => $marks->why];
    }

    public function said(): string
    {
        $without = count(array_filter($this->faces, static fn (array $face): bool => $face[2]->why !== null));
        $with = count($this->faces) - $without;

        return ($with === 1 ? ', 1 face' : ", $with faces").($without === 0 ? '' : ($without === 1 ? ', 1 has no room' : ", $without have no room"));
    }
}
