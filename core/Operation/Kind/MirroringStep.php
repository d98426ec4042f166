<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Mesh\Mesh;
use Isotome\Mirror\MirrorOutcome;
use Isotome\Operation\Applied;
use Isotome\Operation\Given;
use Isotome\Operation\Report;
use Isotome\Operation\Step;
use Isotome\Operation\Work;

/** What a mirror and copies have in common. */
abstract class MirroringStep extends Step
{
    public static function group(): string
    {
        return 'mirror';
    }

    abstract public function mirror(Mesh $mesh, int $tag): MirrorOutcome;

    final public function apply(array $pieces, Work $work): Applied
    {
        $took = $gave = $seams = [];
        foreach ($pieces as $n => $piece) {
            $seams[$piece->name] = $outcome = $this->mirror($piece->mesh, $work->number);
            $took[] = $piece->name;
            foreach ($outcome->bodies as $body) {
                $gave[] = Given::partOf($piece, $body);
            }
            $work->report(($n + 1) / count($pieces));
        }

        return new Applied($took, $gave, new MirrorReport($seams));
    }

    public function what(): string
    {
        return 'the mirror';
    }

    public function doing(): string
    {
        return 'mirroring';
    }

    public function more(Report $report): string
    {
        return $report instanceof MirrorReport ? $report->said() : '';
    }

    public function unclosedWord(): string
    {
        return 'joined';
    }

    /** A half that became a whole is still what a person called it. */
    public function passesTitleOn(): bool
    {
        return true;
    }
}
