<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Boxes around groups of neighbouring triangles, and boxes around those, for questions about places.
 *
 * Triangles are sorted along a Z-order curve (see Blocks) and grouped in that order; the tree is complete and lies in one list:
 * the children of node n are 2 n + 1 and 2 n + 2. Boxes are six numbers a node: x0, x1, y0, y1, z0, z1.
 */
final readonly class Tree
{
    public const LEAF = 4;

    /**
     * @param  list<int>  $order  triangles, neighbours near each other
     * @param  list<float>  $boxes
     * @param  int  $firstLeaf  node of the first leaf; leaf l holds the triangles order[LEAF l …]
     */
    private function __construct(
        public array $order,
        public array $boxes,
        public int $firstLeaf,
    ) {
    }

    /**
     * Triangles in leaves whose boxes meet a box: all that may meet it, and some beside.
     *
     * @param  array{float, float, float, float, float, float}  $box  x0, x1, y0, y1, z0, z1
     * @return list<int>
     */
    public function around(array $box): array
    {
        [$x0, $x1, $y0, $y1, $z0, $z1] = $box;
        $boxes = $this->boxes;
        $found = [];
        $open = [0];
        $top = 0;
        while ($top >= 0) {
            $n = $open[$top--];
            $i = 6 * $n;
            if ($boxes[$i] > $x1 || $boxes[$i + 1] < $x0 || $boxes[$i + 2] > $y1 || $boxes[$i + 3] < $y0 || $boxes[$i + 4] > $z1 || $boxes[$i + 5] < $z0) {
                continue;
            }
            if ($n < $this->firstLeaf) {
                $open[++$top] = 2 * $n + 1;
                $open[++$top] = 2 * $n + 2;
            } else {
                array_push($found, ...array_slice($this->order, ($n - $this->firstLeaf) * self::LEAF, self::LEAF));
            }
        }

        return $found;
    }

    public static function of(Mesh $mesh): self
    {
        $order = Blocks::order($mesh);
        $count = count($order);
        $leaves = 1;
        while ($leaves * self::LEAF < $count) {
            $leaves *= 2;
        }
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $boxes = array_fill(0, 6 * (2 * $leaves - 1), 0.0);
        $at = 6 * ($leaves - 1);
        for ($l = 0; $l < $leaves; $l++) {
            $x0 = $y0 = $z0 = INF;
            $x1 = $y1 = $z1 = -INF;
            $end = ($l + 1) * self::LEAF;
            if ($end > $count) {
                $end = $count;
            }
            for ($n = $l * self::LEAF; $n < $end; $n++) {
                $i = 3 * $order[$n];
                for ($k = $i; $k < $i + 3; $k++) {
                    $v = 3 * $corners[$k];
                    $x = $xyz[$v];
                    $y = $xyz[$v + 1];
                    $z = $xyz[$v + 2];
                    if ($x < $x0) {
                        $x0 = $x;
                    }
                    if ($x > $x1) {
                        $x1 = $x;
                    }
                    if ($y < $y0) {
                        $y0 = $y;
                    }
                    if ($y > $y1) {
                        $y1 = $y;
                    }
                    if ($z < $z0) {
                        $z0 = $z;
                    }
                    if ($z > $z1) {
                        $z1 = $z;
                    }
                }
            }
            $boxes[$at] = $x0;
            $boxes[$at + 1] = $x1;
            $boxes[$at + 2] = $y0;
            $boxes[$at + 3] = $y1;
            $boxes[$at + 4] = $z0;
            $boxes[$at + 5] = $z1;
            $at += 6;
        }
        for ($n = $leaves - 2; $n >= 0; $n--) {
            $at = 6 * $n;
            $l = 12 * $n + 6;
            $r = $l + 6;
            for ($k = 0; $k < 6; $k += 2) {
                $boxes[$at + $k] = $boxes[$l + $k] < $boxes[$r + $k] ? $boxes[$l + $k] : $boxes[$r + $k];
                $boxes[$at + $k + 1] = $boxes[$l + $k + 1] > $boxes[$r + $k + 1] ? $boxes[$l + $k + 1] : $boxes[$r + $k + 1];
            }
        }

        return new self($order, array_values($boxes), $leaves - 1);
    }
}
