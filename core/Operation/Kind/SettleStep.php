<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Mesh\Volume;
use Isotome\Motion\Actor;
use Isotome\Motion\Movement;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\MovementFiles;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;
use Isotome\Operation\Step;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Words;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/**
 * Puts every piece where a movement has it at one of its frames: shards as they lie on the floor after a fall.
 *
 * The movement is worked out on all the pieces that the step takes; a piece that has not moved by then stays the one it is. Pieces keep their names, triangles and looks; each coordinate is rounded once.
 */
final class SettleStep extends Step
{
    /** A piece that is scaled down further would lose its shape to rounding. */
    private const LEAST_SCALE = 1e-4;

    private Movement $movement;

    public static function form(): array
    {
        return ['do' => ['settle']];
    }

    public static function group(): string
    {
        return 'motion';
    }

    public static function schema(): array
    {
        return ['title' => 'Pieces as a movement leaves them', ...Schema::object([
            'do' => Schema::word('settle'), 'of' => Schema::of(),
            'movement' => ['title' => 'The movement, as in movement.json', ...Schema::anything('write a movement, {"isotome_movement": 1, "layers": […]}')],
            'frame' => Schema::whole('The frame at which they are taken over, counted from 0', 0, Movement::MOST_FRAMES - 1, null, 'give the number of a frame, counted from 0'),
        ], ['do', 'movement', 'frame'])];
    }

    protected function accept(string $at): void
    {
        /** @var array<mixed> $given */
        $given = $this->settings['movement'];
        try {
            $this->movement = Movement::fromArray($given);
        } catch (BadRecipe $refusal) {
            throw new BadRecipe("$at.movement: ".$refusal->getMessage());
        }
        if ($this->frame() >= $this->movement->frames) {
            throw new BadRecipe("$at.frame is {$this->frame()}, but the last frame of the movement is ".($this->movement->frames - 1).'; give one of its frames.');
        }
    }

    private function frame(): int
    {
        /** @var int */
        return $this->settings['frame'];
    }

    public function apply(array $pieces, Work $work): Applied
    {
        $frame = $this->frame();
        $needsShapes = $this->movement->needsShapes();
        $actors = array_map(static fn (Piece $piece): Actor => new Actor($piece->name, Volume::measure($piece->mesh)->centroid, $needsShapes ? $piece->mesh : null), $pieces);
        $poses = $work->poses($this->movement, $actors)
            ?? $this->movement->until($frame)->poses($actors, static fn (int $now) => $work->report(0.9 * ($now + 1) / ($frame + 1)));
        $took = $gave = [];
        foreach ($pieces as $n => $piece) {
            if ($poses->scales[$n][$frame] < self::LEAST_SCALE) {
                throw new BadBlade("$piece->name is scaled to nothing at frame $frame; choose a frame at which it is there, or leave it out.");
            }
            if ($poses->isUnmoved($n, $frame)) {
                continue;
            }
            $took[] = $piece->name;
            $gave[] = Given::inPlace($piece, MovementFiles::moved($piece->mesh, MovementFiles::map($poses, $n, $frame)));
            $work->report(0.9 + 0.1 * ($n + 1) / count($pieces));
        }

        return new Applied($took, $gave, new Report);
    }

    /** Pieces are moved with all that they carry. */
    public function givesLooks(): bool
    {
        return true;
    }

    /** What a piece does may depend on every other one: when one of them changes, all move anew. */
    public function reads(string $name): bool
    {
        return $this->takes($name);
    }

    public function refusal(array $pieces, string $at): string
    {
        return "At frame {$this->frame()} every piece is where it stands; choose a later frame, or add a layer to the movement.";
    }

    public function closes(): bool
    {
        return true;
    }

    public function volume(): VolumeAfter
    {
        // A layer may scale pieces.
        return VolumeAfter::Other;
    }

    public function what(): string
    {
        return 'the settling';
    }

    public function doing(): string
    {
        return 'moving pieces';
    }

    public function said(Done $done): string
    {
        return "As they are at frame {$this->frame()}: ".Words::pieces([$done]);
    }
}
