<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Http\Requests\ListOfNumbers;

/** Lists of whole numbers in requests: each rule by itself. */
final class ListOfNumbersTest extends HttpTestCase
{
    private static function refuses(ListOfNumbers $rule, mixed $value): bool
    {
        $failed = false;
        $rule->validate('faces', $value, static function () use (&$failed): void {
            $failed = true;
        });

        return $failed;
    }

    public function test_each_rule_refuses_by_itself(): void
    {
        $rule = new ListOfNumbers(3, 'Give one to three numbers.', 1);
        self::assertFalse(self::refuses($rule, [4]));
        self::assertFalse(self::refuses($rule, [0, 1, 2]));
        self::assertTrue(self::refuses($rule, [0, 1, 2, 3]));
        self::assertTrue(self::refuses($rule, []));
        self::assertTrue(self::refuses($rule, [1 => 4]));
        self::assertTrue(self::refuses($rule, ['first' => 4]));
        self::assertTrue(self::refuses($rule, '4'));
        self::assertTrue(self::refuses($rule, null));
        self::assertTrue(self::refuses($rule, [4, -1]));
        self::assertTrue(self::refuses($rule, [4.0]));
        self::assertTrue(self::refuses($rule, ['4']));
        $text = new ListOfNumbers(3, 'Give numbers.', 0, true);
        self::assertFalse(self::refuses($text, ['4', 5]));
        self::assertFalse(self::refuses($text, []));
        self::assertTrue(self::refuses($text, ['-4']));
        self::assertTrue(self::refuses($text, ['4a']));
        self::assertTrue(self::refuses($text, [str_repeat('9', 19)]));
    }
}
