<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Looks;

/**
 * Materials and their pictures as a library for OBJ, and as files beside it. Sources: see MtlReader.
 */
final class MtlWriter
{
    /** @var array<int, string> by number of the material */
    public array $names = [];

    /** @var array<int, string> files of the pictures by number */
    private array $files = [];

    /** @param  array<string, true>  $taken  names that are given to others */
    public function __construct(private readonly Looks $looks, array $taken = [])
    {
        foreach ($looks->materials as $n => $_) {
            $word = $name = TextWriters::word($looks->name($n));
            for ($k = 2; isset($taken[$name]); $k++) {
                $name = "{$word}_$k";
            }
            $taken[$name] = true;
            $this->names[$n] = $name;
        }
        foreach ($looks->pictures as $n => $picture) {
            $this->files[$n] = self::file($picture);
        }
    }

    /**
     * Named by content, so that several files of one export can have the same pictures beside them.
     *
     * @param  array{kind: string, bytes: string, name: string}  $picture
     */
    public static function file(array $picture): string
    {
        $mark = substr(hash('sha256', $picture['bytes']), 0, 8);
        $base = TextWriters::word((string) preg_replace('/[^\w .-]+/u', '-', $picture['name']));
        $base = str_ends_with($base, "-$mark") ? substr($base, 0, -9) : $base;
        $ending = ['image/png' => 'png', 'image/jpeg' => 'jpg', 'image/webp' => 'webp'][$picture['kind']] ?? 'png';

        return ltrim($base, '.')."-$mark.$ending";
    }

    /** Writes the pictures into a folder. */
    public function pictures(string $folder): void
    {
        foreach ($this->looks->pictures as $n => $picture) {
            if (! is_file("$folder/{$this->files[$n]}")) {
                Files::write("$folder/{$this->files[$n]}", [$picture['bytes']]);
            }
        }
    }

    /** @return iterable<string> */
    public function library(): iterable
    {
        foreach ($this->looks->materials as $n => $material) {
            $said = "newmtl {$this->names[$n]}\n";
            foreach ($this->statements($n, $material) as $word => $rest) {
                $said .= "$word $rest\n";
            }
            yield $said;
        }
    }

    /**
     * What a library cannot say of these materials, as a person would name it.
     *
     * @return list<string>
     */
    public static function losesOf(Looks $looks): array
    {
        $lost = [];
        foreach ($looks->materials as $material) {
            $surface = is_array($material['pbrMetallicRoughness'] ?? null) ? $material['pbrMetallicRoughness'] : [];
            if (isset($surface['metallicRoughnessTexture']) || isset($material['occlusionTexture'])) {
                $lost['pictures of roughness, metal and shadow'] = true;
            }
            foreach (self::textures($material) as $texture) {
                $change = is_array($texture['extensions'] ?? null) ? $texture['extensions']['KHR_texture_transform'] ?? [] : [];
                $set = is_array($change) && isset($change['texCoord']) ? $change['texCoord'] : $texture['texCoord'] ?? 0;
                if ($set !== 0 || (is_array($change) && ($change['rotation'] ?? 0) != 0)) {
                    $lost['how some pictures are laid on: turned, or by further coordinates'] = true;
                }
            }
            if (array_diff_key(is_array($material['extensions'] ?? null) ? $material['extensions'] : [], ['KHR_texture_transform' => 1]) !== []) {
                $lost['extensions of materials'] = true;
            }
        }

        return array_keys($lost);
    }

    /**
     * @param  array<mixed>  $material
     * @return array<string, array<mixed>> of colour, glow and relief, by the statements that name them
     */
    private static function textures(array $material): array
    {
        $surface = is_array($material['pbrMetallicRoughness'] ?? null) ? $material['pbrMetallicRoughness'] : [];

        return array_filter(['map_Kd' => $surface['baseColorTexture'] ?? null, 'map_Ke' => $material['emissiveTexture'] ?? null, 'norm' => $material['normalTexture'] ?? null], is_array(...));
    }

    /**
     * @param  array<mixed>  $material
     * @return array<string, string>
     */
    private function statements(int $n, array $material): array
    {
        $surface = is_array($material['pbrMetallicRoughness'] ?? null) ? $material['pbrMetallicRoughness'] : [];
        $colour = $this->looks->colour($n);
        $kept = is_array($material['extras'] ?? null) && is_array($material['extras']['mtl'] ?? null) ? $material['extras']['mtl'] : [];
        $said = [];
        foreach (MtlReader::KEPT as $word) {
            if (is_string($kept[$word] ?? null)) {
                $said[$word] = $kept[$word];
            }
        }
        $said['Kd'] = self::written(array_slice($colour, 0, 3));
        if ($colour[3] < 1.0) {
            $said['d'] = sprintf('%.6g', $colour[3]);
        }
        if (! isset($said['Ns'])) {
            $said['Pr'] = sprintf('%.6g', self::factors([$surface['roughnessFactor'] ?? 1.0], [1.0])[0]);
        }
        $said['Pm'] = sprintf('%.6g', self::factors([$surface['metallicFactor'] ?? 1.0], [1.0])[0]);
        $glow = self::factors($material['emissiveFactor'] ?? null, [0.0, 0.0, 0.0]);
        if (array_sum($glow) > 0.0) {
            $said['Ke'] = self::written($glow);
        }
        $maps = self::textures($material);
        foreach (MtlReader::MAPS as $word) {
            $maps[$word] = $kept["$word texture"] ?? null;
        }
        foreach ($maps as $word => $texture) {
            $map = is_array($texture) ? $this->map($texture) : null;
            if ($map !== null) {
                $said[$word] = $map;
            }
        }

        return $said;
    }

    /** @param  array<mixed>  $texture */
    private function map(array $texture): ?string
    {
        $used = is_int($texture['index'] ?? null) ? $this->looks->textures[$texture['index']] ?? null : null;
        $file = $used === null ? null : $this->files[$used['picture']] ?? null;
        if ($file === null) {
            return null;
        }
        $options = '';
        $change = is_array($texture['extensions'] ?? null) ? $texture['extensions']['KHR_texture_transform'] ?? null : null;
        if (is_array($change)) {
            [$sx, $sy] = self::factors($change['scale'] ?? null, [1.0, 1.0]);
            [$ox, $oy] = self::factors($change['offset'] ?? null, [0.0, 0.0]);
            $options .= sprintf('-s %.9g %.9g 1 -o %.9g %.9g 0 ', $sx, $sy, $ox, 1.0 - $sy - $oy);
        }
        if (($used['sampler']['wrapS'] ?? null) === 33071 && ($used['sampler']['wrapT'] ?? null) === 33071) {
            $options .= '-clamp on ';
        }

        return $options.$file;
    }

    /**
     * @param  list<float>  $else
     * @return list<float>
     */
    private static function factors(mixed $given, array $else): array
    {
        $numbers = [];
        foreach ($else as $k => $number) {
            $one = is_array($given) ? $given[$k] ?? $number : $number;
            $numbers[] = is_int($one) || is_float($one) ? (float) $one : $number;
        }

        return $numbers;
    }

    /** @param  list<float>  $colour  linear */
    private static function written(array $colour): string
    {
        return implode(' ', array_map(static fn (float $part): string => sprintf('%.6g', Colours::written($part)), $colour));
    }
}
