<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Mesh\Volume;
use Isotome\Operation\Names;
use Isotome\Operation\Palette;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

final class RecipeTest extends TestCase
{
    /**
     * @param  array<string, mixed>  $more
     * @return array<string, mixed>
     */
    private static function cut(array $more = []): array
    {
        return ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 5], 'facing' => [0, 0, 1]], ...$more];
    }

    /** @return iterable<string, array{mixed, string}> document, and what the refusal must name */
    public static function wrong(): iterable
    {
        $with = static fn (array $more): array => ['isotome_recipe' => 1, 'steps' => [self::cut(), self::cut($more)]];
        $blade = static fn (array $more): array => $with(['blade' => ['kind' => 'flat', 'through' => [0, 0, 5], 'facing' => [0, 0, 1], ...$more]]);
        yield 'version' => [['isotome_recipe' => 2, 'steps' => [self::cut()]], 'isotome_recipe is not 1'];
        yield 'unknown key' => [['isotome_recipe' => 1, 'stepz' => []], '"stepz"'];
        yield 'units' => [['isotome_recipe' => 1, 'units' => 'yards', 'steps' => [self::cut()]], 'units is "yards"'];
        yield 'no steps' => [['isotome_recipe' => 1], 'steps is not a list'];
        yield 'empty steps' => [['isotome_recipe' => 1, 'steps' => []], 'steps is not a list'];
        yield 'steps as object' => [['isotome_recipe' => 1, 'steps' => ['a' => self::cut()]], 'steps is not a list'];
        yield 'step is text' => [['isotome_recipe' => 1, 'steps' => ['cut']], 'steps[0] is not an object'];
        yield 'do' => [$with(['do' => 'carve']), 'steps[1].do is "carve"'];
        yield 'step key' => [$with(['kerff' => 1]), 'steps[1] has the unknown key "kerff"'];
        yield 'no blade' => [$with(['blade' => null]), 'steps[1].blade is missing'];
        yield 'kind' => [$blade(['kind' => 'curved']), 'steps[1].blade.kind is "curved"'];
        yield 'blade key' => [$blade(['depth' => 1]), 'steps[1].blade has the unknown key "depth"'];
        yield 'through of two' => [$blade(['through' => [1, 2]]), 'steps[1].blade.through'];
        yield 'through of text' => [$blade(['through' => [1, 2, 'x']]), 'steps[1].blade.through[2] is "x"'];
        yield 'facing missing' => [$blade(['facing' => null]), 'steps[1].blade.facing is missing'];
        yield 'facing zero' => [$blade(['facing' => [0, 0, 0]]), 'steps[1].blade: The blade has no direction'];
        yield 'keep' => [$with(['keep' => 'all']), 'steps[1].keep is "all"'];
        yield 'seal' => [$with(['seal' => 'wax']), 'steps[1].seal is "wax"'];
        yield 'kerf negative' => [$with(['kerf' => -1]), 'steps[1].kerf is negative'];
        yield 'kerf text' => [$with(['kerf' => '1']), 'steps[1].kerf is "1"'];
        yield 'kerf side' => [$with(['kerf_side' => 'left']), 'steps[1].kerf_side is "left"'];
        yield 'catch' => [$with(['catch' => -2]), 'steps[1].catch'];
        yield 'of empty' => [$with(['of' => []]), 'steps[1].of'];
        yield 'of numbers' => [$with(['of' => [4]]), 'steps[1].of[0] is 4'];
        yield 'too many steps' => [['isotome_recipe' => 1, 'steps' => array_fill(0, 1001, self::cut())], '1001 entries'];
    }

    #[DataProvider('wrong')]
    public function test_what_is_wrong_is_refused_with_its_place(mixed $document, string $says): void
    {
        $this->expectException(BadRecipe::class);
        $this->expectExceptionMessage($says);
        Recipe::fromJson((string) json_encode($document));
    }

    public function test_what_is_no_json_or_nested_too_deep_is_refused(): void
    {
        foreach (['', '{', 'null', '3', str_repeat('[', 50).str_repeat(']', 50), str_repeat(' ', 1_000_001)] as $text) {
            try {
                Recipe::fromJson($text);
                self::fail('it was read');
            } catch (BadRecipe $refusal) {
                self::assertMatchesRegularExpression('/^The recipe is [^\n]+\.$/', $refusal->getMessage());
            }
        }
    }

    public function test_units_scale_places_and_kerf_but_not_directions(): void
    {
        $step = Recipe::fromArray(['isotome_recipe' => 1, 'units' => 'in', 'steps' => [self::cut(['kerf' => 0.1])]])->steps[0];
        self::assertInstanceOf(\Isotome\Operation\Kind\FlatStep::class, $step);
        self::assertSame(127.0, $step->blade()->plane->offset);
        self::assertSame(2.54, $step->blade()->kerf);
        self::assertSame([0.0, 0.0, 1.0], $step->blade()->plane->facing());
    }

    public function test_what_is_written_reads_back_as_the_same_step(): void
    {
        $step = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [self::cut(['keep' => 'ahead', 'kerf' => 0.3, 'kerf_side' => 'behind', 'seal' => 'open', 'of' => ['heron-A*', 'heron-B']])]])->steps[0];
        $again = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$step->toArray()]])->steps[0];
        self::assertEquals($step, $again);
        self::assertSame([true, true, false, true, false, false], array_map($step->takes(...), ['heron-A', 'heron-A-B', 'heron-AB', 'heron-B', 'heron-B-A', 'heron']));
    }

    public function test_steps_run_one_after_the_other_on_the_pieces_that_they_name(): void
    {
        $runner = Runner::on('post', Solids::box(10, 10, 30));
        $recipe = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [
            self::cut(['blade' => ['kind' => 'flat', 'through' => [0, 0, 10], 'facing' => [0, 0, 1]]]),
            self::cut(['blade' => ['kind' => 'flat', 'through' => [5, 0, 0], 'facing' => [1, 0, 0]], 'of' => ['post-B*']]),
            self::cut(['blade' => ['kind' => 'flat', 'through' => [0, 0, 20], 'facing' => [0, 0, 1]]]),
        ]]);
        foreach ($recipe->steps as $step) {
            $runner->run($step);
        }
        self::assertSame(['post-A', 'post-B-A-A', 'post-B-A-B', 'post-B-B-A', 'post-B-B-B'], array_keys($runner->pieces()));
        self::assertSame([['post'], ['post-B'], ['post-B-A', 'post-B-B']], array_map(static fn ($record): array => $record->took, $runner->records()));
        $pieces = array_values($runner->pieces());
        self::assertSame([0 => 'post', 1 => 'post-B-A', 3 => 'post-B-B'], [0 => $pieces[0]->parent, 1 => $pieces[1]->parent, 3 => $pieces[3]->parent]);
        self::assertSame([1, 3, 3, 3, 3], array_map(static fn (Piece $piece): int => $piece->step, $pieces));
        self::assertCount(5, array_unique(array_map(static fn (Piece $piece): string => $piece->colour, $pieces)));
        self::assertEqualsWithDelta(3000.0, array_sum(array_map(static fn (Piece $piece): float => Volume::of($piece->mesh), $pieces)), 1e-9);
        // Surfaces remember the step that made them.
        self::assertSame([0, 1, 2, 3], array_values(array_unique(self::sorted($runner->pieces()['post-B-A-A']->mesh->tags))));
    }

    /**
     * @param  list<int>  $list
     * @return list<int>
     */
    private static function sorted(array $list): array
    {
        sort($list);

        return $list;
    }

    public function test_a_blade_that_misses_everything_is_refused_and_says_by_how_much(): void
    {
        $runner = Runner::on('post', Solids::box(10, 10, 30));
        $step = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [self::cut(['blade' => ['kind' => 'flat', 'through' => [0, 0, 40], 'facing' => [0, 0, 1]]])]])->steps[0];
        try {
            $runner->run($step);
            self::fail('it cut');
        } catch (BadBlade $refusal) {
            self::assertStringContainsString('steps[0] cuts nothing: post lies from -40.000 to -10.000 mm', $refusal->getMessage());
        }
        self::assertSame(['post'], array_keys($runner->pieces()));
        self::assertSame([], $runner->records());
    }

    public function test_a_step_that_takes_no_piece_is_refused(): void
    {
        $step = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [self::cut(['of' => ['beam']])]])->steps[0];
        $this->expectException(BadRecipe::class);
        $this->expectExceptionMessage('steps[0] takes no piece (of: beam)');
        Runner::on('post', Solids::box(10, 10, 30))->run($step);
    }

    public function test_names_go_on_after_z_and_are_safe_as_files(): void
    {
        self::assertSame(['x-A', 'x-Z', 'x-AA', 'x-AZ', 'x-BA', 'x-ZZ', 'x-AAA'], array_map(static fn (int $n): string => Names::child('x', $n), [0, 25, 26, 51, 52, 701, 702]));
        self::assertSame(['a-b', 'piece', 'etc-passwd', 'Größe', 'con'], array_map(Names::file(...), ['a b', '///', '../../etc/passwd', 'Größe', 'con']));
    }

    public function test_colours_are_all_different(): void
    {
        $colours = array_map(Palette::colour(...), range(0, 299));
        self::assertGreaterThan(295, count(array_unique($colours)));
        self::assertCount(30, array_unique(array_slice($colours, 0, 30)));
        foreach ($colours as $colour) {
            self::assertMatchesRegularExpression('/^#[0-9a-f]{6}$/', $colour);
        }
    }

    public function test_every_kind_of_series_and_step_reads_back_and_bad_ones_name_their_place(): void
    {
        $steps = [
            ['do' => 'mend'],
            ['do' => 'mend', 'of' => ['jar']],
            ['do' => 'score', 'blade' => ['kind' => 'flat', 'through' => [0.0, 0.0, 1.0], 'facing' => [0.0, 0.0, 1.0]], 'of' => ['*'], 'faces' => [0, 7]],
            self::cut(['blade' => ['kind' => 'series', 'facing' => [1.0, 0.0, 0.0], 'stops' => [-1.0, 4.0]], 'seal' => 'even', 'edge_mm' => 2.0, 'catch' => 0.1]),
            self::cut(['blade' => ['kind' => 'series', 'facing' => [1.0, 0.0, 0.0], 'from' => 1.0, 'step' => 2.0, 'count' => 3]]),
            self::cut(['blade' => ['kind' => 'series', 'facing' => [1.0, 0.0, 0.0], 'parts' => 4]]),
        ];
        $recipe = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => $steps]);
        $written = array_map(static fn (\Isotome\Operation\Step $step): array => $step->toArray(), $recipe->steps);
        self::assertEquals($recipe, Recipe::fromArray(['isotome_recipe' => 1, 'steps' => $written]));
        $bad = [
            'steps[0].blade.stops' => self::cut(['blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'stops' => []]]),
            'steps[0].blade.stops[1]' => self::cut(['blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'stops' => [1, 'x']]]),
            'steps[0].blade.count' => self::cut(['blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'from' => 0, 'step' => 1, 'count' => 1.5]]),
            'steps[0].blade.parts' => self::cut(['blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'parts' => 1]]),
            'steps[0].blade has the unknown key' => self::cut(['blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'parts' => 2, 'stops' => [1]]]),
            'steps[0].kerf' => self::cut(['blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'stops' => [1, 2]], 'kerf' => 1]),
            'steps[0].edge_mm' => self::cut(['edge_mm' => 0]),
            'steps[0].faces' => self::cut(['faces' => []]),
            'steps[0].faces[1]' => self::cut(['faces' => [1, -1]]),
            'steps[0].blade.kind' => ['do' => 'score', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'parts' => 2]],
            'steps[0] has the unknown key "kerf"' => ['do' => 'mend', 'kerf' => 1],
            'steps[0].do' => ['do' => 'glue'],
        ];
        foreach ($bad as $place => $step) {
            try {
                Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$step]]);
                self::fail("$place was taken");
            } catch (BadRecipe $refusal) {
                self::assertStringContainsString($place, $refusal->getMessage());
            }
        }
    }
}
