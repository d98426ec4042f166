<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * The pictures of a skin for the view: which one lies on each triangle, and where on it each corner is. Of a material that is its base colour's picture; the set of
 * coordinates it uses and the extension KHR_texture_transform (Khronos Group) are worked in, so that whoever draws needs to know of neither.
 */
final readonly class OwnPictures
{
    private const CHUNK = 2048;

    /** Sheets that have a number: 0 is for none. */
    private const MOST = 255;

    /** As glTF numbers them. */
    private const WRAPS = [33071 => 'clamp', 33648 => 'mirror'];

    private const NEAREST = [9728, 9984, 9986];

    /**
     * @param  list<array{picture: int, across: string, down: string, nearest: bool}>  $sheets  a picture of the skin's, how it goes on beyond its edges, and whether
     *     its pixels stay hard
     * @param  string  $numbers  a byte a triangle: its sheet, counted from 1; 0 for none
     * @param  string  $coordinates  six 32-bit floats a triangle: across and down at each corner
     */
    private function __construct(public array $sheets, public string $numbers, public string $coordinates)
    {
    }

    /** @return self|null null when no triangle has a picture on it */
    public static function of(Skin $skin): ?self
    {
        $sheets = $known = $by = [];
        foreach (array_keys($skin->looks->materials) as $n) {
            $used = $skin->looks->painted($n);
            $texture = is_int($used['index'] ?? null) ? $skin->looks->textures[$used['index']] ?? null : null;
            if ($texture === null) {
                continue;
            }
            [$layer, $map] = self::placed($used);
            if (($skin->layers[$layer] ?? null) === null) {
                continue;
            }
            $sampler = $texture['sampler'] ?? [];
            $wrap = static fn (string $key): string => self::WRAPS[is_int($sampler[$key] ?? null) ? $sampler[$key] : 0] ?? 'repeat';
            $sheet = ['picture' => $texture['picture'], 'across' => $wrap('wrapS'), 'down' => $wrap('wrapT'), 'nearest' => in_array($sampler['magFilter'] ?? 0, self::NEAREST, true)];
            $key = serialize($sheet);
            if (! isset($known[$key]) && count($sheets) < self::MOST) {
                $sheets[] = $sheet;
                $known[$key] = count($sheets);
            }
            if (isset($known[$key])) {
                $by[$n + 1] = [$known[$key], $layer, $map];
            }
        }
        if ($by === []) {
            return null;
        }
        [$numbers, $coordinates] = self::corners($skin, $by);

        return trim($numbers, "\0") === '' ? null : new self($sheets, $numbers, $coordinates);
    }

    /**
     * Where the coordinates of a texture are, and how they are laid on it.
     *
     * @param  array<mixed>  $used  a texture as a material names it
     * @return array{string, list<float>|null} the layer, and a map of the coordinates: two numbers for across, two for down, two to be added
     */
    public static function placed(array $used): array
    {
        $set = $used['texCoord'] ?? 0;
        $change = is_array($used['extensions'] ?? null) ? $used['extensions']['KHR_texture_transform'] ?? null : null;
        if (! is_array($change)) {
            return [Skin::TEXTURE.(is_int($set) ? $set : 0), null];
        }
        $set = $change['texCoord'] ?? $set;
        $pair = static function (mixed $given, float $else): array {
            $numbers = [];
            for ($k = 0; $k < 2; $k++) {
                $number = is_array($given) ? $given[$k] ?? $else : $else;
                $numbers[] = is_int($number) || is_float($number) ? (float) $number : $else;
            }

            return $numbers;
        };
        [$dx, $dy] = $pair($change['offset'] ?? null, 0.0);
        [$sx, $sy] = $pair($change['scale'] ?? null, 1.0);
        $turn = is_int($change['rotation'] ?? null) || is_float($change['rotation'] ?? null) ? (float) $change['rotation'] : 0.0;

        return [Skin::TEXTURE.(is_int($set) ? $set : 0), [cos($turn) * $sx, sin($turn) * $sy, -sin($turn) * $sx, cos($turn) * $sy, $dx, $dy]];
    }

    /**
     * @param  non-empty-array<int, array{int, string, list<float>|null}>  $by  sheet, layer and map by material, counted from 1
     * @return array{string, string}
     */
    private static function corners(Skin $skin, array $by): array
    {
        $first = $by[array_key_first($by)][1];
        $layers = array_unique(array_column($by, 1));
        $isPlain = count($layers) === 1 && array_filter(array_column($by, 2)) === [];
        $numbers = $coordinates = '';
        $count = $skin->triangles();
        for ($t = 0; $t < $count; $t += self::CHUNK) {
            $some = min(self::CHUNK, $count - $t);
            $materials = Packing::ofLongs(substr($skin->materials, 4 * $t, 4 * $some));
            $sheets = [];
            foreach ($materials as $material) {
                $sheets[] = $by[$material][0] ?? 0;
            }
            $numbers .= pack('C*', ...$sheets);
            if ($isPlain) {
                $coordinates .= pack('g*', ...(array) unpack('e*', substr($skin->layers[$first]->bytes, 48 * $t, 48 * $some)));

                continue;
            }
            $of = [];
            foreach ($layers as $name) {
                /** @var array<int, float> $values */
                $values = unpack('e*', substr($skin->layers[$name]->bytes, 48 * $t, 48 * $some));
                $of[$name] = array_values($values);
            }
            $placed = [];
            foreach ($materials as $n => $material) {
                [, $name, $map] = $by[$material] ?? [0, $first, null];
                for ($i = 6 * $n, $end = $i + 6; $i < $end; $i += 2) {
                    [$u, $v] = [$of[$name][$i], $of[$name][$i + 1]];
                    $placed[] = $map === null ? $u : $map[0] * $u + $map[1] * $v + $map[4];
                    $placed[] = $map === null ? $v : $map[2] * $u + $map[3] * $v + $map[5];
                }
            }
            $coordinates .= pack('g*', ...$placed);
        }

        return [$numbers, $coordinates];
    }
}
