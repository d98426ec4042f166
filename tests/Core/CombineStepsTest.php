<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\Refusal;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Skins;
use Tests\Support\Solids;

/** Steps that make solids of several pieces: what they take and give, names, parents, what is refused. */
final class CombineStepsTest extends TestCase
{
    /** @return array<string, Mesh> */
    private static function figure(): array
    {
        return [
            'body' => Solids::box(4, 4, 6), 'head' => Solids::sphere(2, 2, 2.0, 2.0, 7.0), 'arm' => Solids::box(4, 1, 1, [3.0, 1.5, 4.0]),
            'heart' => Solids::box(1, 1, 1, [1.0, 1.0, 1.0]), 'post' => Solids::box(1, 1, 9, [9.0, 9.0, 0.0]),
        ];
    }

    /**
     * @param  array<string, Mesh>  $parts
     * @param  array<string, mixed>  ...$steps
     */
    private static function ran(array $parts, array ...$steps): Runner
    {
        $runner = Runner::on('figure', array_values($parts)[0], $parts);
        foreach (Recipe::fromJson(json_encode(['isotome_recipe' => 1, 'steps' => $steps], JSON_THROW_ON_ERROR))->steps as $step) {
            $runner->run($step);
        }

        return $runner;
    }

    /** @return array<string, float> */
    private static function volumes(Runner $runner): array
    {
        return array_map(static fn (Piece $piece): float => round(Volume::measure($piece->mesh)->volume, 9), $runner->pieces());
    }

    public function test_what_meets_becomes_one_and_the_rest_stays(): void
    {
        $parts = self::figure();
        $runner = self::ran($parts, ['do' => 'unite']);
        self::assertSame(['body-U', 'post'], array_keys($runner->pieces()));
        [$record] = $runner->records();
        // The heart lies within the body: it has gone into it, though no face of it is left.
        self::assertSame([['body', 'head', 'arm', 'heart'], ['body-U'], ['body-U' => ['body', 'head', 'arm', 'heart']]], [$record->took, $record->gave, $record->parents]);
        self::assertSame($parts['post'], $runner->pieces()['post']->mesh);
        $alone = Volume::measure($parts['body'])->volume + Volume::measure($parts['head'])->volume + 4.0;
        $common = self::ran(['body' => $parts['body'], 'head' => $parts['head']], ['do' => 'common']);
        self::assertSame(['body-I'], array_keys($common->pieces()));
        self::assertEqualsWithDelta($alone - self::volumes($common)['body-I'] - 1.0, self::volumes($runner)['body-U'], 1e-6);
    }

    public function test_a_tool_is_used_up_or_stays(): void
    {
        $parts = ['plate' => Solids::box(10, 10, 2), 'post' => Solids::box(2, 2, 6, [4.0, 4.0, -2.0]), 'saw' => Solids::box(1, 12, 4, [7.0, -1.0, -1.0]), 'far' => Solids::box(1, 1, 1, [50.0, 0.0, 0.0])];
        $runner = self::ran($parts, ['do' => 'subtract', 'of' => ['plate', 'far'], 'with' => ['post']]);
        self::assertSame(['plate-A' => 192.0, 'saw' => 48.0, 'far' => 1.0], self::volumes($runner));
        self::assertSame(['plate', 'post'], $runner->records()[0]->parents['plate-A']);
        self::assertEqualsCanonicalizing([0, 1], array_values(array_unique($runner->pieces()['plate-A']->mesh->tags)));
        $runner = self::ran($parts, ['do' => 'subtract', 'of' => ['plate'], 'with' => ['post', 'saw'], 'spend' => false]);
        self::assertSame(['plate-A' => 132.0, 'plate-B' => 40.0, 'post' => 24.0, 'saw' => 48.0, 'far' => 1.0], self::volumes($runner));
        self::assertSame(['plate'], $runner->records()[0]->parents['plate-B']);
    }

    /** Faces that stay keep what they carry, wherever they were divided; what a tool leaves carries nothing. */
    /** A post of 2 × 2 through a plate of 10 × 10 × 1, with a gap of 0.25 all round: the hole is 2.5 × 2.5. The post itself stays as it is. */
    public function test_what_is_taken_out_is_widened_by_the_gap_before(): void
    {
        $runner = self::ran(['plate' => Solids::box(10, 10, 1), 'post' => Solids::box(2, 2, 3, [4.0, 4.0, -1.0])], ['do' => 'subtract', 'of' => ['plate'], 'with' => ['post'], 'gap_mm' => 0.25, 'spend' => false]);
        $volumes = array_map(static fn ($piece): float => Volume::measure($piece->mesh)->volume, $runner->pieces());
        sort($volumes);
        self::assertEqualsWithDelta([12.0, 100.0 - 6.25], $volumes, 1e-12);
    }

    public function test_what_pieces_carry_comes_through(): void
    {
        $one = Skins::linear(Solids::sphere(10, 3));
        $other = Skins::linear(Solids::sphere(8, 3, 9.0, 1.0, 2.0));
        foreach ([['do' => 'unite'], ['do' => 'common'], ['do' => 'subtract', 'of' => ['one'], 'with' => ['other']]] as $step) {
            $corners = $inside = 0;
            foreach (self::ran(['one' => $one, 'other' => $other], $step)->pieces() as $piece) {
                $skin = $piece->mesh->skin;
                self::assertNotNull($skin);
                foreach ($piece->mesh->tags as $t => $tag) {
                    if ($tag > 0) {
                        $inside++;
                        self::assertSame(-1, $skin->materialOf($t));

                        continue;
                    }
                    $uv = $skin->layers['uv0']->at($t);
                    for ($k = 0; $k < 3; $k++) {
                        $v = 3 * $piece->mesh->corners[3 * $t + $k];
                        [$u, $w] = Skins::uv([$piece->mesh->xyz[$v], $piece->mesh->xyz[$v + 1], $piece->mesh->xyz[$v + 2]], $skin->materialOf($t) === 1);
                        self::assertEqualsWithDelta([$u, $w], [$uv[2 * $k], $uv[2 * $k + 1]], 1e-9);
                        $corners++;
                    }
                }
            }
            self::assertGreaterThan(1000, $corners);
            self::assertSame($step['do'] === 'subtract', $inside > 0);
        }
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function wrong(): iterable
    {
        yield 'open' => [['do' => 'unite', 'of' => ['body', 'sheet']], 'steps[0]: sheet is not watertight (3 edges open), so nobody can say what is inside of it; mend it first.'];
        yield 'alone' => [['do' => 'unite', 'of' => ['body']], 'steps[0] unites body with nothing; take two pieces or more that meet.'];
        yield 'apart' => [['do' => 'unite', 'of' => ['body', 'post']], 'steps[0]: none of the 2 pieces meets another; move them until they overlap or touch face to face.'];
        yield 'nothing common' => [['do' => 'common', 'of' => ['body', 'post']], 'steps[0]: no place is in all of the 2 pieces; move them until they overlap.'];
        yield 'no tool' => [['do' => 'subtract', 'of' => ['body'], 'with' => ['drill']], 'steps[0] names no piece that is there in with; name pieces to be taken out.'];
        yield 'tool beside' => [['do' => 'subtract', 'of' => ['body'], 'with' => ['post']], 'steps[0]: what is to be taken out meets none of the others; move it until it does.'];
        yield 'nothing left' => [['do' => 'subtract', 'of' => ['heart'], 'with' => ['body']], 'steps[0]: nothing would be left of heart; do not name it in of, or move what is taken out.'];
        yield 'all tools' => [['do' => 'subtract', 'of' => ['body'], 'with' => ['body']], 'steps[0] has nothing but its tools; name others in of.'];
    }

    /** @param  array<string, mixed>  $step */
    #[DataProvider('wrong')]
    public function test_what_cannot_be_done_is_refused_and_nothing_is_half_done(array $step, string $says): void
    {
        $parts = [...self::figure(), 'sheet' => Mesh::of([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0], [0, 1, 2])];
        $runner = Runner::on('figure', $parts['body'], $parts);
        $said = '';
        try {
            $runner->run(Recipe::fromJson(json_encode(['isotome_recipe' => 1, 'steps' => [$step]], JSON_THROW_ON_ERROR))->steps[0]);
        } catch (Refusal $refusal) {
            $said = $refusal->getMessage();
        }
        self::assertSame($says, $said);
        self::assertSame($parts, array_map(static fn (Piece $piece): Mesh => $piece->mesh, $runner->pieces()));
    }
}
