<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Materials and the pictures they use, as glTF 2.0 describes them (Khronos Group), and shared by all meshes that came of one. A texture is a picture
 * and how it is sampled; materials name textures by number.
 */
final readonly class Looks
{
    /**
     * @param  list<array<mixed>>  $materials  as in glTF
     * @param  list<array{picture: int, sampler: array<mixed>|null}>  $textures
     * @param  list<array{kind: string, bytes: string, name: string}>  $pictures  kind is a media type; the bytes are never changed
     */
    public function __construct(public array $materials = [], public array $textures = [], public array $pictures = [])
    {
    }

    public function name(int $material): string
    {
        $name = $this->materials[$material]['name'] ?? '';

        return is_string($name) && $name !== '' ? $name : 'material '.($material + 1);
    }

    /** @return array{float, float, float, float} the colour of a surface, linear, with alpha: white where the material says none */
    public function colour(int $material): array
    {
        $given = $this->surface($material)['baseColorFactor'] ?? null;
        $colour = [1.0, 1.0, 1.0, 1.0];
        foreach (is_array($given) ? array_slice(array_values($given), 0, 4) : [] as $k => $part) {
            $colour[$k] = is_int($part) || is_float($part) ? max(0.0, min(1.0, (float) $part)) : 1.0;
        }

        /** @var array{float, float, float, float} */
        return $colour;
    }

    /** @return array<mixed> the texture of a surface's colour as the material names it; empty without one that is there */
    public function painted(int $material): array
    {
        $used = $this->surface($material)['baseColorTexture'] ?? null;

        return is_array($used) && is_int($used['index'] ?? null) && isset($this->textures[$used['index']], $this->pictures[$this->textures[$used['index']]['picture']]) ? $used : [];
    }

    /** @return array<mixed> */
    private function surface(int $material): array
    {
        $surface = $this->materials[$material]['pbrMetallicRoughness'] ?? null;

        return is_array($surface) ? $surface : [];
    }

    /**
     * Several as one; what is the same in two of them is there once.
     *
     * @param  non-empty-list<self>  $all
     * @return array{self, list<list<int>>} and for each of them the new numbers of its materials
     */
    public static function together(array $all): array
    {
        // What there is nothing of needs no new numbers.
        $some = array_values(array_filter($all, static fn (self $looks): bool => $looks->materials !== []));
        if (count(array_unique(array_map(spl_object_id(...), $some))) <= 1) {
            $one = $some[0] ?? $all[0];

            return [$one, array_map(static fn (self $looks): array => array_keys($looks->materials), $all)];
        }
        $materials = $textures = $pictures = $numbers = $done = [];
        foreach ($all as $looks) {
            // Pieces of one stock have the very same looks.
            if (isset($done[spl_object_id($looks)])) {
                $numbers[] = $done[spl_object_id($looks)];

                continue;
            }
            $known = [];
            foreach ($looks->pictures as $n => $picture) {
                // Compared, not hashed: bytes that are shared are equal at once.
                $place = array_search($picture, $pictures, true);
                if ($place === false) {
                    $place = count($pictures);
                    $pictures[] = $picture;
                }
                $known[$n] = $place;
            }
            $sampled = [];
            foreach ($looks->textures as $n => $texture) {
                $one = ['picture' => $known[$texture['picture']] ?? -1, 'sampler' => $texture['sampler']];
                $sampled[$n] = ($textures[serialize($one)] ??= ['n' => count($textures), 'is' => $one])['n'];
            }
            $own = [];
            foreach ($looks->materials as $material) {
                $material = self::renumbered($material, $sampled);
                $own[] = ($materials[serialize($material)] ??= ['n' => count($materials), 'is' => $material])['n'];
            }
            $numbers[] = $done[spl_object_id($looks)] = $own;
        }

        return [new self(array_column($materials, 'is'), array_column($textures, 'is'), $pictures), $numbers];
    }

    /**
     * Some of the materials in this order, with the textures and pictures that they use.
     *
     * @param  list<int>  $materials
     */
    public function only(array $materials): self
    {
        $list = array_map(fn (int $n): array => $this->materials[$n] ?? [], $materials);
        $textures = $pictures = [];
        foreach ($list as $material) {
            foreach (self::texturesOf($material) as $n) {
                $picture = $this->textures[$n]['picture'] ?? -1;
                if (! isset($textures[$n]) && isset($this->pictures[$picture])) {
                    $pictures[$picture] ??= count($pictures);
                    $textures[$n] = ['n' => count($textures), 'is' => ['picture' => $pictures[$picture], 'sampler' => $this->textures[$n]['sampler']]];
                }
            }
        }

        return new self(
            array_map(static fn (array $material): array => self::renumbered($material, array_map(static fn (array $texture): int => $texture['n'], $textures)), $list),
            array_column($textures, 'is'),
            array_map(fn (int $n): array => $this->pictures[$n], array_keys($pictures)),
        );
    }

    /**
     * @param  array<mixed>  $material
     * @return list<int>
     */
    private static function texturesOf(array $material): array
    {
        $found = [];
        foreach ($material as $key => $part) {
            if (is_array($part)) {
                $isTexture = is_string($key) && str_ends_with(strtolower($key), 'texture') && is_int($part['index'] ?? null);
                array_push($found, ...($isTexture ? [$part['index']] : []), ...self::texturesOf($part));
            }
        }

        return $found;
    }

    /**
     * The same material where its textures have other numbers: whatever is called a texture names one by its index, in extensions too.
     *
     * @param  array<mixed>  $material
     * @param  array<int, int>  $numbers  new ones by old ones; a texture without is left out
     * @return array<mixed>
     */
    public static function renumbered(array $material, array $numbers): array
    {
        foreach ($material as $key => $part) {
            if (! is_array($part)) {
                continue;
            }
            if (is_string($key) && str_ends_with(strtolower($key), 'texture') && is_int($part['index'] ?? null)) {
                if (! isset($numbers[$part['index']])) {
                    unset($material[$key]);

                    continue;
                }
                $part['index'] = $numbers[$part['index']];
            }
            $material[$key] = self::renumbered($part, $numbers);
        }

        return $material;
    }

    /**
     * An extension without settings is an empty object; read from JSON it has become an empty list.
     *
     * @param  array<mixed>  $material
     * @return array<mixed>
     */
    public static function withObjects(array $material): array
    {
        foreach ($material as $key => $part) {
            if (is_array($part)) {
                $material[$key] = $key === 'extensions'
                    ? array_map(static fn (mixed $settings): mixed => $settings === [] ? new \stdClass : (is_array($settings) ? self::withObjects($settings) : $settings), $part)
                    : self::withObjects($part);
            }
        }

        return $material;
    }
}
