<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\BadCommand;
use Isotome\Mesh\Looks;
use Isotome\Mesh\OwnPictures;
use Isotome\Mesh\Skin;

/**
 * Another look for a material that came with a mesh: one colour, or a picture on the coordinates that its faces have. All else that the material says
 * (how rough it is, its relief, whether both sides are seen) stays.
 *
 * Guarantees: places, coordinates and other materials are untouched; pictures that nothing uses any more go; meshes with the same looks have the same ones afterwards.
 */
final class Paint
{
    /** Bytes of a picture of one's own: it travels within the recipe. */
    public const LARGEST = 600_000;

    /** Characters of it as text: four for three bytes, and what is written before them. */
    public const LARGEST_TEXT = 800_040;

    /** @var array<int, array{Looks, Looks}> what became of looks, by object */
    private array $done = [];

    /**
     * @param  array{float, float, float}|null  $colour  linear
     * @param  array{kind: string, bytes: string, name: string}|null  $picture
     */
    private function __construct(private readonly ?array $colour, private readonly ?array $picture, private readonly float $times)
    {
    }

    /**
     * @param  string  $colour  #rrggbb
     *
     * @throws BadCommand when it is none
     */
    public static function colour(string $colour): self
    {
        if (preg_match('/^#([0-9a-fA-F]{2})([0-9a-fA-F]{2})([0-9a-fA-F]{2})$/D', $colour, $parts) !== 1) {
            throw new BadCommand('The colour is "'.mb_strimwidth($colour, 0, 20, '…').'"; write it as #rrggbb, such as #c9b79c.');
        }
        $linear = static fn (string $part): float => Colours::linear((float) hexdec($part) / 255);

        return new self([$linear($parts[1]), $linear($parts[2]), $linear($parts[3])], null, 1.0);
    }

    /**
     * @param  string  $picture  the name of one that is there (see Stuff), or data:image/png;base64,… (RFC 2397) of a PNG, JPEG or WebP
     * @param  float  $times  how often it lies side by side where the coordinates go from 0 to 1
     *
     * @throws BadCommand when it cannot be used
     */
    public static function picture(string $picture, float $times): self
    {
        if (isset(Stuff::WIDTHS[$picture])) {
            return new self(null, ['kind' => 'image/png', 'bytes' => Stuff::png($picture), 'name' => $picture], $times);
        }
        $given = preg_match('~^data:image/(?:png|jpeg|webp);base64,~D', $picture, $start) === 1 ? base64_decode(substr($picture, strlen($start[0])), true) : false;
        if ($given === false) {
            throw new BadCommand('The picture is none of '.implode(', ', array_keys(Stuff::WIDTHS)).', and no data:image/png;base64,… either; give one of these.');
        }
        $fault = strlen($given) > self::LARGEST ? 'it is larger than '.intdiv(self::LARGEST, 1000).' KB' : Picture::fault($given, Picture::LONGEST);
        if ($fault !== null) {
            throw new BadCommand("The picture cannot be used: $fault; choose another one.");
        }

        return new self(null, ['kind' => Picture::kind($given), 'bytes' => $given, 'name' => 'own picture'], $times);
    }

    /**
     * @param  string  $name  of materials; all that are called so
     * @return Skin|null null when no face has such a material
     *
     * @throws BadCommand when a picture has no coordinates to lie on
     */
    public function on(Skin $skin, string $name): ?Skin
    {
        $numbers = [];
        foreach (array_keys($skin->looks->materials) as $n) {
            if ($skin->looks->name($n) === $name && self::isUsed($skin->materials, $n)) {
                $numbers[] = $n;
            }
        }
        if ($numbers === []) {
            return null;
        }
        foreach ($this->picture === null ? [] : $numbers as $n) {
            if (! self::hasPlaces($skin, $n)) {
                throw new BadCommand("$name has no texture coordinates, so a picture has nowhere to lie; give it a colour.");
            }
        }
        [, $looks] = $this->done[spl_object_id($skin->looks)] ??= [$skin->looks, $this->looks($skin->looks, $name)];

        return new Skin($looks, $skin->materials, $skin->layers);
    }

    /** Are there coordinates that a picture can lie on? */
    public static function hasPlaces(Skin $skin, int $material): bool
    {
        return isset($skin->layers[self::layer($skin->looks, $material)]);
    }

    private function looks(Looks $looks, string $name): Looks
    {
        $materials = $looks->materials;
        $textures = $looks->textures;
        $pictures = $looks->pictures;
        $texture = null;
        if ($this->picture !== null) {
            $texture = count($textures);
            $textures[] = ['picture' => count($pictures), 'sampler' => null];
            $pictures[] = $this->picture;
        }
        foreach ($materials as $n => $material) {
            if ($looks->name($n) !== $name) {
                continue;
            }
            $surface = is_array($material['pbrMetallicRoughness'] ?? null) ? $material['pbrMetallicRoughness'] : [];
            unset($surface['baseColorTexture']);
            $surface['baseColorFactor'] = [...($this->colour ?? [1.0, 1.0, 1.0]), $looks->colour($n)[3]];
            if ($texture !== null) {
                $set = (int) substr(self::layer($looks, $n), strlen(Skin::TEXTURE));
                $surface['baseColorTexture'] = [
                    'index' => $texture, ...($set > 0 ? ['texCoord' => $set] : []),
                    ...($this->times === 1.0 ? [] : ['extensions' => ['KHR_texture_transform' => ['scale' => [$this->times, $this->times]]]]),
                ];
            }
            $materials[$n]['pbrMetallicRoughness'] = $surface;
        }

        return (new Looks($materials, $textures, $pictures))->only(array_keys($materials));
    }

    /** The coordinates that a picture on a material lies on: those of its colour until now, else the first. */
    private static function layer(Looks $looks, int $material): string
    {
        $used = $looks->painted($material);

        return $used === [] ? Skin::TEXTURE.'0' : OwnPictures::placed($used)[0];
    }

    /** Has a face this material? */
    private static function isUsed(string $materials, int $number): bool
    {
        $bytes = pack('V', $number + 1);
        for ($at = strpos($materials, $bytes); $at !== false; $at = strpos($materials, $bytes, $at + 1)) {
            if ($at % 4 === 0) {
                return true;
            }
        }

        return false;
    }
}
