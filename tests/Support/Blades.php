<?php

declare(strict_types=1);

namespace Tests\Support;

use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Blades through a mesh, from a seed. */
final class Blades
{
    private Randomizer $random;

    public function __construct(private readonly Mesh $mesh, int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    /** Anywhere between two vertices, facing anywhere. */
    public function anywhere(): Plane
    {
        $p = $this->vertex();
        $q = $this->vertex();
        $share = $this->between(0);
        do {
            $facing = [$this->between(-1), $this->between(-1), $this->between(-1)];
        } while (abs($facing[0]) + abs($facing[1]) + abs($facing[2]) < 0.01);

        return Plane::through([$p[0] + $share * ($q[0] - $p[0]), $p[1] + $share * ($q[1] - $p[1]), $p[2] + $share * ($q[2] - $p[2])], $facing);
    }

    /** Deliberately unlucky: through vertices, along edges, in faces, along an axis through a vertex, nearly in a face. */
    public function unlucky(): Plane
    {
        do {
            [$p, $q, $r] = [$this->vertex(), $this->vertex(), $this->vertex()];
            $facing = match ($this->random->getInt(0, 5)) {
                0 => self::normal($p, $q, $r),
                1 => [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [-1.0, 0.0, 0.0], [0.0, -1.0, 0.0], [0.0, 0.0, -1.0]][$this->random->getInt(0, 5)],
                2 => [1.0, (float) $this->random->getInt(-1, 1), (float) $this->random->getInt(-1, 1)],
                3 => self::normal(...([$p, $q, $r] = $this->triangle())),
                4 => array_map(fn (float $c): float => $c * (1 + 1e-9 * $this->random->getInt(-9, 9)), self::normal(...([$p, $q, $r] = $this->triangle()))),
                default => [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]],
            };
        } while ($facing[0] == 0.0 && $facing[1] == 0.0 && $facing[2] == 0.0);

        return Plane::through($p, $facing);
    }

    /** A number from the lower bound to 1. */
    private function between(int $low): float
    {
        return $low + (1 - $low) * $this->random->getInt(0, 2 ** 53) / 2 ** 53;
    }

    /** @return array{float, float, float} */
    private function vertex(): array
    {
        return $this->at($this->random->getInt(0, $this->mesh->vertexCount() - 1));
    }

    /** @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}} */
    private function triangle(): array
    {
        $t = 3 * $this->random->getInt(0, $this->mesh->triangleCount() - 1);

        return [$this->at($this->mesh->corners[$t]), $this->at($this->mesh->corners[$t + 1]), $this->at($this->mesh->corners[$t + 2])];
    }

    /** @return array{float, float, float} */
    private function at(int $v): array
    {
        return [$this->mesh->xyz[3 * $v], $this->mesh->xyz[3 * $v + 1], $this->mesh->xyz[3 * $v + 2]];
    }

    /**
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $q
     * @param  array{float, float, float}  $r
     * @return array{float, float, float}
     */
    private static function normal(array $p, array $q, array $r): array
    {
        [$ux, $uy, $uz] = [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]];
        [$vx, $vy, $vz] = [$r[0] - $p[0], $r[1] - $p[1], $r[2] - $p[2]];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }
}
