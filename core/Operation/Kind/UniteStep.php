<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Closure;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Within;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\Names;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;
use Isotome\Operation\Words;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;
use Isotome\Solid\Combined;
use Isotome\Solid\FileProof;

/** Makes one piece of those that overlap or touch face to face, without walls between them. Pieces that meet no other stay as they are. */
final class UniteStep extends CombiningStep
{
    public static function form(): array
    {
        return ['do' => ['unite']];
    }

    public static function schema(): array
    {
        return ['title' => 'Several pieces become one', ...Schema::object(['do' => Schema::word('unite'), 'of' => Schema::of()], ['do'])];
    }

    public function apply(array $pieces, Work $work): Applied
    {
        OpenPieces::refuse($pieces, $work->at);
        $bodies = Combined::unite(array_map(static fn (Piece $piece): Mesh => $piece->mesh, $pieces), $work->closure());
        $bodies = self::withSwallowed($pieces, $bodies);
        $alone = array_count_values(array_merge(...array_column($bodies, 1)));
        $used = $gave = $count = [];
        foreach ($bodies as [$body, $from]) {
            $first = $pieces[$from[0]];
            if (count($from) === 1 && $alone[$from[0]] === 1 && $body->triangleCount() === $first->mesh->triangleCount()) {
                // It met no other.
                continue;
            }
            $parents = [];
            foreach ($from as $n) {
                $parents[] = $pieces[$n];
                $used[$n] = $pieces[$n]->name;
            }
            $k = $count[$first->name] = ($count[$first->name] ?? -1) + 1;
            $gave[] = Given::madeOf($parents, FileProof::of($body, $work->closure()), $k === 0 ? $first->name.'-U' : Names::child($first->name.'-U', $k));
        }
        ksort($used);

        return new Applied(array_values($used), $gave, new Report(fine: Given::fine($gave)));
    }

    /**
     * A piece that lies wholly within others has gone into them, though no face of it is left.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @param  list<array{Mesh, list<int>}>  $bodies
     * @return list<array{Mesh, non-empty-list<int>}>
     */
    private static function withSwallowed(array $pieces, array $bodies): array
    {
        $seen = array_fill_keys(array_merge(...array_column($bodies, 1)), true);
        $made = [];
        foreach ($bodies as [$body, $from]) {
            $within = new Within($body);
            foreach ($pieces as $n => $piece) {
                [$x, $y, $z] = array_slice($piece->mesh->xyz, 0, 3);
                if (! isset($seen[$n]) && $within->has($x, $y, $z)) {
                    $from[] = $n;
                }
            }
            sort($from);
            $from === [] ?: $made[] = [$body, $from];
        }

        return $made;
    }

    protected function outcome(array $pieces): Closure
    {
        return static fn (array $windings): bool => max(0, ...$windings) > 0;
    }

    protected function shared(array $pieces): Closure
    {
        return static function (array $windings): bool {
            $in = 0;
            foreach ($windings as $times) {
                $in += $times > 0 ? 1 : 0;
            }

            return $in > 1;
        };
    }

    public function refusal(array $pieces, string $at): string
    {
        return count($pieces) === 1 ? "$at unites {$pieces[0]->name} with nothing; take two pieces or more that meet." : "$at: none of the ".count($pieces).' pieces meets another; move them until they overlap or touch face to face.';
    }

    public function what(): string
    {
        return 'the uniting';
    }

    public function doing(): string
    {
        return 'uniting';
    }

    public function said(Done $done): string
    {
        return 'United '.count($done->took).' pieces: '.Words::pieces([$done]);
    }
}
