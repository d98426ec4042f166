<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Models\Piece;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Support\Damage;
use Tests\Support\Solids;
use Tests\Support\Steps;

/** Requests with something wrong in them, fixed seeds: every answer is an answer, every refusal a sentence, and no work ends half done. */
final class FuzzTest extends HttpTestCase
{
    /** @return iterable<string, array{string, string, list<array<string, mixed>>, int}> method, path, bodies that are right, seed */
    public static function requests(): iterable
    {
        $wrapped = static fn (array $steps): array => array_values(array_map(static fn (array $step): array => ['step' => $step], $steps));
        $blade = ['through' => [0, 0, 1], 'facing' => [0, 0, 1], 'pieces' => null];
        // The piece and its mesh are put in when they are there.
        $laid = ['margin' => 2, 'spacing' => 2, 'supported' => true, 'plates' => [['locked' => false, 'pieces' => [['piece' => '@piece', 'copy' => 1, 'mesh' => '@mesh', 'pose' => [1, 0, 0, 0, 1, 0, 0, 0, 1, 50, 50, 7], 'stable' => true]]]]];
        $recipes = array_values(array_map(static fn (array $step): array => ['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [$step]], Steps::all()));
        $seed = 8800;
        foreach ([
            'cells foreseen' => ['post', 'steps/foresee', $wrapped(Steps::cells())],
            'cells tried' => ['post', 'steps/foresee', array_map(static fn (array $body): array => [...$body, 'tried' => true, 'pieces' => [1]], $wrapped(Steps::cells()))],
            'mirror foreseen' => ['post', 'steps/foresee', $wrapped(Steps::mirrors())],
            'mends foreseen' => ['post', 'steps/foresee', $wrapped(array_diff_key(Steps::mends(), ['thicken' => true]))],
            'joints foreseen' => ['post', 'steps/foresee', $wrapped(array_map(static fn (array $step): array => array_diff_key($step, ['at' => true]), Steps::joined()))],
            'plates' => ['post', 'plates', [['margin' => 2, 'spacing' => 2, 'turned' => true, 'as' => null, 'pieces' => null], ['margin' => 0, 'spacing' => 1, 'turned' => false, 'as' => 'stl', 'pieces' => [1]]]],
            'plates kept' => ['put', 'plates', [[...$laid, 'turned' => true, 'step' => 90, 'copies' => [['piece' => 1, 'count' => 2]]]]],
            'plates judged' => ['post', 'plates/crowding', [$laid]],
            'plates taken out' => ['post', 'plates/files', [[...$laid, 'as' => 'stl']]],
            'layers' => ['post', 'plates/layers', [$laid]],
            'sheet' => ['post', 'sheet', [[...$laid, 'pieces' => null], [...$laid, 'plates' => [], 'pieces' => [1]]]],
            'movement kept' => ['put', 'movement', [['movement' => self::movement()]]],
            'movement' => ['post', 'movement/poses', [['movement' => self::movement()]]],
            'movement taken out' => ['post', 'movement/files', [['movement' => self::movement(), 'as' => 'csv'], ['movement' => self::movement(), 'as' => 'still.obj', 'frame' => 3]]],
            'symmetry' => ['post', 'symmetry', [['through' => [0, 0, 0], 'facing' => [1, 0, 0], 'piece' => 1], ['piece' => 1]]],
            'steps' => ['post', 'steps', $wrapped([...Steps::cells(), ...Steps::mirrors(), ...array_diff_key(Steps::cuts(), ['faces' => true]), ...array_diff_key(Steps::mends(), ['thicken' => true])])],
            'section' => ['post', 'section', [$blade]],
            'sides' => ['post', 'section/sides', [[...$blade, 'kerf' => 0.3, 'catch' => 0.2]]],
            'profile' => ['post', 'profile', [[...$blade, 'samples' => 60]]],
            'widths' => ['post', 'profile/widths', [[...$blade, 'offsets' => [0, 1]]]],
            'stops' => ['post', 'profile/stops', [[...$blade, 'series' => ['parts' => 3]]]],
            'checks' => ['post', 'checks', [['pieces' => [1]]]],
            'pieces' => ['patch', 'pieces', [['pieces' => [1], 'title' => 'Left bearing', 'colour' => '#aa5522']]],
            'project' => ['patch', '', [['name' => 'Heron', 'printer' => null]]],
            'rejoin' => ['post', 'rejoin', [['piece' => 1]]],
            'recipe' => ['post', 'recipe', $recipes],
        ] as $name => $request) {
            yield $name => [...$request, $seed++];
        }
    }

    /** @return array<string, mixed> */
    private static function movement(): array
    {
        return ['isotome_movement' => 1, 'fps' => 25, 'frames' => 6, 'layers' => [
            ['do' => 'spread', 'of' => ['*'], 'from' => [0, 0, 0], 'distance_mm' => 30, 'start' => 1, 'length' => 4, 'ease' => 'bounce'], ['do' => 'wave', 'front' => 'ball', 'shift' => [0, 0, 9], 'degrees' => 90, 'scale' => 1, 'seed' => 3],
            ['do' => 'keys', 'keys' => [['frame' => 0], ['frame' => 3, 'shift' => [1, 2, 3], 'about' => [0, 1, 0], 'degrees' => 20]]], ['do' => 'drop', 'start' => 2, 'density' => 1.2, 'speed' => [0, 0, -100], 'spin' => [10, 0, 0], 'floor' => -9],
            ['do' => 'scatter', 'distance_mm' => 5, 'drift' => true, 'off' => false],
        ]];
    }

    /** @param  list<array<string, mixed>>  $bodies */
    #[DataProvider('requests')]
    public function test_a_damaged_request_is_answered(string $method, string $path, array $bodies, int $seed): void
    {
        $id = $this->project(Solids::torus(20, 7, 16, 10));
        $piece = Piece::query()->with('mesh')->where('project_id', $id)->firstOrFail();
        /** @var list<array<string, mixed>> $bodies */
        $bodies = json_decode(str_replace(['@piece', '@mesh'], [$piece->name, $piece->mesh_hash], json_encode($bodies, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION)), true, flags: JSON_THROW_ON_ERROR);
        $damage = new Damage($seed);
        if ($path === 'rejoin') {
            $this->postJson("/api/v1/projects/$id/steps", self::asCut($this->flatBlade()))->assertAccepted();
        }
        $refused = 0;
        for ($n = 0; $n < 70; $n++) {
            $body = $n < count($bodies) ? $bodies[$n] : $damage->to($damage->one($bodies));
            $answer = $this->json($method, rtrim("/api/v1/projects/$id/$path", '/'), $body);
            $shown = substr((string) json_encode($body, JSON_PARTIAL_OUTPUT_ON_ERROR), 0, 300);
            self::assertLessThan(500, $answer->status(), $shown.$answer->getContent());
            self::assertTrue($n >= count($bodies) || $answer->status() < 300, "what is right is refused: $shown ".$answer->getContent());
            if ($answer->status() >= 400) {
                $refused++;
                self::assertRefusal($answer, $shown);
            } elseif ($answer->status() === 202) {
                $run = $this->getJson('/api/v1/runs/'.$answer->json('id'))->assertOk();
                // What only the work itself can tell is said there.
                self::assertContains($run->json('status'), ['done', 'failed'], $shown);
                self::assertMatchesRegularExpression('/^\S[^\n]{5,}[.…]$/u', (string) $run->json('message'), $shown);
                self::assertStringNotContainsString('Isotome itself', (string) $run->json('message'), $shown);
            }
            self::assertGreaterThan(0, Piece::query()->where('project_id', $id)->whereNull('spent_by')->count(), $shown);
            if (Piece::query()->where('project_id', $id)->whereNull('spent_by')->count() > 12) {
                $this->postJson("/api/v1/projects/$id/rejoin")->assertOk();
            }
        }
        self::assertGreaterThan(5, $refused);
        $this->getJson("/api/v1/projects/$id")->assertOk();
    }

    /** @param  TestResponse<\Symfony\Component\HttpFoundation\Response>  $answer */
    private static function assertRefusal(TestResponse $answer, string $shown): void
    {
        $message = $answer->json('message');
        self::assertIsString($message, $shown);
        self::assertMatchesRegularExpression('/^\S[^\n]{10,900}[.…]$/u', $message, $shown);
        self::assertStringNotContainsString('/core/', $message);
        self::assertStringNotContainsString('SQL', $message);
    }
}
