<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\BadCommand;
use Isotome\Mesh\Looks;

/** How inside faces look in files that hold materials: a colour, or a picture that runs through the body, so many millimetres wide. */
final readonly class InsideLook
{
    public const SMALLEST = 0.1;

    public const LARGEST = 100_000.0;

    /** Bytes. */
    public const LARGEST_PICTURE = 33_554_432;

    /**
     * @param  string|null  $colour  #rrggbb; a lighter one of the piece's own when null
     * @param  array{kind: string, bytes: string, name: string}|null  $picture  laid over the colour's place
     * @param  float  $width  mm that the picture takes across, before it begins again
     * @param  float  $turn  degrees, counter-clockwise on the face as it is seen
     */
    private function __construct(public ?string $colour, public ?array $picture, public float $width, public float $turn)
    {
    }

    /** A lighter colour of each piece's own. */
    public static function plain(): self
    {
        return new self(null, null, 1.0, 0.0);
    }

    /** @throws BadCommand when it is none */
    public static function colour(string $colour): self
    {
        if (preg_match('/^#[0-9a-fA-F]{6}$/D', $colour) !== 1) {
            throw new BadCommand('The colour of the inside is "'.mb_strimwidth($colour, 0, 20, '…').'"; write it as #rrggbb, such as #c9b79c.');
        }

        return new self(strtolower($colour), null, 1.0, 0.0);
    }

    /**
     * @param  string  $bytes  of a PNG, JPEG or WebP
     *
     * @throws BadCommand when it cannot be used
     */
    public static function picture(string $bytes, string $name, float $width = 50.0, float $turn = 0.0): self
    {
        $fault = strlen($bytes) > self::LARGEST_PICTURE ? 'it is larger than '.intdiv(self::LARGEST_PICTURE, 1 << 20).' MB' : Picture::fault($bytes, Picture::LONGEST);
        if ($fault !== null) {
            throw new BadCommand("The picture $name cannot be used: $fault; choose another one.");
        }
        if (! ($width >= self::SMALLEST && $width <= self::LARGEST) || ! is_finite($turn)) {
            throw new BadCommand('The width of a picture is '.self::SMALLEST.' to '.number_format(self::LARGEST).' mm; give another one.');
        }

        return new self(null, ['kind' => Picture::kind($bytes), 'bytes' => $bytes, 'name' => $name], $width, fmod($turn, 360.0));
    }

    /** Its picture as a material of glTF; nothing without one. */
    public function looks(): Looks
    {
        if ($this->picture === null) {
            return new Looks;
        }
        $surface = ['baseColorTexture' => ['index' => 0], 'metallicFactor' => 0, 'roughnessFactor' => 0.9];

        return new Looks([['name' => 'inside', 'doubleSided' => false, 'pbrMetallicRoughness' => $surface]], [['picture' => 0, 'sampler' => null]], [$this->picture]);
    }

    /**
     * Millimetres to coordinates of the picture, across and down: its pixels keep their form. Without a picture they stay millimetres.
     *
     * @return array{float, float}
     */
    public function scales(): array
    {
        return $this->picture === null ? [1.0, 1.0] : self::scalesOf($this->width, $this->pixels());
    }

    /**
     * @param  list<int>  $pixels  wide and high
     * @return array{float, float}
     */
    public static function scalesOf(float $width, array $pixels): array
    {
        return [1 / $width, max(1, $pixels[0] ?? 1) / max(1, $pixels[1] ?? 1) / $width];
    }

    /** @return list<int> wide and high */
    public function pixels(): array
    {
        $size = $this->picture === null ? false : @getimagesizefromstring($this->picture['bytes']);

        return $size === false ? [1, 1] : [$size[0], $size[1]];
    }
}
