<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Looks;

/**
 * Materials, textures and pictures of a glTF 2.0 description (Khronos Group, glTF 2.0 Specification, and the extensions of materials that it registers).
 *
 * Guarantees: nothing is read but the file and what came with it; pictures are what they say they are, within bounds, and their bytes are kept as they are. What cannot be
 * taken over is left out and named; surfaces that would have had it are without.
 */
final class GltfLooks
{
    /** Extensions that say how a surface looks and do not depend on its vertices: they are passed through. */
    public const EXTENSIONS = [
        'KHR_texture_transform', 'KHR_materials_unlit', 'KHR_materials_clearcoat', 'KHR_materials_ior', 'KHR_materials_sheen', 'KHR_materials_specular', 'KHR_materials_transmission',
        'KHR_materials_volume', 'KHR_materials_emissive_strength', 'KHR_materials_iridescence', 'KHR_materials_anisotropy', 'KHR_materials_dispersion', self::WEBP,
    ];

    public const WEBP = 'EXT_texture_webp';

    private const MOST_MATERIALS = 10_000;

    private const MOST_PICTURES = 256;

    /** Bytes of all pictures together. */
    private const MOST_BYTES = 268_435_456;

    private const DEEPEST = 12;

    /** @var list<string> */
    public array $leftOut = [];

    public Looks $looks;

    private int $bytes = 0;

    /** @param  array<mixed>  $json */
    private function __construct(private readonly array $json, private readonly string $binary, private readonly Companions $files)
    {
        $this->looks = new Looks;
    }

    /**
     * @param  array<mixed>  $json  the description
     * @param  string  $binary  the data in the file
     * @param  Companions|null  $files  that came with it
     */
    public static function of(array $json, string $binary, ?Companions $files = null): self
    {
        $found = new self($json, $binary, $files ?? Companions::none());
        $found->take();

        return $found;
    }

    /**
     * What a file holds besides shapes and looks.
     *
     * @param  array<mixed>  $json
     * @return list<string>
     */
    public static function otherwiseLeftOut(array $json): array
    {
        $words = ['animations' => 'movement', 'skins' => 'bones', 'cameras' => 'cameras'];
        $left = [];
        foreach ($words as $key => $word) {
            if (is_array($json[$key] ?? null) && $json[$key] !== []) {
                $left[] = $word;
            }
        }
        $text = (string) json_encode($json['meshes'] ?? [], JSON_PARTIAL_OUTPUT_ON_ERROR);
        foreach (['"targets"' => 'shapes to blend', '"TANGENT"' => 'tangents', '"COLOR_1"' => 'a second set of colours'] as $key => $word) {
            if (str_contains($text, $key)) {
                $left[] = $word;
            }
        }

        return $left;
    }

    private function take(): void
    {
        $materials = $this->entries('materials');
        if (count($materials) > self::MOST_MATERIALS) {
            $this->leftOut[] = sprintf('materials: %d are more than %d', count($materials), self::MOST_MATERIALS);
            $materials = [];
        }
        $numbers = $textures = $pictures = $known = [];
        foreach ($this->entries('textures') as $n => $texture) {
            $webp = is_array($texture['extensions'] ?? null) ? $texture['extensions'][self::WEBP] ?? null : null;
            $source = is_array($webp) ? $webp['source'] ?? null : $texture['source'] ?? null;
            if (! is_int($source)) {
                continue;
            }
            if (! array_key_exists($source, $known)) {
                $picture = $this->picture($source);
                $known[$source] = $picture === null ? null : count($pictures);
                if ($picture !== null) {
                    $pictures[] = $picture;
                }
            }
            if ($known[$source] !== null) {
                $sampler = is_int($texture['sampler'] ?? null) ? $this->entries('samplers')[$texture['sampler']] ?? null : null;
                $numbers[$n] = count($textures);
                $textures[] = ['picture' => $known[$source], 'sampler' => $sampler === null ? null : array_filter(array_intersect_key($sampler, ['magFilter' => 1, 'minFilter' => 1, 'wrapS' => 1, 'wrapT' => 1]), is_int(...))];
            }
        }
        $list = [];
        foreach ($materials as $n => $material) {
            $list[] = $this->material(is_array($material) ? $material : [], $numbers, $n);
        }
        $this->looks = new Looks($list, $textures, $pictures);
        $this->leftOut = array_values(array_unique($this->leftOut));
    }

    /** @return array<int, array<mixed>> */
    private function entries(string $key): array
    {
        $list = [];
        foreach (is_array($this->json[$key] ?? null) ? array_values($this->json[$key]) : [] as $n => $entry) {
            $list[$n] = is_array($entry) ? $entry : [];
        }

        return $list;
    }

    /**
     * @param  array<mixed>  $material
     * @param  array<int, int>  $numbers  of the textures that are there
     * @return array<mixed>
     */
    private function material(array $material, array $numbers, int $n): array
    {
        $name = is_string($material['name'] ?? null) ? trim((string) preg_replace('/[\x00-\x1f\x7f]+/', ' ', mb_scrub($material['name']))) : '';
        $kept = ['name' => $name === '' ? 'material '.($n + 1) : mb_substr($name, 0, 120)];
        foreach (['pbrMetallicRoughness', 'normalTexture', 'occlusionTexture', 'emissiveTexture', 'emissiveFactor', 'alphaMode', 'alphaCutoff', 'doubleSided'] as $key) {
            if (array_key_exists($key, $material)) {
                $kept[$key] = $material[$key];
            }
        }
        foreach (is_array($material['extensions'] ?? null) ? $material['extensions'] : [] as $extension => $settings) {
            if (in_array($extension, self::EXTENSIONS, true) && is_array($settings)) {
                $kept['extensions'][$extension] = $settings;
            } else {
                $this->leftOut[] = 'the extension '.substr((string) preg_replace('/[^\w]/', '', (string) $extension), 0, 40).' of a material';
            }
        }

        /** @var array<mixed> $kept */
        $kept = self::plain($kept, 0);

        return Looks::withObjects(Looks::renumbered($kept, $numbers));
    }

    /** Numbers, texts and lists of them, not nested without end; extensions inside only when they are known. */
    private static function plain(mixed $value, int $depth): mixed
    {
        if (! is_array($value)) {
            return is_string($value) ? mb_scrub(substr($value, 0, 1000)) : (is_int($value) || is_bool($value) || (is_float($value) && is_finite($value)) ? $value : null);
        }
        $plain = [];
        foreach ($depth < self::DEEPEST ? $value : [] as $key => $part) {
            if ($key === 'extras' || ($key === 'extensions' && ! is_array($part))) {
                continue;
            }
            if ($key === 'extensions' && is_array($part)) {
                $part = array_intersect_key($part, array_flip(self::EXTENSIONS));
                if ($part === []) {
                    continue;
                }
            }
            $plain[is_string($key) ? mb_scrub(substr($key, 0, 100)) : $key] = self::plain($part, $depth + 1);
        }

        return $plain;
    }

    /** @return array{kind: string, bytes: string, name: string}|null null, and named, when it cannot be taken over */
    private function picture(int $n): ?array
    {
        $image = $this->entries('images')[$n] ?? [];
        $name = is_string($image['name'] ?? null) && $image['name'] !== '' ? mb_substr(trim((string) preg_replace('/[^\w .-]+/u', '-', mb_scrub($image['name']))), 0, 80) : 'picture '.($n + 1);
        $bytes = $this->bytesOf($image);
        $why = match (true) {
            $bytes === null => 'it is not in the file',
            $this->bytes + strlen($bytes) > self::MOST_BYTES || $n >= self::MOST_PICTURES => 'there are too many, or they are too large',
            default => Picture::fault($bytes, Picture::LONGEST),
        };
        if ($bytes === null || $why !== null) {
            $this->leftOut[] = "the picture $name: $why";

            return null;
        }
        $this->bytes += strlen($bytes);

        return ['kind' => Picture::kind($bytes), 'bytes' => $bytes, 'name' => $name];
    }

    /** @param  array<mixed>  $image */
    private function bytesOf(array $image): ?string
    {
        if (is_int($image['bufferView'] ?? null)) {
            $view = $this->entries('bufferViews')[$image['bufferView']] ?? [];
            [$at, $length, $buffer] = [$view['byteOffset'] ?? 0, $view['byteLength'] ?? 0, $view['buffer'] ?? null];
            if ($buffer !== 0 || isset($this->entries('buffers')[0]['uri']) || ! is_int($at) || ! is_int($length) || $at < 0 || $length < 1 || $at > strlen($this->binary) - $length) {
                return null;
            }

            return substr($this->binary, $at, $length);
        }
        $uri = $image['uri'] ?? null;
        $bytes = is_string($uri) ? GltfText::data($uri, $this->files, self::MOST_BYTES) : null;

        return $bytes === '' ? null : $bytes;
    }
}
