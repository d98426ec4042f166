<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Looks;

/**
 * Reads libraries of materials that OBJ files name, into materials as glTF has them: colour, opacity, glow, roughness and metal, and pictures of colour, glow and
 * relief as normals. What glTF has no word for is kept for the way out to OBJ again.
 *
 * Sources: "MTL material format", Wavefront Technologies 1995; Pr, Pm and norm are common practice for materials of that kind; roughness from a
 * shininess, the square root of 2 / (Ns + 2), too.
 */
final class MtlReader
{
    public const LARGEST = 16_000_000;

    private const LONGEST_LINE = 4096;

    private const MOST_MATERIALS = 10_000;

    private const MOST_PICTURES = 256;

    /** Bytes of all pictures together. */
    private const MOST_BYTES = 268_435_456;

    /** Numbers that are kept as they are written. */
    public const KEPT = ['Ka', 'Ks', 'Ns', 'Ni', 'Tf', 'illum', 'sharpness', 'Ps', 'Pc', 'Pcr', 'aniso', 'anisor'];

    /** Pictures that are kept as they are named. */
    public const MAPS = ['map_Ka', 'map_Ks', 'map_Ns', 'map_d', 'map_Bump', 'map_bump', 'bump', 'disp', 'decal', 'refl', 'map_Pr', 'map_Pm', 'map_Ps'];

    /** Options of a picture that have a fixed number of words behind them. */
    private const OPTIONS = ['-blendu' => 1, '-blendv' => 1, '-cc' => 1, '-clamp' => 1, '-mm' => 2, '-texres' => 1, '-bm' => 1, '-imfchan' => 1, '-type' => 1];

    /** @var list<array<mixed>> */
    private array $materials = [];

    /** @var array<string, int> */
    private array $numbers = [];

    /** @var list<array{picture: int, sampler: array<mixed>|null}> */
    private array $textures = [];

    /** @var list<array{kind: string, bytes: string, name: string}> */
    private array $pictures = [];

    /** @var array<string, int|null> places of pictures by the names they were asked for by */
    private array $known = [];

    /** @var list<string> */
    private array $leftOut = [];

    private int $bytes = 0;

    private function __construct(private readonly Companions $files)
    {
    }

    /**
     * @param  list<string>  $libraries  names of files
     * @return array{Looks, array<string, int>, list<string>} what there is, the materials' numbers by name, and what could not be taken over
     */
    public static function read(array $libraries, Companions $files): array
    {
        $reader = new self($files);
        foreach (array_unique($libraries) as $name) {
            $text = $files->bytes($name, self::LARGEST);
            if ($text === null) {
                $reader->leftOut[] = 'the materials of '.self::shown($name).': it is not there';

                continue;
            }
            $reader->library($text);
        }

        return [new Looks($reader->materials, $reader->textures, $reader->pictures), $reader->numbers, array_values(array_unique($reader->leftOut))];
    }

    private function library(string $text): void
    {
        /** @var array<string, string> $said statements of the material that is read */
        $said = [];
        $name = null;
        foreach (preg_split('/\r\n|\r|\n/', $text) ?: [] as $line) {
            $line = trim(substr($line, 0, self::LONGEST_LINE));
            if ($line === '' || $line[0] === '#') {
                continue;
            }
            $words = preg_split('/\s+/', $line, 2) ?: [];
            $rest = $words[1] ?? '';
            if (strtolower($words[0]) === 'newmtl') {
                $this->add($name, $said);
                $name = self::name($rest);
                $said = [];
            } else {
                $said[$words[0]] = $rest;
            }
        }
        $this->add($name, $said);
    }

    /** A name of a material as it is kept. */
    public static function name(string $text): string
    {
        return mb_substr(trim((string) preg_replace('/[\x00-\x1f\x7f]+/', ' ', mb_scrub($text))), 0, 120);
    }

    /** @param  array<string, string>  $said */
    private function add(?string $name, array $said): void
    {
        if ($name === null || isset($this->numbers[$name])) {
            return;
        }
        if (count($this->materials) >= self::MOST_MATERIALS) {
            $this->leftOut[] = 'materials beyond '.self::MOST_MATERIALS;

            return;
        }
        $this->numbers[$name] = count($this->materials);
        $picture = isset($said['map_Kd']) ? $this->texture($said['map_Kd']) : null;
        $colour = self::numbers($said['Kd'] ?? '', 3);
        // A black under a picture is an exporter's nothing.
        $colour = $picture !== null && ($colour === null || array_sum($colour) <= 0.0) ? [1.0, 1.0, 1.0] : $colour ?? [0.8, 0.8, 0.8];
        $clear = self::numbers($said['Tr'] ?? '', 1);
        $opaque = self::numbers($said['d'] ?? '', 1)[0] ?? ($clear === null ? 1.0 : 1.0 - $clear[0]);
        $shine = self::numbers($said['Ns'] ?? '', 1)[0] ?? null;
        $material = ['name' => $name, 'pbrMetallicRoughness' => [
            'baseColorFactor' => [...array_map(Colours::linear(...), $colour), max(0.0, min(1.0, $opaque))],
            'metallicFactor' => max(0.0, min(1.0, self::numbers($said['Pm'] ?? '', 1)[0] ?? 0.0)),
            'roughnessFactor' => max(0.0, min(1.0, self::numbers($said['Pr'] ?? '', 1)[0] ?? ($shine === null ? 0.9 : sqrt(2 / (max(0.0, $shine) + 2))))),
        ]];
        if ($picture !== null) {
            $material['pbrMetallicRoughness']['baseColorTexture'] = $picture;
        }
        if ($opaque < 1.0) {
            $material['alphaMode'] = 'BLEND';
        }
        $glow = self::numbers($said['Ke'] ?? '', 3);
        $glowing = isset($said['map_Ke']) ? $this->texture($said['map_Ke']) : null;
        if ($glowing !== null || ($glow !== null && array_sum($glow) > 0.0)) {
            $material['emissiveFactor'] = array_map(Colours::linear(...), $glow ?? [1.0, 1.0, 1.0]);
        }
        if ($glowing !== null) {
            $material['emissiveTexture'] = $glowing;
        }
        $relief = isset($said['norm']) ? $this->texture($said['norm']) : null;
        if ($relief !== null) {
            $material['normalTexture'] = $relief;
        }
        $kept = $this->kept($said);
        if ($kept !== []) {
            $material['extras'] = ['mtl' => $kept];
        }
        $this->materials[] = $material;
    }

    /**
     * @param  array<string, string>  $said
     * @return array<string, mixed>
     */
    private function kept(array $said): array
    {
        $kept = [];
        foreach (self::KEPT as $word) {
            if (isset($said[$word]) && preg_match('/^[-+.\deE ]{1,80}$/D', $said[$word]) === 1) {
                $kept[$word] = $said[$word];
            }
        }
        foreach (self::MAPS as $word) {
            $texture = isset($said[$word]) ? $this->texture($said[$word]) : null;
            if ($texture !== null) {
                // As every texture is called: its number changes with those of the others.
                $kept["$word texture"] = $texture;
            }
        }

        return $kept;
    }

    /** @return list<float>|null */
    private static function numbers(string $text, int $count): ?array
    {
        $numbers = array_map(TextNumber::of(...), array_slice(preg_split('/\s+/', trim($text)) ?: [], 0, $count));
        if ($count === 3 && count($numbers) === 1) {
            // One number stands for all three.
            $numbers = [$numbers[0], $numbers[0], $numbers[0]];
        }

        return count($numbers) === $count && is_finite(array_sum($numbers)) ? $numbers : null;
    }

    /** @return array<string, mixed>|null a texture as a glTF material names it */
    private function texture(string $text): ?array
    {
        $words = preg_split('/\s+/', trim($text)) ?: [];
        $moved = ['-o' => [0.0, 0.0], '-s' => [1.0, 1.0], '-t' => [0.0, 0.0]];
        $isClamped = false;
        for ($w = 0; isset($words[$w]) && str_starts_with($words[$w], '-'); $w++) {
            $option = $words[$w];
            if (isset($moved[$option])) {
                for ($k = 0; $k < 3 && isset($words[$w + 1]) && is_finite(TextNumber::of($words[$w + 1])); $k++) {
                    $w++;
                    if ($k < 2) {
                        $moved[$option][$k] = TextNumber::of($words[$w]);
                    }
                }
            } elseif (isset(self::OPTIONS[$option])) {
                $isClamped = $isClamped || ($option === '-clamp' && strtolower($words[$w + 1] ?? '') === 'on');
                $w += self::OPTIONS[$option];
            } else {
                break;
            }
        }
        $picture = $this->picture(implode(' ', array_slice($words, $w)));
        if ($picture === null) {
            return null;
        }
        $sampler = $isClamped ? ['wrapS' => 33071, 'wrapT' => 33071] : null;
        $number = array_search(['picture' => $picture, 'sampler' => $sampler], $this->textures, true);
        if ($number === false) {
            $number = count($this->textures);
            $this->textures[] = ['picture' => $picture, 'sampler' => $sampler];
        }
        $texture = ['index' => $number];
        if ($moved['-o'] !== [0.0, 0.0] || $moved['-s'] !== [1.0, 1.0]) {
            [[$ox, $oy], [$sx, $sy]] = [$moved['-o'], $moved['-s']];
            // Coordinates count upwards there and downwards here.
            $texture['extensions'] = ['KHR_texture_transform' => ['offset' => [$ox, 1.0 - $sy - $oy], 'scale' => [$sx, $sy]]];
        }

        return $texture;
    }

    private function picture(string $name): ?int
    {
        if (array_key_exists($name, $this->known)) {
            return $this->known[$name];
        }
        $this->known[$name] = null;
        $bytes = $name === '' ? null : $this->files->bytes($name, self::MOST_BYTES);
        $why = match (true) {
            $bytes === null => 'it is not there',
            $this->bytes + strlen($bytes) > self::MOST_BYTES || count($this->pictures) >= self::MOST_PICTURES => 'there are too many, or they are too large',
            default => Picture::fault($bytes, Picture::LONGEST),
        };
        if ($bytes === null || $why !== null) {
            $this->leftOut[] = 'the picture '.self::shown($name).": $why";

            return null;
        }
        $this->bytes += strlen($bytes);
        $this->pictures[] = ['kind' => Picture::kind($bytes), 'bytes' => $bytes, 'name' => self::shown(pathinfo(str_replace('\\', '/', $name), PATHINFO_FILENAME))];

        return $this->known[$name] = count($this->pictures) - 1;
    }

    /** The name of a file without its path, as it may be shown. */
    private static function shown(string $name): string
    {
        $shown = mb_substr(trim((string) preg_replace('/[^\w .-]+/u', '-', mb_scrub(basename(str_replace('\\', '/', $name))))), 0, 80);

        return $shown === '' ? 'without a name' : $shown;
    }
}
