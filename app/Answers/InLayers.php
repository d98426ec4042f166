<?php

declare(strict_types=1);

namespace App\Answers;

use App\Models\Printer;
use App\Plates\Layout;
use App\Printing\Troubles;
use Closure;
use Isotome\Exception\BadRecipe;
use Isotome\Plate\SimulatedPrint;

/**
 * What the simulated printer would do with a plate, as a file: how long its header is (32 bits, the lowest first), the header as JSON, and then, layer by layer, each outline as its count of corners and their x and y, all as 32-bit floats.
 * The header says how many outlines each layer has.
 */
final readonly class InLayers extends AboutLayout
{
    /** Layers and corners that a browser can be given. */
    private const MOST_CORNERS = 20_000_000;

    /** @param  Layout  $layout  of one plate */
    public static function of(Layout $layout, Printer $printer, float $margin, float $spacing, bool $isSupported): self
    {
        if (count($layout->plates) !== 1 || $layout->plates[0]['pieces'] === []) {
            throw new BadRecipe('There is nothing on this plate; choose one with pieces.');
        }

        return new self([...self::about($layout, $printer, $margin, $spacing), 'supported' => $isSupported]);
    }

    public function doing(): string
    {
        return 'cutting layers';
    }

    public function isShort(): bool
    {
        return false;
    }

    public function answer(Closure $progress, string $path): string
    {
        $print = SimulatedPrint::of(self::laid($this->content['plates'][0], $this->load()), $this->profile(), $this->content['supported'], static fn (float $share) => $progress(0.05 + 0.9 * $share));
        $header = json_encode([
            'seconds' => $print->seconds(), 'grams' => SimulatedPrint::grams($print->material()), 'layer' => $this->content['profile']['layer'], 'troubles' => array_map(static fn (array $one): array => [...$one, 'said' => Troubles::sentence($one)], $print->troubles),
            'pieces' => array_map(static fn (array $one): array => ['name' => $one['name'], 'seconds' => $one['seconds'], 'grams' => SimulatedPrint::grams($one['mm3']), 'supports_g' => SimulatedPrint::grams($one['supports_mm3']), 'layers' => $one['layers'], 'overhang_mm2' => $one['overhang_mm2'], 'below_mm3' => $one['below_mm3']], $print->pieces),
            'layers' => array_map(static fn (array $layer, array $outlines): array => [...$layer, 'outlines' => count($outlines)], $print->layers, $print->outlines),
        ], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
        $header .= str_repeat(' ', (4 - strlen($header) % 4) % 4);
        $file = fopen($path, 'wb') ?: throw new BadRecipe('The layers could not be kept; check that the data folder has room.');
        try {
            fwrite($file, pack('V', strlen($header)).$header);
            $corners = 0;
            foreach ($print->outlines as $outlines) {
                $bytes = '';
                foreach ($outlines as $outline) {
                    $corners += intdiv(count($outline), 2);
                    $bytes .= pack('g', count($outline) / 2);
                    foreach (array_chunk($outline, 2000) as $some) {
                        $bytes .= pack('g*', ...$some);
                    }
                }
                fwrite($file, $bytes);
                if ($corners > self::MOST_CORNERS) {
                    throw new BadRecipe('These layers are too fine to be shown; give the printer higher ones, or put fewer pieces on the plate.');
                }
            }
        } finally {
            fclose($file);
        }

        return 'plate.layers';
    }

    /**
     * The header of a file as written above.
     *
     * @param  resource  $stream
     * @return array{seconds: float, grams: float, layers: list<array{at: float, area: float, seconds: float, outlines: int}>, troubles: list<array{said: string}>}
     */
    public static function header($stream): array
    {
        $length = unpack('V', (string) stream_get_contents($stream, 4))[1] ?? 0;

        /** @var array{seconds: float, grams: float, layers: list<array{at: float, area: float, seconds: float, outlines: int}>, troubles: list<array{said: string}>} */
        return json_decode((string) stream_get_contents($stream, $length), true, 16, JSON_THROW_ON_ERROR);
    }
}
