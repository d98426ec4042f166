<?php

declare(strict_types=1);

namespace Tests\Support;

use Isotome\Geometry\Affine;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Motion\Actor;
use Isotome\Motion\Convex;
use Isotome\Motion\Movement;
use Isotome\Motion\Poses;
use Isotome\Motion\Quaternion;
use Isotome\Motion\Shape;
use Isotome\Operation\MovementFiles;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;

/** A body that is shattered at random and dropped, every third one glued, and how its pieces fare. */
final class Dropped
{
    private const FRAMES = 75;

    /** @return array{pieces: int, deep: float, below: float, resting: int} how deep hulls that did not overlap in the beginning are ever in each other, and how far any corner of a piece is below the floor, as shares of the larger one's size; how many are at rest in the end */
    public static function at(int $seed): array
    {
        $chance = new Chance($seed);
        $body = Solids::moved(match ($seed % 4) {
            0 => Solids::box(60, 50, 40, [-30, -25, -20]),
            1 => Solids::sphere(30, 3),
            2 => Solids::torus(30, 10, 32, 16),
            default => Solids::box(100, 30, 20, [-50, -15, -10]),
        }, 3 * $chance->uniform(), 3 * $chance->uniform(), 3 * $chance->uniform());
        $runner = Runner::on('body', $body);
        foreach (Recipe::fromArray(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'uniform', 'count' => 4 + (int) (8 * $chance->uniform()), 'seed' => $seed]]]])->steps as $step) {
            $runner->run($step);
        }
        $pieces = array_values($runner->pieces());
        $floor = -60.0 - 200.0 * $chance->uniform();
        $poses = Movement::fromArray(['isotome_movement' => 1, 'fps' => 25, 'frames' => self::FRAMES, 'layers' => [[
            'do' => 'drop', 'floor' => $floor, 'bounce' => 0.5 * $chance->uniform(), 'friction' => $chance->uniform(), 'glue' => $seed % 3 === 0 ? 0.02 * $chance->uniform() : 0.0,
            'speed' => [200 * $chance->uniform(), 0, 0], 'spin' => [400 * $chance->uniform(), 0, 200 * $chance->uniform()], 'push' => 500 * $chance->uniform(),
        ]]])->poses(array_map(static fn (Piece $piece): Actor => new Actor($piece->name, Volume::measure($piece->mesh)->centroid, $piece->mesh), $pieces));
        $shapes = array_map(static fn (Piece $piece): Shape => Shape::of($piece->mesh, 1.2), $pieces);
        $last = self::FRAMES - 1;

        return [
            'pieces' => count($pieces), ...self::measured($poses, $shapes, $floor, array_map(static fn (Piece $piece): Mesh => $piece->mesh, $pieces)),
            'resting' => count(array_filter(array_keys($pieces), static fn (int $n): bool => $poses->at($n, $last) === $poses->at($n, $last - 1))),
        ];
    }

    /**
     * @param  list<Shape>  $shapes
     * @param  list<Mesh>  $meshes
     * @return array{deep: float, below: float}
     */
    private static function measured(Poses $poses, array $shapes, float $floor, array $meshes): array
    {
        $deep = $below = 0.0;
        $allowed = [];
        for ($frame = 0; $frame < self::FRAMES; $frame++) {
            $now = array_map(static fn (int $n): array => self::hull($poses, $shapes[$n], $n, $frame), array_keys($shapes));
            foreach ($now as $n => $points) {
                $below = max($below, ($floor - self::lowest($poses, $meshes[$n], $n, $frame)) / (2 * $shapes[$n]->radius));
                for ($other = 0; $other < $n; $other++) {
                    [$p, $q] = [$poses->at($n, $frame), $poses->at($other, $frame)];
                    $depth = max(0.0, -Convex::between($now[$other], $points, [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2] + 1e-9])[0]);
                    // What overlaps from the beginning may, as long as it gets no deeper again.
                    $pair = "$other $n";
                    $allowed[$pair] = min($allowed[$pair] ?? INF, max($depth, 0.02));
                    $deep = max($deep, ($depth - $allowed[$pair]) / (2 * max($shapes[$n]->radius, $shapes[$other]->radius)));
                }
            }
        }

        return ['deep' => $deep, 'below' => $below];
    }

    /** Of the piece itself, not of what stands for it. */
    private static function lowest(Poses $poses, Mesh $mesh, int $n, int $frame): float
    {
        $points = Affine::points($mesh->xyz, MovementFiles::map($poses, $n, $frame));
        $lowest = INF;
        for ($i = 2, $count = count($points); $i < $count; $i += 3) {
            $lowest = min($lowest, $points[$i]);
        }

        return $lowest;
    }

    /** @return list<float> corners of the hull where they are */
    private static function hull(Poses $poses, Shape $shape, int $n, int $frame): array
    {
        [$x, $y, $z, $qx, $qy, $qz, $qw] = $poses->at($n, $frame);
        $turn = [$qx, $qy, $qz, $qw];
        $points = [];
        for ($i = 0; $i < count($shape->points); $i += 3) {
            $to = Quaternion::turned($turn, [$shape->points[$i], $shape->points[$i + 1], $shape->points[$i + 2]]);
            array_push($points, $x + $to[0], $y + $to[1], $z + $to[2]);
        }

        return $points;
    }
}
