<?php

declare(strict_types=1);

namespace Tests\Support;

use Illuminate\Routing\Route;
use Illuminate\Testing\TestResponse;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Schema;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Assert;
use stdClass;

/** Holds what the server answers against the types that the front end has of it: resources/ts/api/answers.ts, by way of answers.schema.json. */
final class AnswerTypes
{
    /** Bytes of the longest answer that is looked at: of many pieces one is like another. */
    private const LONGEST = 300_000;

    private static ?stdClass $schema = null;

    private static ?Validator $validator = null;

    /** @var array<string, Schema> */
    private static array $loaded = [];

    /** @param  TestResponse<\Symfony\Component\HttpFoundation\Response>  $response */
    public static function check(?Route $route, string $method, TestResponse $response): void
    {
        $text = $response->baseResponse->getContent();
        $key = $route === null ? '' : self::key($method, $route->uri());
        $type = self::types()->$key ?? null;
        if ($type === null || ! $response->isSuccessful() || ! is_string($text) || $text === '' || strlen($text) > self::LONGEST) {
            return;
        }
        self::$validator ??= new Validator;
        self::$loaded[$key] ??= self::$validator->loader()->loadObjectSchema((object) ['allOf' => [$type], 'definitions' => self::schema()->definitions]);
        $error = self::$validator->schemaValidation(json_decode($text, flags: JSON_THROW_ON_ERROR), self::$loaded[$key]);
        Assert::assertTrue($error === null, $error === null ? '' : "$key is not what resources/ts/api/answers.ts says: ".json_encode((new ErrorFormatter)->format($error)));
    }

    /** As answers.ts names an address. */
    public static function key(string $method, string $uri): string
    {
        return $method.' '.substr($uri, strlen('api/v1/'));
    }

    public static function types(): stdClass
    {
        return self::schema()->definitions->Answers->properties;
    }

    private static function schema(): stdClass
    {
        return self::$schema ??= json_decode((string) file_get_contents(__DIR__.'/answers.schema.json'), flags: JSON_THROW_ON_ERROR);
    }
}
