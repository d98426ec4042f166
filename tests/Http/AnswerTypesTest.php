<?php

declare(strict_types=1);

namespace Tests\Http;

use Illuminate\Support\Facades\Route;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\AssertionFailedError;
use Tests\Support\AnswerTypes;

/** The front end's types of answers are what the server answers: every test of this folder checks it, and here it is checked that they do. */
final class AnswerTypesTest extends HttpTestCase
{
    /** Files, pictures, and answers without a body. */
    private const OTHERS = [
        'DELETE uploads/{upload}', 'DELETE printers/{printer}', 'POST projects/{project}/restore', 'DELETE projects/{project}/for-good', 'DELETE projects/{project}',
        'GET projects/{project}/section.{format}', 'GET projects/{project}/pieces.zip', 'GET projects/{project}/recipe.json', 'GET meshes/{mesh}/geometry', 'GET meshes/{mesh}/colours', 'GET meshes/{mesh}/pictures',
        'GET meshes/{mesh}/inside', 'GET pictures/{picture}', 'GET insides/{name}', 'POST meshes/geometry',
        'GET meshes/{mesh}/picture/{colour}/{theme}', 'PUT meshes/{mesh}/picture/{colour}/{theme}', 'GET answers/{key}', 'GET runs/{run}/frames',
    ];

    public function test_every_address_has_the_type_of_its_answer(): void
    {
        $all = [];
        foreach (Route::getRoutes()->getRoutes() as $route) {
            foreach (array_diff($route->methods(), ['HEAD']) as $method) {
                if (str_starts_with($route->uri(), 'api/v1/')) {
                    $all[] = AnswerTypes::key($method, $route->uri());
                }
            }
        }
        $typed = array_keys((array) AnswerTypes::types());
        self::assertSame([], array_diff($all, $typed, self::OTHERS), 'an address without a type');
        self::assertSame([], array_diff([...$typed, ...self::OTHERS], $all), 'a type without an address');
    }

    public function test_an_answer_that_is_not_of_its_type_is_found(): void
    {
        $id = $this->project();
        $route = Route::getRoutes()->match(request()->create("/api/v1/projects/$id", 'GET'));
        $answer = $this->getJson("/api/v1/projects/$id")->json();
        foreach ([[...$answer, 'note' => null], [...$answer, 'pieces' => [[...$answer['pieces'][0], 'volume' => 'large']]], array_diff_key($answer, ['history' => true]), [...$answer, 'units' => 'ell']] as $wrong) {
            try {
                AnswerTypes::check($route, 'GET', TestResponse::fromBaseResponse(response()->json($wrong)));
            } catch (AssertionFailedError $found) {
                self::assertStringContainsString('GET projects/{project} is not what', $found->getMessage());

                continue;
            }
            self::fail('A wrong answer was taken: '.json_encode(array_diff_key($wrong, $answer)));
        }
    }
}
