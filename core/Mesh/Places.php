<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Isotome\Geometry\Zero;

/** Numbers for places: vertices at exactly the same place have the same one, of one mesh or of several; 0 and −0 are one place. */
final class Places
{
    /** @var list<float> three coordinates a place */
    public array $xyz = [];

    /** @var array<int, true> places of more than one vertex */
    public array $shared = [];

    /** @var array<string, int> */
    private array $known = [];

    /** @return list<int> the place of each vertex */
    public function of(Mesh $mesh): array
    {
        $numbers = [];
        for ($i = 0, $count = count($mesh->xyz); $i < $count; $i += 3) {
            $x = Zero::plain($mesh->xyz[$i]);
            $y = Zero::plain($mesh->xyz[$i + 1]);
            $z = Zero::plain($mesh->xyz[$i + 2]);
            $key = pack('d3', $x, $y, $z);
            if (isset($this->known[$key])) {
                $this->shared[$this->known[$key]] = true;
            } else {
                $this->known[$key] = count($this->known);
                $this->xyz[] = $x;
                $this->xyz[] = $y;
                $this->xyz[] = $z;
            }
            $numbers[] = $this->known[$key];
        }

        return $numbers;
    }

    /** The mesh with one vertex a place: the same triangles, in the same order. */
    public static function joined(Mesh $mesh): Mesh
    {
        $places = new self;
        $numbers = $places->of($mesh);

        return Mesh::of($places->xyz, array_map(static fn (int $v): int => $numbers[$v], $mesh->corners));
    }
}
