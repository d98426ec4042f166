<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Closure;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\Step;
use Isotome\Operation\Words;
use Isotome\Operation\Work;

/** What mends have in common: pieces keep their names. */
abstract class MendingStep extends Step
{
    public static function group(): string
    {
        return 'mend';
    }

    /**
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return array{mesh: Mesh, did: array<string, int>} the same mesh when there was nothing to do
     */
    abstract public function on(Mesh $mesh, int $tag, ?Closure $progress = null): array;

    final public function apply(array $pieces, Work $work): Applied
    {
        $took = $gave = $mended = [];
        foreach ($pieces as $n => $piece) {
            ['mesh' => $mesh, 'did' => $mended[$piece->name]] = $this->on($piece->mesh, $work->number, static fn (float $share) => $work->report(($n + $share) / count($pieces)));
            $took[] = $piece->name;
            $gave[] = Given::inPlace($piece, $mesh);
            $work->report(($n + 1) / count($pieces));
        }

        return new Applied($took, $gave, new MendReport($mended, Given::fine($gave)));
    }

    /** One mend may open what another one closes. */
    public function closes(): bool
    {
        return false;
    }

    public function what(): string
    {
        return 'the mend';
    }

    public function doing(): string
    {
        return 'mending and checking';
    }

    public function said(Done $done): string
    {
        $did = $done->report instanceof MendReport ? $done->report->said() : [];

        return ($did === [] ? 'Mended' : 'Mended: '.implode(', ', $did)).'; '.Words::state($done).Words::fine([$done]).'.';
    }
}
