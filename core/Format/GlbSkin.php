<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Geometry\Zero;
use Isotome\Mesh\Mark;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;

/** The skin of a piece as glTF has it: triangles by material, and a vertex for every place and what is carried there; the two sides of a seam are two. */
final class GlbSkin
{
    /**
     * @param  Mesh  $mesh  in metres and Y up, from GlbWriter::rounded()
     * @param  array<int, float>  $pivot
     * @return list<array{int, array<string, array{string, int, string, array<string, mixed>}>, string}> material, −1 for none; attributes, see GlbParts; indices
     */
    public static function primitives(Mesh $mesh, array $pivot): array
    {
        $skin = $mesh->skin;
        $by = [];
        foreach ($mesh->tags as $t => $tag) {
            if ($skin !== null && ! Mark::isInside($tag)) {
                $by[$skin->materialOf($t)][] = $t;
            }
        }
        ksort($by);
        $primitives = [];
        foreach ($by as $material => $triangles) {
            $primitives[] = [$material, ...self::primitive($mesh, $pivot, $triangles)];
        }

        return $primitives;
    }

    /**
     * @param  array<int, float>  $pivot
     * @param  list<int>  $triangles
     * @return array{array<string, array{string, int, string, array<string, mixed>}>, string}
     */
    private static function primitive(Mesh $mesh, array $pivot, array $triangles): array
    {
        /** @var array<string, int> $number */
        $number = [];
        $places = $numbers = [];
        $indices = '';
        $layers = $mesh->skin->layers ?? [];
        // What no triangle has is no attribute: normals of 0 are not allowed.
        foreach ($layers as $name => $layer) {
            if ($name === Skin::NORMAL && ! self::areNormals($layer->bytes, $layer->stride(), $triangles)) {
                unset($layers[$name]);
            }
        }
        $bytes = array_fill_keys(array_keys($layers), '');
        foreach ($triangles as $t) {
            $carried = [];
            foreach ($layers as $name => $layer) {
                $values = $layer->at($t);
                $carried[$name] = str_split(pack('g*', ...($name === Skin::NORMAL ? self::yUp($values) : ($name === Skin::COLOUR ? self::within($values) : $values))), max(1, 4 * $layer->width));
            }
            for ($k = 0; $k < 3; $k++) {
                $v = $mesh->corners[3 * $t + $k];
                $key = pack('V', $v);
                foreach ($carried as $corners) {
                    $key .= $corners[$k];
                }
                if (! isset($number[$key])) {
                    $number[$key] = count($number);
                    for ($c = 0; $c < 3; $c++) {
                        $places[] = Zero::plain($mesh->xyz[3 * $v + $c] - $pivot[$c]);
                    }
                    foreach ($carried as $name => $corners) {
                        $bytes[$name] .= $corners[$k];
                    }
                }
                $numbers[] = $number[$key];
            }
            if (count($numbers) > 3000) {
                $indices .= pack('V*', ...$numbers);
                $numbers = [];
            }
        }
        $min = $max = [];
        for ($c = 0; $c < 3; $c++) {
            $along = [];
            for ($i = $c, $count = count($places); $i < $count; $i += 3) {
                $along[] = $places[$i];
            }
            $min[] = $along === [] ? 0.0 : min($along);
            $max[] = $along === [] ? 0.0 : max($along);
        }
        $packed = '';
        foreach (array_chunk($places, 3072) as $some) {
            $packed .= pack('g*', ...$some);
        }
        $attributes = ['POSITION' => ['VEC3', 3, $packed, ['min' => $min, 'max' => $max]]];
        $set = 0;
        foreach ($layers as $name => $layer) {
            // Sets are numbered without gaps.
            $attribute = match ($name) {
                Skin::NORMAL => 'NORMAL',
                Skin::COLOUR => 'COLOR_0',
                default => 'TEXCOORD_'.$set++,
            };
            $attributes[$attribute] = ['VEC'.$layer->width, $layer->width, $bytes[$name], []];
        }

        return [$attributes, $indices.pack('V*', ...$numbers)];
    }

    /** @param  list<int>  $triangles */
    private static function areNormals(string $bytes, int $stride, array $triangles): bool
    {
        $none = str_repeat("\0", 24);
        foreach ($triangles as $t) {
            for ($k = 0; $k < 3; $k++) {
                if (substr_compare($bytes, $none, $stride * $t + 24 * $k, 24) === 0) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * Directions with Y up; rounded to 32-bit floats they are of length 1 as far as that goes.
     *
     * @param  list<float>  $normals
     * @return list<float>
     */
    private static function yUp(array $normals): array
    {
        $turned = [];
        for ($i = 0; $i < 9; $i += 3) {
            array_push($turned, $normals[$i], $normals[$i + 2], Zero::plain(-$normals[$i + 1]));
        }

        return $turned;
    }

    /**
     * @param  list<float>  $colours
     * @return list<float> 0 to 1
     */
    private static function within(array $colours): array
    {
        return array_map(static fn (float $part): float => max(0.0, min(1.0, $part)), $colours);
    }
}
