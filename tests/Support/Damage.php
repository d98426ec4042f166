<?php

declare(strict_types=1);

namespace Tests\Support;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** Documents with something wrong in them, from a seed: a value of another kind, a key too few or too many, numbers beyond all bounds. */
final class Damage
{
    private Randomizer $random;

    public function __construct(int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    /**
     * @param  array<mixed>  $document
     * @param  int  $most  changes at most, at least one
     * @return array<mixed>
     */
    public function to(array $document, int $most = 2): array
    {
        for ($n = $this->random->getInt(1, $most); $n > 0; $n--) {
            $document = $this->once($document);
        }

        return $document;
    }

    /** @param  list<mixed>  $of */
    public function one(array $of): mixed
    {
        return $of[$this->random->getInt(0, count($of) - 1)];
    }

    /**
     * @param  array<mixed>  $node
     * @return array<mixed>
     */
    private function once(array $node): array
    {
        if ($node === []) {
            return [$this->odd()];
        }
        $key = $this->one(array_keys($node));
        if (is_array($node[$key]) && $this->random->getInt(0, 3) > 0) {
            return [...$node, $key => $this->once($node[$key])];
        }
        switch ($this->random->getInt(0, 7)) {
            case 0:
                unset($node[$key]);
                break;
            case 1:
                $node = [...$node, 'x'.$this->random->getInt(0, 9) => $this->odd()];
                break;
            case 2:
                $node = array_is_list($node) ? [...$node, $node[$key]] : [...$node, strtoupper((string) $key) => $node[$key]];
                break;
            default:
                $node[$key] = $this->odd();
        }

        return $node;
    }

    private function odd(): mixed
    {
        return $this->one([
            null, true, false, 0, 1, -1, 2, 7, 3.5, -0.0, 1e-300, -1e-300, 1e308, -1e308, PHP_INT_MAX, PHP_INT_MIN, '', '0', 'x', '*', "\u{0}", 'même',
            str_repeat('long ', 400), [], [[]], [0], [0, 0, 0], [1, 2], [1, 2, 3], [0, 0, 1], ['x', 2, 3], [[1, 2, 3]], [[0, 0, 0], [0, 0, 0]],
            ['a' => 1], ['kind' => 'cells'], [[[[[[[[1]]]]]]]], array_fill(0, 300, 1), 'ahead', 'lean', 'flat', 'cells', 'one',
        ]);
    }
}
