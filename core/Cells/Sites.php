<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Within;

/**
 * The points that cells grow around, in a body. Random ones come from a seed alone: the same seed gives the same points.
 *
 * They lie within the body, or its stand-in, so that their count is about the number of pieces; where a body is so thin that this fails, in its box.
 */
final class Sites
{
    public const MOST = 5000;

    private const TRIES = 400;

    private const KINDS = ['uniform', 'even', 'gathered'];

    private readonly Box $box;

    private readonly Within $within;

    private readonly Chance $chance;

    private function __construct(StandIn $body, int $seed)
    {
        $this->box = $body->box;
        $this->within = new Within($body->mesh);
        $this->chance = new Chance($seed);
    }

    /**
     * @param  list<array{float, float, float}>  $places  what gathered points gather around, mm
     * @param  float  $falloff  distance from a place within which two thirds of its points lie in each direction, mm
     * @return list<float> 3 a point
     *
     * @throws BadBlade
     */
    public static function random(StandIn $body, string $kind, int $count, int $seed, array $places = [], float $falloff = 0.0): array
    {
        if ($count < 2 || $count > self::MOST) {
            throw new BadBlade("The cells' count is $count; give one from 2 to ".self::MOST.'.');
        }
        if (! in_array($kind, self::KINDS, true)) {
            throw new BadBlade("The cells' points are \"$kind\"; choose one of ".implode(', ', self::KINDS).'.');
        }
        $sites = new self($body, $seed);
        if ($kind === 'even') {
            return $sites->even($count, max(1e-300, $body->volume));
        }
        if ($kind === 'gathered') {
            if ($places === [] || $falloff <= 0.0) {
                throw new BadBlade('Gathered cells have no place or no fall-off; pick a place on the piece and give a fall-off of more than 0 mm.');
            }

            return $sites->gathered($count, $places, $falloff);
        }
        $points = [];
        for ($n = 0; $n < $count; $n++) {
            array_push($points, ...$sites->anywhere());
        }

        return $points;
    }

    /**
     * Vertices of a mesh, spread over its order when there are more than are wanted.
     *
     * @return list<float>
     */
    public static function vertices(Mesh $mesh, int $count): array
    {
        $vertices = $mesh->vertexCount();
        if ($vertices < 2) {
            throw new BadBlade('The mesh whose vertices the cells grow around has fewer than 2 vertices; choose another.');
        }
        $count = min($count, $vertices, self::MOST);
        $points = [];
        for ($n = 0; $n < $count; $n++) {
            $v = intdiv($n * $vertices, $count);
            array_push($points, $mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]);
        }

        return $points;
    }

    /** @return array{float, float, float} */
    private function anywhere(): array
    {
        [$min, $max] = [$this->box->min, $this->box->max];
        for ($try = 0; ; $try++) {
            $x = $min[0] + $this->chance->uniform() * ($max[0] - $min[0]);
            $y = $min[1] + $this->chance->uniform() * ($max[1] - $min[1]);
            $z = $min[2] + $this->chance->uniform() * ($max[2] - $min[2]);
            if ($try >= self::TRIES || $this->within->has($x, $y, $z)) {
                return [$x, $y, $z];
            }
        }
    }

    /**
     * @param  list<array{float, float, float}>  $places
     * @return list<float>
     */
    private function gathered(int $count, array $places, float $falloff): array
    {
        $points = [];
        [$min, $max] = [$this->box->min, $this->box->max];
        for ($n = 0; $n < $count; $n++) {
            $place = $places[$n % count($places)];
            for ($try = 0; ; $try++) {
                $x = $place[0] + $falloff * $this->chance->normal();
                $y = $place[1] + $falloff * $this->chance->normal();
                $z = $place[2] + $falloff * $this->chance->normal();
                if ($this->within->has($x, $y, $z)) {
                    break;
                }
                if ($try >= self::TRIES && $x > $min[0] && $x < $max[0] && $y > $min[1] && $y < $max[1] && $z > $min[2] && $z < $max[2]) {
                    break;
                }
                if ($try >= 4 * self::TRIES) {
                    [$x, $y, $z] = $this->anywhere();
                    break;
                }
            }
            array_push($points, $x, $y, $z);
        }

        return $points;
    }

    /**
     * Random points no two of which are nearer than a distance, which shrinks until all have found room. Source: M. McCool, E. Fiume,
     * "Hierarchical Poisson disk sampling distributions", Graphics Interface (1992).
     *
     * @return list<float>
     */
    private function even(int $count, float $volume): array
    {
        // Spheres of half the distance packed at random fill some two fifths of the volume.
        $distance = 1.1 * ($volume / $count) ** (1 / 3);
        $points = [];
        $grid = [];
        $cell = $distance;
        $found = 0;
        $misses = 0;
        while ($found < $count) {
            [$x, $y, $z] = $this->anywhere();
            $i = (int) floor($x / $cell);
            $j = (int) floor($y / $cell);
            $k = (int) floor($z / $cell);
            $free = true;
            for ($n = 0; $n < 27 && $free; $n++) {
                foreach ($grid[$i + $n % 3 - 1][$j + intdiv($n, 3) % 3 - 1][$k + intdiv($n, 9) - 1] ?? [] as $p) {
                    $dx = $points[$p] - $x;
                    $dy = $points[$p + 1] - $y;
                    $dz = $points[$p + 2] - $z;
                    if ($dx * $dx + $dy * $dy + $dz * $dz < $distance * $distance) {
                        $free = false;
                        break;
                    }
                }
            }
            if ($free) {
                $grid[$i][$j][$k][] = count($points);
                array_push($points, $x, $y, $z);
                $found++;
                $misses = 0;
            } elseif (++$misses > 30 + $found) {
                $distance *= 0.97;
                $misses = 0;
            }
        }

        return $points;
    }
}
