<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Looks;

/** The parts of a glTF 2.0 binary file as they are gathered: the description, and the data behind it. Source: Khronos Group, glTF 2.0 Specification. */
final class GlbParts
{
    /** @var list<string> */
    private array $binary = [];

    private int $length = 0;

    /** @param  array{asset: mixed, scene: int, scenes: mixed, nodes: list<mixed>, meshes: list<mixed>, materials: list<mixed>, accessors: list<mixed>, bufferViews: list<mixed>, buffers: list<mixed>, textures?: list<mixed>, samplers?: list<mixed>, images?: list<mixed>, animations?: list<mixed>, extensionsUsed?: list<string>}  $json */
    public function __construct(public array $json)
    {
    }

    /** Materials, textures and pictures that came with the pieces, each once; the numbers of the materials are those of the looks. */
    public function looks(Looks $looks): void
    {
        foreach ($looks->materials as $material) {
            $this->json['materials'][] = $material;
        }
        $used = [];
        foreach ($looks->textures as ['picture' => $picture, 'sampler' => $sampler]) {
            $texture = [];
            if ($sampler !== null) {
                $this->json['samplers'][] = $sampler === [] ? new \stdClass : $sampler;
                $texture['sampler'] = count($this->json['samplers'] ?? []) - 1;
            }
            if ($looks->pictures[$picture]['kind'] === 'image/webp') {
                $texture['extensions'] = [GltfLooks::WEBP => ['source' => $picture]];
                $used[GltfLooks::WEBP] = true;
            } else {
                $texture['source'] = $picture;
            }
            $this->json['textures'][] = $texture;
        }
        foreach ($looks->pictures as $picture) {
            $this->json['images'][] = ['name' => $picture['name'], 'mimeType' => $picture['kind'], 'bufferView' => $this->view($picture['bytes'], null)];
        }
        foreach (GltfLooks::EXTENSIONS as $extension) {
            if (str_contains((string) json_encode($looks->materials, JSON_PARTIAL_OUTPUT_ON_ERROR), "\"$extension\"")) {
                $used[$extension] = true;
            }
        }
        if ($used !== []) {
            $this->json['extensionsUsed'] = array_keys($used);
        }
    }

    /**
     * A plain material of one colour.
     *
     * @param  list<float>  $factor  linear colour
     * @return int its number
     */
    public function material(string $name, array $factor): int
    {
        $this->json['materials'][] = ['name' => $name, 'doubleSided' => false, 'pbrMetallicRoughness' => ['baseColorFactor' => $factor, 'metallicFactor' => 0, 'roughnessFactor' => 0.9]];

        return count($this->json['materials']) - 1;
    }

    /**
     * @param  array<string, array{string, int, string, array<string, mixed>}>  $attributes  type, numbers a vertex, 32-bit floats, and more about them, by name
     * @return array<string, mixed>
     */
    public function primitive(array $attributes, string $indices, int $material): array
    {
        $accessors = [];
        foreach ($attributes as $name => [$type, $width, $bytes, $more]) {
            $accessors[$name] = $this->accessor($bytes, $type, $width, $more);
        }

        return ['attributes' => $accessors, 'indices' => $this->indices($indices), 'material' => $material, 'mode' => 4];
    }

    /**
     * An animation of nodes.
     *
     * @param  list<array{int, string, list<float>, list<float>}>  $channels  node, path (translation, rotation or scale), seconds of the keys, and their numbers
     */
    public function animation(string $name, array $channels): void
    {
        $samplers = $targets = [];
        $times = [];
        foreach ($channels as [$node, $path, $seconds, $numbers]) {
            $bytes = pack('g*', ...$seconds);
            // Pieces with keys at the same times share them.
            $times[$bytes] ??= $this->accessor($bytes, 'SCALAR', 1, ['min' => [self::single($seconds[0])], 'max' => [self::single($seconds[count($seconds) - 1])]], null);
            $width = $path === 'rotation' ? 4 : 3;
            $samplers[] = ['input' => $times[$bytes], 'interpolation' => 'LINEAR', 'output' => $this->accessor(implode('', array_map(static fn (array $some): string => pack('g*', ...$some), array_chunk($numbers, 4000))), "VEC$width", $width, [], null)];
            $targets[] = ['sampler' => count($samplers) - 1, 'target' => ['node' => $node, 'path' => $path]];
        }
        $this->json['animations'][] = ['name' => $name, 'samplers' => $samplers, 'channels' => $targets];
    }

    /** As a 32-bit float holds it. */
    private static function single(float $number): float
    {
        /** @var array{1: float} $read */
        $read = unpack('g', pack('g', $number));

        return $read[1];
    }

    /** @param  array<string, mixed>  $more */
    private function accessor(string $bytes, string $type, int $width, array $more, ?int $target = 34962): int
    {
        $view = $this->view($bytes, $target);
        $this->json['accessors'][] = ['bufferView' => $view, 'componentType' => 5126, 'count' => intdiv(strlen($bytes), 4 * $width), 'type' => $type, ...$more];

        return count($this->json['accessors']) - 1;
    }

    private function indices(string $bytes): int
    {
        $view = $this->view($bytes, 34963);
        $this->json['accessors'][] = ['bufferView' => $view, 'componentType' => 5125, 'count' => intdiv(strlen($bytes), 4), 'type' => 'SCALAR'];

        return count($this->json['accessors']) - 1;
    }

    /** Every view begins at a multiple of four bytes. */
    private function view(string $bytes, ?int $target): int
    {
        $this->json['bufferViews'][] = ['buffer' => 0, 'byteOffset' => $this->length, 'byteLength' => strlen($bytes), ...($target === null ? [] : ['target' => $target])];
        $this->binary[] = $bytes;
        $pad = (4 - strlen($bytes) % 4) % 4;
        if ($pad > 0) {
            $this->binary[] = str_repeat("\0", $pad);
        }
        $this->length += strlen($bytes) + $pad;

        return count($this->json['bufferViews']) - 1;
    }

    /** @return iterable<string> */
    public function file(): iterable
    {
        $this->json['buffers'][] = ['byteLength' => $this->length];
        $text = json_encode($this->json, JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);
        yield 'glTF'.pack('V2', 2, 28 + strlen($text) + $this->length).pack('V', strlen($text)).'JSON'.$text.pack('V', $this->length)."BIN\0";
        yield from $this->binary;
    }
}
