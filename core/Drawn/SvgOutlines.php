<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use DOMDocument;
use DOMElement;
use Isotome\Exception\UnreadableMesh;
use Svg\Document;

/**
 * Outlines from an SVG file (W3C, "Scalable Vector Graphics 2"), in millimetres, y up, about the middle of all of them: paths, rectangles, circles, ellipses and polygons, each closed, with the
 * transformations around them. Curves become lines that stay within a hundredth of a millimetre of them.
 *
 * Nothing is fetched and no entities are resolved: only shapes, groups and their places are given to the package that reads paths (dompdf/php-svg-lib).
 */
final readonly class SvgOutlines
{
    public const MOST_BYTES = 1_000_000;

    /** Millimetres between a curve and the line for it. */
    private const WITHIN = 0.01;

    /** A unit of less, or of more than the reciprocal, is a mistake. */
    private const LEAST = 1e-9;

    private const MOST_SHAPES = 5000;

    private const MOST_NESTED = 60;

    /** Millimetres of a unit where the file does not say its size: a 96th of an inch (CSS). */
    private const UNIT = 25.4 / 96;

    private const UNITS = ['' => self::UNIT, 'px' => self::UNIT, 'mm' => 1.0, 'cm' => 10.0, 'in' => 25.4, 'pt' => 25.4 / 72, 'pc' => 25.4 / 6];

    private const SHAPES = ['path', 'rect', 'circle', 'ellipse', 'polygon', 'polyline'];

    private const ATTRIBUTES = ['d', 'points', 'x', 'y', 'width', 'height', 'rx', 'ry', 'cx', 'cy', 'r', 'transform'];

    /**
     * @param  list<list<array{float, float}>>  $lines  mm
     * @param  array{float, float}  $size  mm
     */
    private function __construct(public array $lines, public array $size)
    {
    }

    /** @throws UnreadableMesh */
    public static function read(string $bytes): self
    {
        if (strlen($bytes) > self::MOST_BYTES) {
            throw new UnreadableMesh('The drawing has more than '.(self::MOST_BYTES / 1e6).' MB; leave out what is not to be cut.');
        }
        if (stripos($bytes, '<!ENTITY') !== false) {
            throw new UnreadableMesh('The drawing defines entities, which are not read; save it as plain SVG.');
        }
        $document = new DOMDocument;
        $before = libxml_use_internal_errors(true);
        try {
            $isRead = $bytes !== '' && $document->loadXML($bytes, LIBXML_NONET | LIBXML_COMPACT);
        } finally {
            libxml_clear_errors();
            libxml_use_internal_errors($before);
        }
        $root = $isRead ? $document->documentElement : null;
        if ($root === null || strtolower($root->localName ?? '') !== 'svg') {
            throw new UnreadableMesh('The file is no SVG drawing; save it as plain SVG.');
        }
        $left = ['text' => 0, 'use' => 0];
        $shapes = 0;
        $plain = self::plain($root, $left, $shapes, 0);
        $scale = self::scale($root);
        if (! is_finite($scale) || $scale < self::LEAST || $scale > 1 / self::LEAST) {
            throw new UnreadableMesh('The drawing states a size that nothing can have; save it anew with its size in millimetres.');
        }
        $paths = self::flattened("<svg width=\"100\" height=\"100\">$plain</svg>", self::WITHIN / $scale);
        if ($paths === []) {
            throw new UnreadableMesh('The drawing has no closed outlines'.($left['text'] > 0 ? ', only text; turn the letters into paths' : ($left['use'] > 0 ? ', only linked copies; turn them into paths' : '')).'.');
        }
        $all = array_merge(...$paths);
        $us = array_column($all, 0);
        $vs = array_column($all, 1);
        if ($us === [] || $vs === [] || ! is_finite(array_sum($us)) || ! is_finite(array_sum($vs))) {
            throw new UnreadableMesh('The drawing has corners that are no ordinary numbers; save it anew.');
        }
        $count = count($all);
        if ($count > DrawnBlade::MOST_CORNERS) {
            throw new UnreadableMesh("The outlines of the drawing have $count corners; simplify it to at most ".DrawnBlade::MOST_CORNERS.', or take fewer at once.');
        }
        [$u, $v] = [(min($us) + max($us)) / 2, (min($vs) + max($vs)) / 2];
        $lines = array_map(static fn (array $path): array => array_map(static fn (array $p): array => [$scale * ($p[0] - $u), $scale * ($v - $p[1])], $path), $paths);

        return new self($lines, [$scale * (max($us) - min($us)), $scale * (max($vs) - min($vs))]);
    }

    /**
     * Shapes and groups with what says where they are, and nothing else.
     *
     * @param  array{text: int, use: int}  $left  what is left out is counted
     *
     * @throws UnreadableMesh
     */
    private static function plain(DOMElement $element, array &$left, int &$shapes, int $depth): string
    {
        if ($depth > self::MOST_NESTED) {
            throw new UnreadableMesh('The drawing nests groups more than '.self::MOST_NESTED.' deep; ungroup it.');
        }
        $text = '';
        foreach ($element->childNodes as $child) {
            if (! $child instanceof DOMElement || preg_match('/display\s*:\s*none/', $child->getAttribute('style').' display:'.$child->getAttribute('display')) === 1) {
                continue;
            }
            $name = strtolower($child->localName ?? '');
            if ($name === 'text' || $name === 'use') {
                $left[$name]++;
            }
            $isShape = in_array($name, self::SHAPES, true);
            if (! $isShape && $name !== 'g' && $name !== 'a' && $name !== 'switch') {
                continue;
            }
            if ($isShape && ++$shapes > self::MOST_SHAPES) {
                throw new UnreadableMesh('The drawing has more than '.self::MOST_SHAPES.' shapes; take fewer at once.');
            }
            $attributes = '';
            foreach (self::ATTRIBUTES as $attribute) {
                if ($child->hasAttribute($attribute)) {
                    $attributes .= " $attribute=\"".htmlspecialchars($child->getAttribute($attribute), ENT_QUOTES | ENT_XML1).'"';
                }
            }
            $text .= $isShape ? "<$name$attributes/>" : "<g$attributes>".self::plain($child, $left, $shapes, $depth + 1).'</g>';
        }

        return $text;
    }

    /** Millimetres of one unit of the drawing. */
    private static function scale(DOMElement $root): float
    {
        $box = preg_split('/[\s,]+/', trim($root->getAttribute('viewBox'))) ?: [];
        foreach ([['width', 2], ['height', 3]] as [$side, $k]) {
            if (preg_match('/^\s*([0-9.]+(?:e[-+]?\d+)?)\s*([a-z]*)\s*$/i', $root->getAttribute($side), $found) === 1 && isset(self::UNITS[strtolower($found[2])]) && (float) $found[1] > 0.0) {
                $size = (float) $found[1] * self::UNITS[strtolower($found[2])];

                return count($box) === 4 && (float) $box[$k] > 0.0 ? $size / (float) $box[$k] : self::UNITS[strtolower($found[2])];
            }
        }

        return self::UNIT;
    }

    /**
     * @return list<list<array{float, float}>>
     *
     * @throws UnreadableMesh
     */
    private static function flattened(string $svg, float $within): array
    {
        // The package reads files only.
        $file = tmpfile();
        if ($file === false) {
            throw new UnreadableMesh('The drawing cannot be put aside to be read; there is no room.');
        }
        try {
            fwrite($file, $svg);
            $surface = new FlattenedPaths($within);
            $reader = new Document;
            $reader->allowExternalReferences = false;
            $reader->loadFile(stream_get_meta_data($file)['uri'] ?? '');
            // The package reads over what is missing in a path, with a warning, and would draw something else.
            set_error_handler(static fn (int $level, string $what): bool => throw new \ValueError($what));
            try {
                $reader->render($surface);
            } finally {
                restore_error_handler();
            }
            $surface->endPath();
        } catch (\TypeError|\ValueError|\ArithmeticError) {
            throw new UnreadableMesh('The drawing has a path that is not written as SVG is; save it anew as plain SVG.');
        } finally {
            fclose($file);
        }

        return $surface->paths;
    }
}
