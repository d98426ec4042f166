<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Closure;
use Isotome\Geometry\Affine;

/**
 * Brings what meshes carry over to what an operation made of them. The operation was given marked meshes (see Mark), so each triangle says which one it is a
 * part of; within a flat triangle everything is linear, so the values at a corner follow from its place, by barycentric coordinates.
 *
 * Guarantees: a triangle that is still whole has the very same values; a function that is linear over the surface stays that function at every corner of the
 * skin; a corner that was moved off its triangle has the values of the place on it that is nearest, so nothing is ever taken from beyond a seam. New faces
 * have no material, no texture coordinates and no normal.
 */
final class Carry
{
    private Mesh $source;

    /** @var array<string, Layer> */
    private array $layers;

    /**
     * @param  non-empty-list<Mesh>  $sources  as they were marked, one numbered on from the other
     * @param  list<list<float>>  $images  where else triangles were put, besides where they were: maps of 12 numbers (the images of the axes, then of the origin)
     * @param  list<list<float>>  $back  their inverses
     */
    private function __construct(array $sources, private readonly array $images, private readonly array $back, private readonly bool $arePartsTold)
    {
        $this->source = count($sources) === 1 ? $sources[0] : Together::dressed($sources);
        $this->layers = $this->source->skin->layers ?? [];
    }

    /**
     * @param  non-empty-list<Mesh>  $sources  what was marked, in the order of the marks
     * @param  Mesh  $made  with marks
     * @param  list<list<float>>  $images  maps by which triangles were moved: 12 numbers each, the images of the three axes, then of the origin
     * @return Mesh without marks
     */
    public static function over(array $sources, Mesh $made, array $images = []): Mesh
    {
        return self::overAll($sources, [$made], $images)[0];
    }

    /**
     * What a mesh carries through something that gives one mesh of it.
     *
     * @param  Closure(Mesh): Mesh  $operation
     */
    public static function through(Mesh $mesh, Closure $operation): Mesh
    {
        if ($mesh->skin === null) {
            return $operation($mesh);
        }
        $made = $operation(Mark::of($mesh));

        // The same triangles, if elsewhere by a little: nothing has to be worked out.
        return $made->corners === $mesh->corners ? Mesh::of($made->xyz, $made->corners, $mesh->tags, $mesh->skin) : self::over([$mesh], $made);
    }

    /**
     * @param  non-empty-list<Mesh>  $sources
     * @param  list<Mesh>  $made
     * @param  list<list<float>>  $images
     * @param  bool  $arePartsTold  no vertex was moved, and whatever is not whole is marked as a part: then nothing has to be compared
     * @return list<Mesh>
     */
    public static function overAll(array $sources, array $made, array $images = [], bool $arePartsTold = false): array
    {
        $carry = new self($sources, $images, array_map(Affine::back(...), $images), $arePartsTold);

        return array_map($carry->to(...), $made);
    }

    private function to(Mesh $made): Mesh
    {
        $skin = $this->source->skin;
        if ($skin === null) {
            return Mesh::of($made->xyz, $made->corners, array_map(Mark::tag(...), $made->tags));
        }
        $xyz = $made->xyz;
        $corners = $made->corners;
        $from = $this->source->xyz;
        $old = $this->source->corners;
        // Put together at the end: a text that grows would be copied again and again.
        $materials = [];
        $values = array_fill_keys(array_keys($this->layers), []);
        $tagRuns = [];
        $blank = [];
        foreach ($this->layers as $name => $layer) {
            $blank[$name] = Layer::blank($name, $layer->width);
        }
        // Vertex of the source that a vertex is; −2 while none is known.
        $was = $made->xyz === [] || $this->arePartsTold ? [] : array_fill(0, $made->vertexCount(), -2);
        // Whole triangles that follow each other are copied at once: from where, and how many.
        $first = $run = $runTag = 0;
        $tags = [];
        $count = $made->triangleCount();
        $marks = $made->tags;
        $marks[] = 0;
        $arePartsTold = $this->arePartsTold;
        // Where parts are told, the mark of the next whole triangle is known.
        $expected = -1;
        foreach ($marks as $t => $mark) {
            if ($mark === $expected) {
                $run++;
                $expected += 1 << 16;

                continue;
            }
            $isPart = $mark >= Mark::PART;
            $s = (($isPart ? $mark - Mark::PART : $mark) >> 16) - 1;
            $isWhole = $s >= 0 && $arePartsTold && ! $isPart;
            if ($s >= 0 && ! $arePartsTold && ! $isPart) {
                $a = $corners[3 * $t];
                $b = $corners[3 * $t + 1];
                $c = $corners[3 * $t + 2];
                $p = $old[3 * $s];
                $q = $old[3 * $s + 1];
                $r = $old[3 * $s + 2];
                $isWhole = $was[$a] === $p && $was[$b] === $q && $was[$c] === $r;
                if (! $isWhole) {
                    if ($was[$a] === -2 && $xyz[3 * $a] === $from[3 * $p] && $xyz[3 * $a + 1] === $from[3 * $p + 1] && $xyz[3 * $a + 2] === $from[3 * $p + 2]) {
                        $was[$a] = $p;
                    }
                    if ($was[$b] === -2 && $xyz[3 * $b] === $from[3 * $q] && $xyz[3 * $b + 1] === $from[3 * $q + 1] && $xyz[3 * $b + 2] === $from[3 * $q + 2]) {
                        $was[$b] = $q;
                    }
                    if ($was[$c] === -2 && $xyz[3 * $c] === $from[3 * $r] && $xyz[3 * $c + 1] === $from[3 * $r + 1] && $xyz[3 * $c + 2] === $from[3 * $r + 2]) {
                        $was[$c] = $r;
                    }
                    $isWhole = $was[$a] === $p && $was[$b] === $q && $was[$c] === $r;
                }
            }
            if ($isWhole && $s === $first + $run && ($mark & 0xFFFF) === $runTag) {
                $run++;

                continue;
            }
            if ($run > 0) {
                $tagRuns[] = $tags;
                $tagRuns[] = array_fill(0, $run, $runTag);
                $tags = [];
                $materials[] = substr($skin->materials, 4 * $first, 4 * $run);
                foreach ($this->layers as $name => $layer) {
                    $values[$name][] = substr($layer->bytes, $layer->stride() * $first, $layer->stride() * $run);
                }
                $run = 0;
            }
            $expected = -1;
            if ($isWhole) {
                $first = $s;
                $run = 1;
                $runTag = $mark & 0xFFFF;
                $expected = $arePartsTold ? $mark + (1 << 16) : -1;

                continue;
            }
            $tags[] = $mark & 0xFFFF;
            if ($s >= 0) {
                $materials[] = substr($skin->materials, 4 * $s, 4);
                $places = [];
                foreach ([3 * $t, 3 * $t + 1, 3 * $t + 2] as $h) {
                    $v = 3 * $corners[$h];
                    array_push($places, $xyz[$v], $xyz[$v + 1], $xyz[$v + 2]);
                }
                foreach ($this->parted($s, $places) as $name => $bytes) {
                    $values[$name][] = $bytes;
                }
            } elseif ($t < $count) {
                $materials[] = "\0\0\0\0";
                foreach ($blank as $name => $bytes) {
                    $values[$name][] = $bytes;
                }
            }
        }
        array_pop($tags);
        $tagRuns[] = $tags;
        $layers = [];
        foreach ($this->layers as $name => $layer) {
            $layers[$name] = new Layer($layer->width, implode('', $values[$name]));
            unset($values[$name]);
        }

        return Mesh::of($xyz, $corners, array_merge(...$tagRuns), new Skin($skin->looks, implode('', $materials), $layers));
    }

    /**
     * The values at three places of a triangle.
     *
     * @param  list<float>  $places  9 numbers
     * @return array<string, string> bytes by layer
     */
    private function parted(int $s, array $places): array
    {
        $xyz = $this->source->xyz;
        $triangle = [];
        for ($k = 0; $k < 3; $k++) {
            $v = 3 * $this->source->corners[3 * $s + $k];
            array_push($triangle, $xyz[$v], $xyz[$v + 1], $xyz[$v + 2]);
        }
        [$shares, $away] = self::shares($triangle, $places);
        $image = null;
        foreach ($this->back as $n => $map) {
            [$others, $farther] = self::shares($triangle, Affine::points($places, $map));
            if ($farther < $away) {
                [$shares, $away, $image] = [$others, $farther, $this->images[$n]];
            }
        }
        $parted = [];
        foreach ($this->layers as $name => $layer) {
            $at = $layer->at($s);
            $width = $layer->width;
            $values = [];
            foreach ($shares as [$a, $b, $c]) {
                for ($k = 0; $k < $width; $k++) {
                    $values[] = $a * $at[$k] + $b * $at[$width + $k] + $c * $at[2 * $width + $k];
                }
            }
            $parted[$name] = pack('e*', ...($name === Skin::NORMAL ? self::unit($image === null ? $values : Affine::normals($values, $image)) : $values));
        }

        return $parted;
    }

    /**
     * Barycentric coordinates of three places, or of the nearest places of the triangle, and how far these are away in all, mm.
     *
     * @param  list<float>  $triangle  9 numbers
     * @param  list<float>  $places  9 numbers
     * @return array{list<array{float, float, float}>, float}
     */
    private static function shares(array $triangle, array $places): array
    {
        [$ax, $ay, $az, $bx, $by, $bz, $cx, $cy, $cz] = $triangle;
        [$ux, $uy, $uz] = [$bx - $ax, $by - $ay, $bz - $az];
        [$vx, $vy, $vz] = [$cx - $ax, $cy - $ay, $cz - $az];
        [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
        $square = $nx * $nx + $ny * $ny + $nz * $nz;
        $shares = [];
        $away = 0.0;
        for ($k = 0; $k < 9; $k += 3) {
            [$px, $py, $pz] = [$places[$k] - $ax, $places[$k + 1] - $ay, $places[$k + 2] - $az];
            $b = $c = -1.0;
            if ($square > 0.0) {
                $b = (($py * $vz - $pz * $vy) * $nx + ($pz * $vx - $px * $vz) * $ny + ($px * $vy - $py * $vx) * $nz) / $square;
                $c = (($uy * $pz - $uz * $py) * $nx + ($uz * $px - $ux * $pz) * $ny + ($ux * $py - $uy * $px) * $nz) / $square;
            }
            if ($b < 0.0 || $c < 0.0 || $b + $c > 1.0) {
                [$b, $c] = self::nearest([$ux, $uy, $uz], [$vx, $vy, $vz], [$px, $py, $pz]);
            }
            $shares[] = [1.0 - $b - $c, $b, $c];
            $away += sqrt(($px - $b * $ux - $c * $vx) ** 2 + ($py - $b * $uy - $c * $vy) ** 2 + ($pz - $b * $uz - $c * $vz) ** 2);
        }

        return [$shares, $away];
    }

    /**
     * Shares of the second and third corner at the place of the triangle's border that is nearest.
     *
     * @param  array{float, float, float}  $u  from the first corner to the second
     * @param  array{float, float, float}  $v  from the first corner to the third
     * @param  array{float, float, float}  $p  from the first corner to the place
     * @return array{float, float}
     */
    private static function nearest(array $u, array $v, array $p): array
    {
        $best = [0.0, 0.0];
        $least = INF;
        foreach ([[[0.0, 0.0], [1.0, 0.0]], [[1.0, 0.0], [0.0, 1.0]], [[0.0, 1.0], [0.0, 0.0]]] as [[$b0, $c0], [$b1, $c1]]) {
            $along = $ahead = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $from = $b0 * $u[$k] + $c0 * $v[$k];
                $way = $b1 * $u[$k] + $c1 * $v[$k] - $from;
                $along += $way * $way;
                $ahead += $way * ($p[$k] - $from);
            }
            $share = $along > 0.0 ? max(0.0, min(1.0, $ahead / $along)) : 0.0;
            [$b, $c] = [$b0 + $share * ($b1 - $b0), $c0 + $share * ($c1 - $c0)];
            $away = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $away += ($p[$k] - $b * $u[$k] - $c * $v[$k]) ** 2;
            }
            if ($away < $least) {
                $least = $away;
                $best = [$b, $c];
            }
        }

        return $best;
    }

    /**
     * @param  list<float>  $normals
     * @return list<float> of length 1 each, or 0
     */
    private static function unit(array $normals): array
    {
        $units = [];
        for ($i = 0, $count = count($normals); $i < $count; $i += 3) {
            $length = sqrt($normals[$i] ** 2 + $normals[$i + 1] ** 2 + $normals[$i + 2] ** 2);
            for ($k = 0; $k < 3; $k++) {
                $units[] = $length > 1e-12 ? $normals[$i + $k] / $length : 0.0;
            }
        }

        return $units;
    }
}
