<?php

declare(strict_types=1);

namespace Isotome\Cut;

/** A section as a drawing true to scale, millimetres: SVG, or DXF. */
final class SectionDrawing
{
    private const MARGIN = 2.0;

    /** Source: W3C, Scalable Vector Graphics 1.1: one user unit is one millimetre; holes by the even-odd rule. */
    public static function svg(Section $section): string
    {
        [$x0, $x1, $y0, $y1] = self::box($section);
        $width = self::number($x1 - $x0 + 2 * self::MARGIN);
        $height = self::number($y1 - $y0 + 2 * self::MARGIN);
        // Up on the page is down in SVG.
        $closed = implode('', array_map(static fn (array $outline): string => self::path($outline, $x0, $y1).'Z', $section->outlines));
        $open = implode('', array_map(static fn (array $line): string => self::path($line, $x0, $y1), $section->lines));

        return '<?xml version="1.0" encoding="UTF-8"?>'."\n"
            ."<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{$width}mm\" height=\"{$height}mm\" viewBox=\"0 0 $width $height\">\n"
            .($closed === '' ? '' : "<path d=\"$closed\" fill=\"#e8dcc8\" fill-rule=\"evenodd\" stroke=\"#3a3f36\" stroke-width=\"0.2\" stroke-linejoin=\"round\"/>\n")
            .($open === '' ? '' : "<path d=\"$open\" fill=\"none\" stroke=\"#a4452c\" stroke-width=\"0.2\"/>\n")
            ."</svg>\n";
    }

    /** @param  list<array{float, float}>  $points */
    private static function path(array $points, float $left, float $top): string
    {
        return 'M'.implode('L', array_map(
            static fn (array $p): string => self::number($p[0] - $left + self::MARGIN).' '.self::number($top - $p[1] + self::MARGIN), $points,
        ));
    }

    /** Source: DXF Reference, release 12: POLYLINE entities in an ENTITIES section; $INSUNITS 4 is millimetres. */
    public static function dxf(Section $section): string
    {
        $lines = ['0', 'SECTION', '2', 'HEADER', '9', '$ACADVER', '1', 'AC1009', '9', '$INSUNITS', '70', '4', '0', 'ENDSEC', '0', 'SECTION', '2', 'ENTITIES'];
        foreach ([[$section->outlines, 'OUTLINE', 1], [$section->lines, 'OPEN', 0]] as [$ways, $layer, $flag]) {
            foreach ($ways as $way) {
                array_push($lines, '0', 'POLYLINE', '8', $layer, '66', '1', '70', (string) $flag, '10', '0.0', '20', '0.0', '30', '0.0');
                foreach ($way as [$x, $y]) {
                    array_push($lines, '0', 'VERTEX', '8', $layer, '10', self::number($x), '20', self::number($y), '30', '0.0');
                }
                array_push($lines, '0', 'SEQEND', '8', $layer);
            }
        }
        array_push($lines, '0', 'ENDSEC', '0', 'EOF');

        return implode("\r\n", $lines)."\r\n";
    }

    /** @return array{float, float, float, float} */
    private static function box(Section $section): array
    {
        $x = $y = [];
        foreach ([...$section->outlines, ...$section->lines] as $way) {
            foreach ($way as [$px, $py]) {
                $x[] = $px;
                $y[] = $py;
            }
        }

        return $x === [] || $y === [] ? [0.0, 0.0, 0.0, 0.0] : [min($x), max($x), min($y), max($y)];
    }

    private static function number(float $value): string
    {
        $text = rtrim(rtrim(sprintf('%.6F', $value), '0'), '.');

        return $text === '-0' ? '0' : $text;
    }
}
