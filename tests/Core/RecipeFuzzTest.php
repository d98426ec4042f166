<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadRecipe;
use Isotome\Exception\Refusal;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Damage;
use Tests\Support\Solids;
use Tests\Support\Steps;

/** Recipes with something wrong in them: refused in a sentence that names the place, or read for what they say. */
final class RecipeFuzzTest extends TestCase
{
    /** @return iterable<string, array{array<string, mixed>, int}> */
    public static function steps(): iterable
    {
        $seed = 4100;
        foreach (Steps::all() as $name => $step) {
            yield $name => [$step, $seed++];
        }
    }

    /** @param  array<string, mixed>  $step */
    #[DataProvider('steps')]
    public function test_every_kind_of_step_is_read_written_and_read_again(array $step): void
    {
        foreach (['mm', 'in'] as $units) {
            $one = Recipe::fromArray(['isotome_recipe' => 1, 'units' => $units, 'steps' => [$step]])->steps[0];
            $again = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$one->toArray()]])->steps[0];
            self::assertEquals($one, $again);
            // As a file says it, too.
            $json = json_encode(['isotome_recipe' => 1, 'steps' => [$one->toArray()]], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
            self::assertEquals($one, Recipe::fromJson($json)->steps[0]);
        }
    }

    /** @param  array<string, mixed>  $step */
    #[DataProvider('steps')]
    public function test_a_damaged_step_is_refused_in_a_sentence_or_read_and_written(array $step, int $seed): void
    {
        $damage = new Damage($seed);
        $refused = 0;
        for ($n = 0; $n < 400; $n++) {
            $document = $damage->to(['isotome_recipe' => 1, 'units' => 'cm', 'steps' => [$step]], 3);
            try {
                $read = Recipe::fromArray($document)->steps;
            } catch (BadRecipe $refusal) {
                $refused++;
                self::assertMatchesRegularExpression('/^(steps|isotome_recipe|units|the recipe|The recipe)\b[^\n]+[.…]$/u', $refusal->getMessage());
                self::assertLessThan(700, mb_strlen($refusal->getMessage()));

                continue;
            }
            foreach ($read as $one) {
                self::assertEquals($one, Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$one->toArray()]])->steps[0]);
            }
        }
        self::assertGreaterThan(200, $refused);
        self::assertLessThan(400, $refused);
    }

    /**
     * What is read can be done, or is refused in a sentence: nothing else comes out.
     *
     * @param  array<string, mixed>  $step
     */
    #[DataProvider('steps')]
    public function test_what_is_read_is_done_or_refused(array $step, int $seed): void
    {
        $damage = new Damage($seed + 1000);
        $mesh = Solids::torus(20, 7, 16, 10);
        for ($n = 0, $done = 0; $n < 300 && $done < 12; $n++) {
            try {
                $read = Recipe::fromArray($damage->to(['isotome_recipe' => 1, 'steps' => [$step]], 1))->steps[0];
            } catch (BadRecipe) {
                continue;
            }
            $done++;
            $runner = Runner::on('torus', $mesh);
            try {
                $runner->run($read);
                self::assertNotEmpty($runner->pieces());
            } catch (Refusal $refusal) {
                self::assertMatchesRegularExpression('/^[^\n]{20,}\.$/u', $refusal->getMessage());
                self::assertSame(['torus'], array_keys($runner->pieces()), 'nothing is half done');
            }
        }
        self::assertGreaterThan(3, $done);
    }
}
