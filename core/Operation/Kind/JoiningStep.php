<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Join\Carved;
use Isotome\Join\CommonFace;
use Isotome\Join\Joints;
use Isotome\Join\Tool;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Given;
use Isotome\Operation\Piece;
use Isotome\Operation\Step;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** What steps have in common that work on faces which pieces share: on those between two named ones, or on all of the pieces they take. */
abstract class JoiningStep extends Step
{
    /** Common faces are looked for across no more than this, mm. */
    private const MOST_REACH = 20.0;

    /** Smaller common faces are nothing to work on, mm². */
    private const LEAST = 0.01;

    public static function group(): string
    {
        return 'join';
    }

    /** @return array<string, array<string, mixed>> */
    protected static function which(): array
    {
        return [
            'between' => [...Schema::names(), 'title' => 'The two pieces whose common faces are meant, by name, or a name followed by *; instead of of', 'minItems' => 2, 'maxItems' => 2, 'x-give' => 'give the names of two pieces'],
            'of' => Schema::of(),
            'reach_mm' => Schema::amount('Across how much pieces may be apart and still share a face: the widest kerf, in millimetres', 1.0, 'a length in millimetres, 0 or more', self::MOST_REACH),
        ];
    }

    /** @return array{string, string}|null */
    private function between(): ?array
    {
        /** @var array{string, string}|null */
        return $this->settings['between'] ?? null;
    }

    protected function accept(string $at): void
    {
        if ($this->between() !== null && $this->of() !== ['*']) {
            throw new BadRecipe("$at has both between and of; leave one of them out.");
        }
    }

    public function takes(string $name): bool
    {
        return $this->between() === null ? parent::takes($name) : self::isNamed($name, $this->between());
    }

    /**
     * What will be on each common face, and its edges to be drawn.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @return array{list<array<string, mixed>>, list<float>} six numbers a line, mm
     *
     * @throws BadBlade as when it is done
     */
    abstract public function foreseen(array $pieces, Work $work): array;

    final protected function reach(): float
    {
        /** @var float */
        return $this->settings['reach_mm'];
    }

    /**
     * The faces between the pieces.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @return non-empty-list<array{int, int, list<CommonFace>}>
     *
     * @throws BadBlade when there are none
     */
    final protected function joints(array $pieces, Work $work): array
    {
        OpenPieces::refuse($pieces, $work->at);
        $reach = $this->reach();
        $joints = Joints::of(array_map(static fn (Piece $piece): Mesh => $piece->mesh, $pieces), $this->pairs($pieces), $reach, $work->closure());
        foreach ($joints as $n => [$first, $second, $faces]) {
            $joints[$n][2] = array_values(array_filter($faces, static fn (CommonFace $face): bool => $face->area >= self::LEAST));
        }
        $joints = array_values(array_filter($joints, static fn (array $joint): bool => $joint[2] !== []));
        if ($joints === []) {
            $names = implode(', ', array_slice(array_map(static fn (Piece $piece): string => $piece->name, $pieces), 0, 8));
            throw new BadBlade(sprintf('%s: %s share no face across %s mm or less; name pieces that lie against each other, or give a larger reach_mm.', $work->at, $names, round($reach, 3)));
        }

        return $joints;
    }

    /**
     * @param  non-empty-list<Piece>  $pieces
     * @return list<array{int, int}>
     */
    private function pairs(array $pieces): array
    {
        $between = $this->between();
        $pairs = [];
        foreach ($pieces as $n => $one) {
            foreach ($pieces as $m => $other) {
                $isMeant = $between === null ? $n < $m : $n !== $m && self::isNamed($one->name, [$between[0]]) && self::isNamed($other->name, [$between[1]]) && ! in_array([$m, $n], $pairs, true);
                if ($isMeant) {
                    $pairs[] = [$n, $m];
                }
            }
        }

        return $pairs;
    }

    /**
     * Pieces with what is added and taken out.
     *
     * @param  non-empty-list<Piece>  $pieces
     * @param  array<int, list<Tool>>  $tools  by piece
     * @return array{list<string>, list<Given>}
     *
     * @throws BadBlade when a piece would fall apart
     */
    final protected function carved(array $pieces, array $tools, Work $work): array
    {
        $took = $gave = [];
        ksort($tools);
        foreach (array_keys($tools) as $done => $n) {
            $piece = $pieces[$n];
            $bodies = Carved::of($piece->mesh, $tools[$n], $work->number, $work->part($done, count($tools))->closure());
            if (count($bodies) !== 1) {
                throw new BadBlade("{$work->at}: {$piece->name} would fall apart into ".count($bodies).' pieces; give a larger wall, or leave it out.');
            }
            $took[] = $piece->name;
            $gave[] = Given::inPlace($piece, $bodies[0]);
        }

        return [$took, $gave];
    }

    public function closes(): bool
    {
        return true;
    }
}
