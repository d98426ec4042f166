<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Geometry\Zero;
use Isotome\Mesh\InsidePlaces;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Mesh\SmoothNormals;

/**
 * A piece as glTF has it: triangles by material, the inside as one of them, and a vertex for every place and what is carried there; the two sides of a seam are two.
 *
 * Normals are those that the piece carries; at corners where it carries none they are worked out, see SmoothNormals. Inside faces have coordinates of their own, see InsidePlaces. A number
 * at every vertex of a piece that was cut, `_INSIDE`, is 1 on inside faces and 0 on the skin, for shaders.
 */
final class GlbSkin
{
    public const INSIDE = -2;

    /** @var array<string, array{string, int, string}> attribute and type, numbers a corner, and the numbers as 32-bit floats, by layer */
    private array $skin = [];

    /** @var array<string, array{string, int, string}> the same for inside faces */
    private array $inside = [];

    private bool $hasInside = false;

    /** @var array{list<int>, array<int, float>, array<int, float>, array<int, float>}|null normals that were worked out: see SmoothNormals::shared */
    private ?array $worked = null;

    /**
     * @param  Mesh  $mesh  in metres and Y up, from GlbWriter::rounded()
     */
    private function __construct(private readonly Mesh $mesh, InsideLook $look)
    {
        foreach ($mesh->tags as $tag) {
            if ($tag > 0) {
                $this->hasInside = true;
                break;
            }
        }
        $set = 0;
        foreach ($mesh->skin->layers ?? [] as $name => $layer) {
            // Sets are numbered without gaps.
            $attribute = match ($name) {
                Skin::NORMAL => 'NORMAL',
                Skin::COLOUR => 'COLOR_0',
                default => 'TEXCOORD_'.$set++,
            };
            $this->skin[$name] = [$attribute, $layer->width, self::singles($name, $layer->bytes)];
        }
        $given = $this->skin[Skin::NORMAL][2] ?? null;
        $gaps = $given === null ? [] : $this->gaps($given);
        if ($mesh->triangleCount() <= SmoothNormals::MOST && ($this->hasInside || $given === null || $gaps !== [])) {
            $this->worked = SmoothNormals::shared($mesh);
        }
        if ($given !== null && $gaps !== []) {
            $this->fill($given, $gaps);
        }
        if ($this->hasInside) {
            $this->inside['uv0'] = ['TEXCOORD_0', 2, self::placed(InsidePlaces::of(GlbWriter::inMillimetres($mesh), $look->turn), $look)];
        }
    }

    /**
     * @param  array<int, float>  $pivot
     * @return list<array{int, array<string, array{string, int, string, array<string, mixed>}>, string}> material, −1 for none and INSIDE for inside faces; attributes, see
     *     GlbParts; indices
     */
    public static function primitives(Mesh $mesh, array $pivot, InsideLook $look): array
    {
        $skin = $mesh->skin;
        $by = [];
        foreach ($mesh->tags as $t => $tag) {
            $by[$tag > 0 ? PHP_INT_MAX : ($skin === null ? -1 : $skin->materialOf($t))][] = $t;
        }
        ksort($by);
        $piece = new self($mesh, $look);
        $primitives = [];
        foreach ($by as $material => $triangles) {
            $primitives[] = [$material === PHP_INT_MAX ? self::INSIDE : $material, ...$piece->primitive($pivot, $triangles, $material === PHP_INT_MAX)];
        }

        return $primitives;
    }

    /**
     * @param  array<int, float>  $pivot
     * @param  list<int>  $triangles
     * @return array{array<string, array{string, int, string, array<string, mixed>}>, string}
     */
    private function primitive(array $pivot, array $triangles, bool $isInside): array
    {
        $layers = $isInside ? $this->inside : $this->skin;
        $worked = $isInside || ! isset($layers[Skin::NORMAL]) ? $this->worked : null;
        [$xyz, $corners] = [$this->mesh->xyz, $this->mesh->corners];
        /** @var array<int|string, int> $number */
        $number = [];
        $numbers = $firsts = [];
        $indices = '';
        // Those that share their vertex and a normal that was worked out are told by a number, which is much quicker than bytes.
        $same = $worked === null ? $corners : $worked[0];
        foreach ($triangles as $t) {
            for ($i = 3 * $t, $end = $i + 3; $i < $end; $i++) {
                $key = $same[$i];
                foreach ($layers as [, $width, $bytes]) {
                    $key .= ' '.substr($bytes, 4 * $width * $i, 4 * $width);
                }
                $n = $number[$key] ?? -1;
                if ($n < 0) {
                    $number[$key] = $n = count($firsts);
                    $firsts[] = $i;
                }
                $numbers[] = $n;
            }
            if (count($numbers) > 3000) {
                $indices .= pack('V*', ...$numbers);
                $numbers = [];
            }
        }
        unset($number);
        $indices .= pack('V*', ...$numbers);
        $min = [INF, INF, INF];
        $max = [-INF, -INF, -INF];
        $some = [];
        $packed = '';
        foreach ($firsts as $i) {
            $v = 3 * $corners[$i];
            for ($c = 0; $c < 3; $c++) {
                $place = Zero::plain($xyz[$v + $c] - $pivot[$c]);
                $some[] = $place;
                $min[$c] = $place < $min[$c] ? $place : $min[$c];
                $max[$c] = $place > $max[$c] ? $place : $max[$c];
            }
            if (count($some) >= 3072) {
                $packed .= pack('g*', ...$some);
                $some = [];
            }
        }
        $attributes = ['POSITION' => ['VEC3', 3, $packed.pack('g*', ...$some), ['min' => $min, 'max' => $max]]];
        foreach ($layers as [$attribute, $width, $bytes]) {
            $own = '';
            foreach ($firsts as $i) {
                $own .= substr($bytes, 4 * $width * $i, 4 * $width);
            }
            $attributes[$attribute] = ["VEC$width", $width, $own, []];
        }
        $normals = $worked === null ? null : self::normalsOf($worked, $firsts);
        if ($normals !== null) {
            $attributes['NORMAL'] = ['VEC3', 3, $normals, []];
        }
        if ($this->hasInside) {
            $attributes['_INSIDE'] = ['SCALAR', 1, str_repeat(pack('g', $isInside ? 1.0 : 0.0), count($firsts)), []];
        }

        return [$attributes, $indices];
    }

    /**
     * @param  array{list<int>, array<int, float>, array<int, float>, array<int, float>}  $worked
     * @param  list<int>  $firsts  corners
     * @return string|null as 32-bit floats; null when one of them has none
     */
    private static function normalsOf(array $worked, array $firsts): ?string
    {
        [$tops, $x, $y, $z] = $worked;
        $bytes = '';
        $some = [];
        foreach ($firsts as $i) {
            $top = $tops[$i];
            if ($x[$top] == 0.0 && $y[$top] == 0.0 && $z[$top] == 0.0) {
                return null;
            }
            $some[] = $x[$top];
            $some[] = $y[$top];
            $some[] = $z[$top];
            if (count($some) >= 3072) {
                $bytes .= pack('g*', ...$some);
                $some = [];
            }
        }

        return $bytes.pack('g*', ...$some);
    }

    /**
     * 64-bit floats as 32-bit ones: normals with Y up, colours from 0 to 1.
     *
     * @param  string  $name  of the layer
     */
    private static function singles(string $name, string $bytes): string
    {
        $singles = '';
        for ($at = 0, $length = strlen($bytes); $at < $length; $at += 49152) {
            /** @var array<int, float> $values */
            $values = unpack('e*', substr($bytes, $at, 49152));
            if ($name === Skin::NORMAL) {
                for ($i = 1, $count = count($values); $i < $count; $i += 3) {
                    [$values[$i + 1], $values[$i + 2]] = [$values[$i + 2], Zero::plain(-$values[$i + 1])];
                }
            } elseif ($name === Skin::COLOUR) {
                foreach ($values as $i => $part) {
                    $values[$i] = $part > 0.0 ? ($part < 1.0 ? $part : 1.0) : 0.0;
                }
            }
            $singles .= pack('g*', ...$values);
        }

        return $singles;
    }

    /** Millimetres across and up as coordinates of the picture, which count downwards. */
    private static function placed(string $bytes, InsideLook $look): string
    {
        [$across, $down] = $look->scales();
        $singles = '';
        for ($at = 0, $length = strlen($bytes); $at < $length; $at += 49152) {
            /** @var array<int, float> $values */
            $values = unpack('e*', substr($bytes, $at, 49152));
            for ($i = 1, $count = count($values); $i < $count; $i += 2) {
                $values[$i] *= $across;
                $values[$i + 1] = Zero::plain(-$down * $values[$i + 1]);
            }
            $singles .= pack('g*', ...$values);
        }

        return $singles;
    }

    /** @return list<int> corners of the skin that carry no normal: of faces that a mend made, say */
    private function gaps(string $singles): array
    {
        $none = str_repeat("\0", 12);
        $gaps = [];
        if (! str_contains($singles, $none)) {
            return [];
        }
        foreach ($this->mesh->tags as $t => $tag) {
            for ($i = 3 * $t; $tag <= 0 && $i < 3 * $t + 3; $i++) {
                if (substr_compare($singles, $none, 12 * $i, 12) === 0) {
                    $gaps[] = $i;
                }
            }
        }

        return $gaps;
    }

    /**
     * Puts normals that were worked out where none are carried; none at all are written when that cannot be done, for glTF allows no normal of length 0.
     *
     * @param  list<int>  $gaps  corners
     */
    private function fill(string $singles, array $gaps): void
    {
        $worked = $this->worked === null ? null : self::normalsOf($this->worked, $gaps);
        if ($worked === null) {
            unset($this->skin[Skin::NORMAL]);

            return;
        }
        foreach ($gaps as $n => $i) {
            for ($k = 0; $k < 12; $k++) {
                $singles[12 * $i + $k] = $worked[12 * $n + $k];
            }
        }
        $this->skin[Skin::NORMAL] = ['NORMAL', 3, $singles];
    }
}
