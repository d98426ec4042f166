<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Applied;
use Isotome\Operation\Given;
use Isotome\Operation\Names;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;
use Isotome\Solid\Partition;

/** A cut along the skin of other pieces (Isotome\Solid\Partition): what is within them and what is around them, with the same triangles where they part. */
final class BodyStep extends ToolStep
{
    public static function form(): array
    {
        return ['do' => ['cut'], 'blade.kind' => ['body']];
    }

    public static function schema(): array
    {
        return ['title' => 'A cut along the skin of other pieces', ...Schema::object([
            'do' => Schema::word('cut'),
            'blade' => Schema::object(['kind' => Schema::word('body'), 'with' => ['title' => 'The pieces along whose skin it cuts, by name', ...array_diff_key(Schema::names(), ['title' => true])]], ['kind', 'with']),
            'of' => Schema::of(),
            'keep' => Schema::oneOf('What stays: both sides, what is around (ahead), or what is within (behind)', Side::class, 'both'),
            'spend' => Schema::yesNo('Whether the pieces that cut are used up', false),
        ], ['do', 'blade'])];
    }

    protected function with(): array
    {
        /** @var array{with: list<string>} $blade */
        $blade = $this->settings['blade'];

        return $blade['with'];
    }

    protected function missing(): string
    {
        return 'to cut';
    }

    public function apply(array $pieces, Work $work): Applied
    {
        OpenPieces::refuse($pieces, $work->at);
        [$tools, $targets] = $this->apart($pieces);
        $surfaces = array_map(static fn (Piece $tool): Mesh => $tool->mesh, $tools);
        $isSpent = $this->settings['spend'] === true;
        $keep = Side::from(is_string($this->settings['keep']) ? $this->settings['keep'] : '');
        $took = $gave = [];
        foreach ($targets as $n => $target) {
            if ($surfaces === []) {
                break;
            }
            $divided = Partition::by($target->mesh, $surfaces, $work->number, $work->part($n, count($targets))->closure());
            if (count($divided->bodies) < 2) {
                continue;
            }
            $took[] = $target->name;
            $kept = self::kept($divided, $keep);
            if ($kept === []) {
                throw new BadBlade("{$work->at}: nothing would be left of {$target->name}; keep the other side, or both.");
            }
            foreach ($kept as $k => $body) {
                // What was used up lives again with what was made of it.
                $gave[] = $isSpent ? Given::madeOf([$target, ...$tools], $body, Names::child($target->name, $k)) : Given::partOf($target, $body);
            }
        }
        if ($gave !== [] && $isSpent) {
            array_push($took, ...array_map(static fn (Piece $tool): string => $tool->name, $tools));
        }

        return new Applied($took, $gave, new Report);
    }

    /** @return list<Mesh> what is within first, each side the largest first */
    private static function kept(Partition $divided, Side $keep): array
    {
        $kept = [];
        foreach ([[true, Side::Ahead], [false, Side::Behind]] as [$isBehind, $dropping]) {
            foreach ($divided->bodies as $n => $body) {
                if ($divided->behind[$n] === $isBehind && $keep !== $dropping) {
                    $kept[] = $body;
                }
            }
        }

        return $kept;
    }

    public function volume(): VolumeAfter
    {
        return $this->settings['keep'] === Side::Both->value ? VolumeAfter::Same : VolumeAfter::Other;
    }

    public function what(): string
    {
        return 'the cut';
    }

    public function doing(): string
    {
        return 'cutting and checking';
    }
}
