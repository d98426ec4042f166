<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Looks;
use Isotome\Mesh\Skin;
use ZipArchive;

/**
 * Base materials, colour groups and textures of a 3MF model as they are read, and what they say of triangles.
 * Sources: 3MF Core Specification 1.3; 3MF Materials and Properties Extension 1.2 (3MF Consortium): colours are sRGB, texture coordinates count upwards.
 */
final class ThreeMfLooks
{
    public const MATERIALS = 'http://schemas.microsoft.com/3dmanufacturing/material/2015/02';

    /** Bytes of what a triangle bears. */
    public const PACKED = 16;

    /** Entries of all groups together, materials, pictures, and bytes of a picture. */
    private const MOST = 20_000_000;

    private const MOST_MATERIALS = 10_000;

    private const MOST_PICTURES = 256;

    private const LARGEST_PICTURE = 268_435_456;

    private const WRAPS = ['wrap' => 10497, 'mirror' => 33648, 'clamp' => 33071, 'none' => 33071];

    public Looks $looks;

    /** Is it a file of our own, whose base materials skin and inside say nothing of the piece? */
    public bool $isOurs = false;

    /** @var list<string> */
    public array $leftOut = [];

    /** @var array<string, list<int>> materials of each group of base materials; −1 for none */
    private array $bases = [];

    /** @var array<string, array{int, int}> of each colour group where its colours begin, and how many it has */
    private array $colourGroups = [];

    /** @var array<string, array{int, int, string}> of each texture group where its places begin, how many it has, and its texture */
    private array $textureGroups = [];

    /** @var array<string, array{string, string, string, string}> path, how it goes on across and down, filter */
    private array $textures = [];

    /** @var array<string, int> the material of each texture that can be used */
    private array $textured = [];

    /** @var array<string, int> of groups that triangles bear, counted from 1 */
    private array $numbers = [];

    /** @var list<array<mixed>> */
    private array $materials = [];

    /** @var list<float> linear red, green, blue and alpha */
    private array $colours = [];

    /** @var list<float> across and down */
    private array $places = [];

    public function __construct()
    {
        $this->looks = new Looks;
    }

    public function base(string $group, string $name, string $colour): void
    {
        $plain = strcasecmp($name, 'inside') === 0 || ($this->isOurs && $name === 'skin');
        if ($plain || count($this->materials) >= self::MOST_MATERIALS) {
            $this->bases[$group][] = -1;

            return;
        }
        $factor = self::parsed($colour) ?? [1.0, 1.0, 1.0, 1.0];
        $this->bases[$group][] = count($this->materials);
        $this->materials[] = ['name' => MtlReader::name($name) ?: 'material '.(count($this->materials) + 1), 'pbrMetallicRoughness' => ['baseColorFactor' => $factor, 'metallicFactor' => 0.0, 'roughnessFactor' => 0.9]]
            + ($factor[3] < 1.0 ? ['alphaMode' => 'BLEND'] : []);
    }

    /** @param  string|null  $texture  of a texture group; null for a colour group */
    public function group(string $id, ?string $texture): void
    {
        if ($texture === null) {
            $this->colourGroups[$id] ??= [intdiv(count($this->colours), 4), 0];
        } else {
            $this->textureGroups[$id] ??= [intdiv(count($this->places), 2), 0, $texture];
        }
    }

    public function colour(string $group, string $colour): void
    {
        if (isset($this->colourGroups[$group]) && count($this->colours) < self::MOST) {
            array_push($this->colours, ...self::parsed($colour) ?? [1.0, 1.0, 1.0, 1.0]);
            $this->colourGroups[$group][1]++;
        }
    }

    public function place(string $group, string $u, string $v): void
    {
        if (isset($this->textureGroups[$group]) && count($this->places) < self::MOST) {
            [$u, $v] = [TextNumber::of($u), TextNumber::of($v)];
            $isUsable = is_finite($u) && is_finite($v);
            array_push($this->places, $isUsable ? $u : 0.0, $isUsable ? 1.0 - $v : 0.0);
            $this->textureGroups[$group][1]++;
        }
    }

    public function texture(string $id, string $path, string $across, string $down, string $filter): void
    {
        $this->textures[$id] ??= [$path, $across, $down, $filter];
    }

    /** Takes the pictures out of the archive. */
    public function finish(ZipArchive $zip): void
    {
        $pictures = $textures = $known = [];
        foreach (array_unique(array_column($this->textureGroups, 2)) as $id) {
            [$path, $across, $down, $filter] = $this->textures[$id] ?? ['', '', '', ''];
            $name = mb_substr((string) preg_replace('/[^\w .-]+/u', '-', mb_scrub(basename($path))), 0, 80);
            if (! array_key_exists($path, $known)) {
                $stat = $path === '' || str_contains($path, '..') ? false : $zip->statName(ltrim($path, '/'));
                $bytes = $stat === false ? null : Archive::bytes($zip, $stat['index'], self::LARGEST_PICTURE);
                $why = $bytes === null ? 'it is not there' : (count($pictures) >= self::MOST_PICTURES ? 'there are too many' : Picture::fault($bytes, Picture::LONGEST));
                $known[$path] = $why === null ? count($pictures) : null;
                if ($bytes === null || $why !== null) {
                    $this->leftOut[] = 'the picture '.($name === '' ? 'without a name' : $name).": $why";
                } else {
                    $pictures[] = ['kind' => Picture::kind($bytes), 'bytes' => $bytes, 'name' => pathinfo($name, PATHINFO_FILENAME)];
                }
            }
            if ($known[$path] === null) {
                continue;
            }
            $sampler = ['wrapS' => self::WRAPS[$across] ?? 10497, 'wrapT' => self::WRAPS[$down] ?? 10497] + ($filter === 'nearest' ? ['magFilter' => 9728] : []);
            $this->textured[$id] = count($this->materials);
            $this->materials[] = ['name' => pathinfo($name, PATHINFO_FILENAME), 'pbrMetallicRoughness' => ['baseColorTexture' => ['index' => count($textures)], 'metallicFactor' => 0.0, 'roughnessFactor' => 0.9]];
            $textures[] = ['picture' => $known[$path], 'sampler' => $sampler];
        }
        $this->looks = new Looks($this->materials, $textures, $pictures);
        $this->leftOut = array_values(array_unique($this->leftOut));
    }

    /**
     * What a triangle bears, to be kept.
     *
     * @return string nothing when that is no look: see isOurs
     */
    public function packed(string $group, int $a, int $b, int $c): string
    {
        if (! isset($this->colourGroups[$group]) && ! isset($this->textureGroups[$group]) && ($this->bases[$group][$a] ?? -1) < 0) {
            return '';
        }
        $this->numbers[$group] ??= count($this->numbers) + 1;

        return pack('V4', $this->numbers[$group], $a, $b, $c);
    }

    /**
     * @param  string  $bearing  of triangles one after the other, see packed(); those that bear nothing may be missing at the end
     * @param  bool  $isMirrored  then the second and the third corner of each have changed places
     * @return array{list<int>, array<string, array{int, list<float>, list<int>}>} materials and attributes, see SkinBuilder::add
     */
    public function of(string $bearing, int $triangles, bool $isMirrored): array
    {
        $materials = $colourAt = $placeAt = [];
        $groups = array_flip($this->numbers);
        for ($t = 0; $t < $triangles; $t++) {
            /** @var array{1: int, 2: int, 3: int, 4: int} $one */
            $one = self::PACKED * $t < strlen($bearing) ? unpack('V4', $bearing, self::PACKED * $t) : [1 => 0, 2 => 0, 3 => 0, 4 => 0];
            $group = (string) ($groups[$one[1]] ?? '');
            $texture = $this->textureGroups[$group] ?? null;
            $colours = $this->colourGroups[$group] ?? null;
            $materials[] = $texture !== null ? $this->textured[$texture[2]] ?? -1 : $this->bases[$group][$one[2]] ?? -1;
            foreach ($isMirrored ? [$one[2], $one[4], $one[3]] : [$one[2], $one[3], $one[4]] as $at) {
                $colourAt[] = $colours !== null && $at < $colours[1] ? $colours[0] + $at : -1;
                $placeAt[] = $texture !== null && $at < $texture[1] ? $texture[0] + $at : -1;
            }
        }
        $attributes = [];
        if ($colourAt !== [] && max($colourAt) >= 0) {
            $attributes[Skin::COLOUR] = [4, $this->colours, $colourAt];
        }
        if ($placeAt !== [] && max($placeAt) >= 0) {
            $attributes[Skin::TEXTURE.'0'] = [2, $this->places, $placeAt];
        }

        return [$materials, $attributes];
    }

    /** @return list<float>|null linear, from #rrggbb or #rrggbbaa */
    private static function parsed(string $colour): ?array
    {
        if (preg_match('/^#([0-9a-f]{6})([0-9a-f]{2})?$/i', trim($colour), $match) !== 1) {
            return null;
        }
        $parts = array_map(static fn (string $part): float => Colours::linear((int) hexdec($part) / 255), str_split($match[1], 2));

        return [...$parts, isset($match[2]) ? (int) hexdec($match[2]) / 255 : 1.0];
    }
}
