<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Join\CommonFace;
use Isotome\Join\Peg;
use Isotome\Join\Pegs;
use Isotome\Join\PegWishes;
use Isotome\Join\Shape;
use Isotome\Join\Style;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\Piece;
use Isotome\Operation\Report;
use Isotome\Operation\Words;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** Pegs across the faces that pieces share (Isotome\Join\Pegs): pins and sockets, sockets with loose dowels, or pockets for magnets. */
final class PegsStep extends JoiningStep
{
    private const MOST = 1000.0;

    /** Faces that are drawn, and lines of the rims of each. */
    private const DRAWN = 60;

    private const LINES = 4000;

    public static function form(): array
    {
        return ['do' => ['pegs']];
    }

    public static function schema(): array
    {
        $length = static fn (string $title): array => Schema::length(Schema::number($title, null, 'give a length above 0', null, 0.0, self::MOST));

        return ['title' => 'Pegs across common faces', ...Schema::object([
            'do' => Schema::word('pegs'), ...self::which(),
            'style' => Schema::oneOf('A pin on the first piece and a socket in the second, sockets in both with a loose dowel, or pockets for magnets', Style::class, Style::Pin->value),
            'shape' => Schema::oneOf('What they look like across; a dovetail goes in one way only', Shape::class, Shape::Round->value),
            'diameter_mm' => Schema::number('Diameter of the circle around a peg, in millimetres; by the size of each face when it is left out', null, 'give a diameter in millimetres, above 0', null, 0.0, self::MOST),
            'length_mm' => Schema::number('How far a peg reaches into each piece, in millimetres; by its diameter when it is left out', null, 'give a length in millimetres, above 0', null, 0.0, self::MOST),
            'count' => Schema::whole('Pegs on each face; two where there is room when it is left out', 1, 20, null, 'give a whole number from 1 to 20'),
            'clearance_mm' => Schema::amount('Between a peg and its socket, all round and at the end, in millimetres', 0.3, 'a clearance in millimetres, 0 or more', 10.0),
            'taper_mm' => Schema::amount('By how much the tip is narrower all round, in millimetres', 0.8, 'a length in millimetres, 0 or more', 100.0),
            'rim_mm' => Schema::number('Least distance between a socket and the rim of the face, in millimetres', 1.2, 'give a length in millimetres, 0.2 or more', 0.2, null, self::MOST),
            'wall_mm' => Schema::number('Least material between a socket and any other face, behind it and at its rim, in millimetres', 1.2, 'give a length in millimetres, 0.2 or more', 0.2, null, self::MOST),
            'degrees' => Schema::number('How far the shapes are turned', 0.0, 'give an angle in degrees', -360.0, null, 360.0),
            'one_way' => Schema::yesNo('Whether the pegs of a face differ, so that it goes together in one way only', true),
            'shorten' => Schema::yesNo('Whether pegs are made shorter where there is no room behind, down to half their length', true),
            'swap' => Schema::yesNo('Whether the second piece of each pair gets the pins', false),
            'at' => Schema::list('Places of the pegs by hand, on the common face', Schema::place('A place on a common face'), 1, 200, 'give a list of places, [[x, y, z], …]'),
        ], ['do'])];
    }

    /**
     * Where the pegs will be.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @return non-empty-list<array{int, int, Pegs}> by pair of pieces
     *
     * @throws BadBlade when there is nowhere a peg can be, or a place by hand is not on a common face
     */
    private function planned(array $pieces, Work $work): array
    {
        $joints = $this->joints($pieces, $work->part(0, 2));
        $at = $this->byHand($joints, $work);
        $planned = $bores = [];
        foreach ($joints as $n => [$first, $second, $faces]) {
            foreach ($faces as $k => $face) {
                if ($at !== null && ! isset($at[$n][$k])) {
                    continue;
                }
                [$from, $to, $face] = $this->settings['swap'] === true ? [$second, $first, $face->fromBehind()] : [$first, $second, $face];
                $pegs = Pegs::on($face, $pieces[$from]->mesh, $pieces[$to]->mesh, $this->wishes($at[$n][$k] ?? []), [$bores[$from] ?? [], $bores[$to] ?? []]);
                foreach ($pegs->pegs as $peg) {
                    [$bores[$from][], $bores[$to][]] = $peg->bores();
                }
                $planned[] = [$from, $to, $pegs];
            }
            $work->part(1, 2)->report(($n + 1) / count($joints));
        }
        $without = array_values(array_filter($planned, static fn (array $one): bool => $one[2]->pegs === [] || ($at !== null && $one[2]->why !== null)));
        if ($without !== [] && ($at !== null || count($without) === count($planned))) {
            [$first, $second, $pegs] = $without[0];
            throw new BadBlade("{$work->at}: between {$pieces[$first]->name} and {$pieces[$second]->name} there is no room for a peg: {$pegs->why}; give a smaller or shorter one, or another place.");
        }

        /** @var non-empty-list<array{int, int, Pegs}> */
        return $planned;
    }

    /**
     * @param  non-empty-list<array{int, int, list<CommonFace>}>  $joints
     * @return array<int, array<int, non-empty-list<array{float, float, float}>>>|null places by pair and face; null when there are none by hand
     */
    private function byHand(array $joints, Work $work): ?array
    {
        /** @var list<array{float, float, float}> $places */
        $places = $this->settings['at'] ?? [];
        $by = [];
        foreach ($places as $place) {
            $best = [INF, 0, 0];
            foreach ($joints as $n => [, , $faces]) {
                foreach ($faces as $k => $face) {
                    [$x, $y, $height] = $face->onPage(...$place);
                    $away = max(0.0, -($face->clear())($x, $y)) + max(0.0, $face->low - $height, $height - $face->high);
                    $best = $away < $best[0] ? [$away, $n, $k] : $best;
                }
            }
            if ($best[0] > $this->reach() + 1e-6) {
                throw new BadBlade(sprintf('%s.at: (%.1f, %.1f, %.1f) lies on no common face, the nearest is %.1f mm away; give a place on one.', $work->at, ...[...$place, $best[0]]));
            }
            $by[$best[1]][$best[2]][] = $place;
        }

        return $places === [] ? null : $by;
    }

    /** @param  list<array{float, float, float}>  $at */
    private function wishes(array $at): PegWishes
    {
        /** @var array{style: string, shape: string, diameter_mm?: float, length_mm?: float, count?: int, clearance_mm: float, taper_mm: float, rim_mm: float, wall_mm: float, degrees: float, one_way: bool, shorten: bool} $set */
        $set = $this->settings;

        return new PegWishes(
            Style::from($set['style']), Shape::from($set['shape']), $set['diameter_mm'] ?? null, $set['length_mm'] ?? null, $set['count'] ?? null,
            $set['clearance_mm'], $set['taper_mm'], $set['rim_mm'], $set['wall_mm'], $set['degrees'], $set['one_way'], $set['shorten'], $at,
        );
    }

    public function foreseen(array $pieces, Work $work): array
    {
        $faces = $lines = [];
        foreach ($this->planned($pieces, $work) as [$first, $second, $pegs]) {
            $faces[] = [...PegsReport::face([$pieces[$first]->name, $pieces[$second]->name, $pegs]), 'drawing' => count($faces) < self::DRAWN ? self::drawing($pegs) : null];
            foreach ($pegs->pegs as $peg) {
                array_push($lines, ...$peg->lines());
            }
        }

        return [$faces, $lines];
    }

    /**
     * A common face as it is seen from the first piece, with the outlines of its pegs, on its page.
     *
     * @return array{right: array{float, float, float}, up: array{float, float, float}, rims: list<float>, pegs: list<list<float>>} rims four numbers a line, pegs two a corner, mm
     */
    private static function drawing(Pegs $pegs): array
    {
        $rims = array_merge(...$pegs->face->rims);
        $step = max(1, (int) ceil(count($rims) / self::LINES));
        $some = array_values(array_filter($rims, static fn (int $n): bool => $n % $step === 0, ARRAY_FILTER_USE_KEY));

        return ['right' => $pegs->face->right, 'up' => $pegs->face->up, 'rims' => array_merge(...$some), 'pegs' => array_map(static fn (Peg $peg): array => array_merge(...$peg->outline()), $pegs->pegs)];
    }

    public function apply(array $pieces, Work $work): Applied
    {
        $tools = $dowels = $told = [];
        foreach ($this->planned($pieces, $work->part(0, 4)) as [$first, $second, $pegs]) {
            $told[] = [$pieces[$first]->name, $pieces[$second]->name, $pegs];
            foreach ($pegs->pegs as $peg) {
                $tools[$first][] = $peg->atFirst();
                $tools[$second][] = $peg->atSecond();
                if ($peg->style === Style::Dowel) {
                    $dowels[] = [$pieces[$first], $pieces[$second], $peg->dowel()];
                }
            }
        }
        $carving = new Work($work->number, $work->at, static fn (float $share) => $work->report(0.25 + 0.75 * $share));
        [$took, $gave] = $this->carved($pieces, $tools, $carving);
        foreach ($dowels as $n => [$first, $second, $mesh]) {
            $gave[] = Given::madeOf([$first, $second], Mesh::of($mesh->xyz, $mesh->corners, array_fill(0, max(1, $mesh->triangleCount()), $work->number)), "dowel-{$work->number}-".($n + 1));
        }

        return new Applied($took, $gave, new PegsReport($told));
    }

    public function more(Report $report): string
    {
        return $report instanceof PegsReport ? $report->said() : '';
    }

    public function what(): string
    {
        return 'the pegs';
    }

    public function doing(): string
    {
        return 'placing pegs';
    }

    public function said(Done $done): string
    {
        return 'Pegged: '.Words::pieces([$done]);
    }
}
