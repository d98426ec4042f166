<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** Pairs of leaves of a tree whose boxes meet, each leaf with itself too, handed out in batches. */
final class LeafPairs
{
    /** Leaves that have been paired with themselves: these come in the order of the tree, and tell how far the search is. */
    public int $leaves = 0;

    /** @param  list<int>  $open  nodes that are still to be compared, two a pair, the last ones first */
    private function __construct(private readonly Tree $tree, private array $open)
    {
    }

    /** @return non-empty-list<self> the whole search in two parts that take about equally long, or in one */
    public static function parts(Tree $tree): array
    {
        return $tree->firstLeaf > 0 ? [new self($tree, [2, 2]), new self($tree, [1, 2, 1, 1])] : [new self($tree, [0, 0])];
    }

    /** @return list<int> two leaves a pair, counted from 0; none when all were given */
    public function next(int $most): array
    {
        $boxes = $this->tree->boxes;
        $firstLeaf = $this->tree->firstLeaf;
        $open = $this->open;
        // Otherwise the first change would copy it.
        $this->open = [];
        $pairs = [];
        $most *= 2;
        $found = 0;
        $leaves = 0;
        $top = count($open) - 1;
        while ($top > 0 && $found < $most) {
            $j = $open[$top--];
            $i = $open[$top--];
            if ($i !== $j) {
                $p = 6 * $i;
                $q = 6 * $j;
                if ($boxes[$p] > $boxes[$q + 1] || $boxes[$q] > $boxes[$p + 1] || $boxes[$p + 2] > $boxes[$q + 3] || $boxes[$q + 2] > $boxes[$p + 3]
                    || $boxes[$p + 4] > $boxes[$q + 5] || $boxes[$q + 4] > $boxes[$p + 5]) {
                    continue;
                }
            }
            if ($i >= $firstLeaf) {
                $pairs[] = $i - $firstLeaf;
                $pairs[] = $j - $firstLeaf;
                $found += 2;
                $leaves += $i === $j ? 1 : 0;

                continue;
            }
            $l = 2 * $i + 1;
            if ($i === $j) {
                $open[++$top] = $l;
                $open[++$top] = $l + 1;
                $open[++$top] = $l;
                $open[++$top] = $l;
                $open[++$top] = $l + 1;
                $open[++$top] = $l + 1;
            } else {
                $m = 2 * $j + 1;
                $open[++$top] = $l;
                $open[++$top] = $m;
                $open[++$top] = $l + 1;
                $open[++$top] = $m;
                $open[++$top] = $l;
                $open[++$top] = $m + 1;
                $open[++$top] = $l + 1;
                $open[++$top] = $m + 1;
            }
        }
        $this->open = array_slice($open, 0, $top + 1);
        $this->leaves += $leaves;

        return $pairs;
    }
}
