<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Geometry\Turn;
use Isotome\Operation\Done;
use Isotome\Operation\Words;

/** What turns have in common. */
abstract class TurningStep extends PlacingStep
{
    abstract protected function turn(): Turn;

    final public function rows(): array
    {
        return $this->turn()->rows();
    }

    final protected function map(array $through): array
    {
        return $this->turn()->map($through);
    }

    final protected function placed(array $xyz, array $through): array
    {
        return $this->turn()->of($xyz, $through);
    }

    public function what(): string
    {
        return 'the turn';
    }

    public function doing(): string
    {
        return 'turning';
    }

    public function said(Done $done): string
    {
        return 'Turned: '.Words::pieces([$done]);
    }
}
