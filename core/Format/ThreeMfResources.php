<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\OwnPictures;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;

/**
 * What pieces carry as resources of a 3MF model, and which property each of their triangles bears: a texture where its material has a picture, else the colours at its
 * corners, else its base material. Pictures that 3MF does not know (WebP) are left out, and so is whatever a surface has besides its colour.
 * Sources: see ThreeMfLooks.
 */
final class ThreeMfResources
{
    private const WRAPS = [33071 => 'clamp', 33648 => 'mirror'];

    /** @var array<string, string> bytes of the pictures by their paths in the archive */
    public array $pictures = [];

    private int $next;

    /** @var list<array{int, array<int, int>}> of each piece its group of base materials, and the place in it of each material that it uses */
    private array $bases = [];

    /** @var array<string, int> resources of textures by what they are */
    private array $textures = [];

    /** @var array<int, array{string, string, array<int>}> path, kind and sampler of each texture */
    private array $described = [];

    /** @param  array<string, array{mesh: Mesh, colour: string}>  $pieces  by name */
    public function __construct(private readonly array $pieces)
    {
        $this->next = 1;
    }

    /** Does any piece carry a look? */
    public function areNeeded(): bool
    {
        foreach ($this->pieces as ['mesh' => $mesh]) {
            if ($mesh->skin !== null && (isset($mesh->skin->layers[Skin::COLOUR]) || trim($mesh->skin->materials, "\0") !== '')) {
                return true;
            }
        }

        return false;
    }

    /**
     * What 3MF cannot say of these, as a person would name it.
     *
     * @return list<string>
     */
    public static function losesOf(Skin $skin): array
    {
        $lost = $painted = [];
        foreach ($skin->looks->materials as $n => $material) {
            $surface = is_array($material['pbrMetallicRoughness'] ?? null) ? $material['pbrMetallicRoughness'] : [];
            if (isset($surface['metallicRoughnessTexture']) || isset($material['occlusionTexture']) || isset($material['normalTexture']) || isset($material['emissiveTexture'])) {
                $lost['pictures other than of colour'] = true;
            }
            $painted[$n + 1] = $skin->looks->painted($n) !== [];
        }
        if (isset($skin->layers[Skin::TEXTURE.'0']) && array_filter($painted) === []) {
            $lost['texture coordinates without a picture'] = true;
        }
        $colours = $skin->layers[Skin::COLOUR] ?? null;
        if ($colours !== null && array_filter($painted) !== []) {
            $white = Layer::blank(Skin::COLOUR, $colours->width);
            foreach (Packing::ofLongs($skin->materials) as $t => $material) {
                if (($painted[$material] ?? false) && substr_compare($colours->bytes, $white, $colours->stride() * $t, $colours->stride()) !== 0) {
                    $lost['colours under pictures'] = true;
                    break;
                }
            }
        }
        foreach ($skin->looks->pictures as $picture) {
            if ($picture['kind'] === 'image/webp') {
                $lost['WebP pictures'] = true;
            }
        }

        return array_keys($lost);
    }

    public function next(): int
    {
        return $this->next++;
    }

    /** @return iterable<string> base materials of every piece: skin and inside first, then its own */
    public function bases(): iterable
    {
        foreach ($this->pieces as ['mesh' => $mesh, 'colour' => $colour]) {
            $id = $this->next();
            $at = [];
            $text = "<basematerials id=\"$id\"><base name=\"skin\" displaycolor=\"".strtoupper($colour).'"/><base name="inside" displaycolor="#E8DCC8"/>';
            $looks = $mesh->skin->looks ?? new Looks;
            foreach (self::usedBy($mesh) as $n => $material) {
                $at[$material] = 2 + $n;
                $text .= '<base name="'.htmlspecialchars($looks->name($material), ENT_XML1 | ENT_QUOTES | ENT_SUBSTITUTE).'" displaycolor="'.self::written($looks->colour($material)).'"/>';
            }
            $this->bases[] = [$id, $at];
            yield "$text</basematerials>\n";
        }
    }

    public function baseOf(int $piece): int
    {
        return $this->bases[$piece][0];
    }

    /**
     * The groups that a piece's triangles refer to.
     *
     * @return \Generator<int, string, mixed, array<int, string>> and of each triangle its attributes
     */
    public function of(int $piece, Mesh $mesh): \Generator
    {
        [$base, $at] = $this->bases[$piece];
        $skin = $mesh->skin;
        $bearing = [];
        $places = $colours = $numbers = $texts = [];
        $colourGroup = 0;
        foreach ($mesh->tags as $t => $tag) {
            $material = $tag > 0 || $skin === null ? -1 : $skin->materialOf($t);
            $bearing[] = $tag > 0 ? " pid=\"$base\" p1=\"1\"" : ($material >= 0 ? " pid=\"$base\" p1=\"".($at[$material] ?? 0).'"' : '');
            if ($tag > 0 || $skin === null) {
                continue;
            }
            $texture = $material < 0 ? null : $this->textureOf($skin->looks, $material);
            [$name, $map] = $texture === null ? [Skin::COLOUR, null] : OwnPictures::placed($skin->looks->painted($material));
            $layer = $skin->layers[$name] ?? null;
            if ($layer === null) {
                continue;
            }
            $width = $texture === null ? 4 : 2;
            $values = $layer->at($t);
            // White is no colour of its own: then the material says it, by its name as well.
            if ($texture === null && $material >= 0 && array_filter($values, static fn (float $part): bool => $part !== 1.0) === []) {
                continue;
            }
            $factor = $texture === null && $material >= 0 ? $skin->looks->colour($material) : [1.0, 1.0, 1.0, 1.0];
            if ($texture === null) {
                $group = $colourGroup = $colourGroup > 0 ? $colourGroup : $this->next();
            } else {
                $group = $places[$texture] ??= $this->next();
            }
            $p = '';
            for ($k = 0; $k < 3; $k++) {
                $own = array_slice($values, $width * $k, $width);
                if ($map !== null) {
                    $own = [$map[0] * $own[0] + $map[1] * $own[1] + $map[4], $map[2] * $own[0] + $map[3] * $own[1] + $map[5]];
                }
                $text = $texture === null
                    ? '<m:color color="'.self::written([$own[0] * $factor[0], $own[1] * $factor[1], $own[2] * $factor[2], $own[3] * $factor[3]]).'"/>'
                    : '<m:tex2coord u="'.TextNumber::single($own[0]).'" v="'.TextNumber::single(1.0 - $own[1]).'"/>';
                if (! isset($numbers[$group][$text])) {
                    $numbers[$group][$text] = count($numbers[$group] ?? []);
                    $texts[$group][] = $text;
                }
                $p .= ' p'.($k + 1)."=\"{$numbers[$group][$text]}\"";
            }
            $bearing[$t] = " pid=\"$group\"$p";
        }
        unset($numbers);
        foreach ($texts as $group => $list) {
            $texture = array_search($group, $places, true);
            yield $texture === false ? "<m:colorgroup id=\"$group\">\n" : "<m:texture2dgroup id=\"$group\" texid=\"$texture\">\n";
            foreach (array_chunk($list, 4096) as $some) {
                yield implode("\n", $some)."\n";
            }
            yield $texture === false ? "</m:colorgroup>\n" : "</m:texture2dgroup>\n";
        }

        return $bearing;
    }

    /** @return iterable<string> the textures of all pieces */
    public function textures(): iterable
    {
        foreach ($this->pieces as ['mesh' => $mesh]) {
            foreach (self::usedBy($mesh) as $material) {
                $known = count($this->textures);
                $id = $this->textureOf($mesh->skin->looks ?? new Looks, $material);
                if ($id !== null && count($this->textures) > $known) {
                    [$path, $kind, $sampler] = $this->described[$id];
                    $tile = static fn (string $key): string => self::WRAPS[$sampler[$key] ?? 0] ?? 'wrap';
                    yield "<m:texture2d id=\"$id\" path=\"$path\" contenttype=\"$kind\" tilestyleu=\"".$tile('wrapS').'" tilestylev="'.$tile('wrapT').'"'.(($sampler['magFilter'] ?? 0) === 9728 ? ' filter="nearest"' : '')."/>\n";
                }
            }
        }
    }

    /** @return int|null the resource of a material's picture, given a number at the first use */
    private function textureOf(Looks $looks, int $material): ?int
    {
        $used = $looks->painted($material);
        $texture = is_int($used['index'] ?? null) ? $looks->textures[$used['index']] ?? null : null;
        $picture = $texture === null ? null : $looks->pictures[$texture['picture']] ?? null;
        if ($texture === null || $picture === null || ! in_array($picture['kind'], ['image/png', 'image/jpeg'], true)) {
            return null;
        }
        $path = '/3D/Textures/'.rawurlencode(MtlWriter::file($picture));
        $this->pictures[$path] = $picture['bytes'];

        $described = [$path, $picture['kind'], array_filter($texture['sampler'] ?? [], is_int(...))];
        $id = $this->textures[serialize($described)] ??= $this->next();
        $this->described[$id] = $described;

        return $id;
    }

    /** @return list<int> materials that its triangles have */
    private static function usedBy(Mesh $mesh): array
    {
        $used = [];
        foreach ($mesh->skin === null ? [] : Packing::ofLongs($mesh->skin->materials) as $material) {
            $used[$material] = true;
        }
        unset($used[0]);

        return array_map(static fn (int $material): int => $material - 1, array_keys($used));
    }

    /** @param  array{float, float, float, float}  $colour  linear */
    private static function written(array $colour): string
    {
        $byte = static fn (float $part): int => (int) round(255 * max(0.0, min(1.0, $part)));
        $alpha = $byte($colour[3]);

        return sprintf('#%02X%02X%02X', $byte(Colours::written($colour[0])), $byte(Colours::written($colour[1])), $byte(Colours::written($colour[2]))).($alpha < 255 ? sprintf('%02X', $alpha) : '');
    }
}
