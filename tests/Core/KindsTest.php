<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadRecipe;
use Isotome\Operation\Documents;
use Isotome\Operation\Kinds;
use Isotome\Operation\Step;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Steps;

/** What holds of every kind of step, and what is generated from their schemas. */
final class KindsTest extends TestCase
{
    public function test_what_is_generated_is_fresh(): void
    {
        $json = json_encode(Documents::schema(), JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE)."\n";
        self::assertStringEqualsFile(__DIR__.'/../../docs/recipe.schema.json', $json, 'Run bin/generate.');
        self::assertStringContainsString("<!-- generated: steps -->\n\n".Documents::tables().'<!-- end -->', (string) file_get_contents(__DIR__.'/../../docs/commands.md'), 'Run bin/generate.');
        self::assertSame(Documents::formats(), (string) file_get_contents(__DIR__.'/../../resources/ts/api/formats.ts'), 'Run bin/generate.');
    }

    public function test_every_kind_has_a_sample_and_every_sample_a_kind_of_its_own(): void
    {
        $seen = [];
        foreach (Steps::all() as $step) {
            $seen[Kinds::of($step, 'step')] = true;
        }
        self::assertSame([], array_diff(Kinds::ALL, array_keys($seen)));
        // No step is of two kinds.
        foreach (Steps::all() as $name => $step) {
            $fitting = array_filter(Kinds::ALL, static function (string $kind) use ($step): bool {
                try {
                    $kind::read($step, 'step');

                    return true;
                } catch (BadRecipe) {
                    return false;
                }
            });
            self::assertSame([Kinds::of($step, 'step')], array_values($fitting), $name);
        }
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function steps(): iterable
    {
        foreach (Steps::all() as $name => $step) {
            yield $name => [$step];
        }
    }

    /**
     * The published schema, in the hands of a validator that knows nothing of us (opis/json-schema, draft 2020-12), takes what we write and nothing else.
     *
     * @param  array<string, mixed>  $step
     */
    #[DataProvider('steps')]
    public function test_the_published_schema_takes_what_is_written(array $step): void
    {
        $validator = new Validator;
        $schema = json_decode((string) file_get_contents(__DIR__.'/../../docs/recipe.schema.json'));
        $says = static fn (array $written): bool => $validator->validate(json_decode(json_encode(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [$written]], JSON_THROW_ON_ERROR)), $schema)->isValid();
        self::assertTrue($says($step));
        self::assertTrue($says(Kinds::read($step, 'step')->toArray()));
        self::assertFalse($says([...$step, 'glue' => 1]));
        self::assertFalse($says([...$step, 'of' => []]));
        self::assertFalse($says([...$step, 'do' => 'glue']));
    }

    /** @param  array<string, mixed>  $step */
    #[DataProvider('steps')]
    public function test_every_kind_has_its_words(array $step): void
    {
        $read = Kinds::read($step, 'step');
        self::assertMatchesRegularExpression('/^the [a-z]+$/', $read->what());
        self::assertMatchesRegularExpression('/^[a-z]+ing/', $read->doing());
        self::assertContains($read::group(), ['blade', 'drawn', 'cells', 'mirror', 'mend', 'thicken', 'place', 'paint', 'combine', 'join', 'motion']);
        self::assertNotSame('', $read::schema()['title']);
        self::assertSame($step['do'], $read->does());
    }

    /** One place knows the kinds: whoever runs, keeps, edits or exports steps does not ask what they are. */
    public function test_nobody_but_kinds_and_foresights_names_a_kind(): void
    {
        $root = dirname(__DIR__, 2);
        $named = [];
        foreach (['core', 'app', 'cli'] as $folder) {
            foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator("$root/$folder", \FilesystemIterator::SKIP_DOTS)) as $file) {
                $path = substr((string) $file, strlen($root) + 1);
                if (preg_match('/(use Isotome\\\\Operation\\\\Kind\\\\|\bKind\\\\[A-Z])/', (string) file_get_contents((string) $file)) === 1 && ! str_starts_with($path, 'core/Operation/Kind/')) {
                    $named[] = $path;
                }
            }
        }
        sort($named);
        // A series is read for a question about blades that are not set yet.
        self::assertSame([
            'app/Answers/AtCommonFaces.php', 'app/Answers/HowItStands.php', 'app/Answers/Overlapping.php', 'app/Answers/TriedOut.php', 'app/Foresight/CellsForesight.php', 'app/Foresight/CombineForesight.php', 'app/Foresight/DrawnForesight.php', 'app/Foresight/JoinForesight.php', 'app/Foresight/MirrorForesight.php', 'app/Foresight/PlaceForesight.php', 'app/Http/Requests/BladeRequest.php', 'core/Operation/Kinds.php',
        ], $named);
        // In the window, page, view, lineage and the row of choices go by the list of kinds.
        foreach (['pages/ProjectPage.vue', 'parts/PieceView.vue', 'parts/BladeKinds.vue', 'parts/LineageTree.vue', 'view/View3d.ts'] as $file) {
            self::assertDoesNotMatchRegularExpression('/useCells|useMirror|useTurn|useCheck|CellLines|Reflections|ColourMap|kinds\/(planes|cells|mirror|turn|mend)|kind === \'/', (string) file_get_contents("$root/resources/ts/$file"), $file);
        }
        foreach (['core/Operation', 'app/Lineage', 'app/Jobs', 'cli'] as $folder) {
            foreach (glob("$root/$folder/*.php") ?: [] as $file) {
                self::assertDoesNotMatchRegularExpression('/instanceof \\w*Step\b|does\(\)\s*[)=]+ *[\'"]|match \(\$\w+->does/', (string) file_get_contents($file), $file);
            }
        }
    }
}
