<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Svg\Style;
use Svg\Surface\SurfaceInterface;

/**
 * What the package dompdf/php-svg-lib draws on: keeps the paths as lines, in the drawing's own units, each curve as so many pieces that it stays within a distance of them. Fills, strokes, texts and
 * pictures are left out.
 *
 * The number of pieces: a chord departs from a curve by at most an eighth of its second derivative / n², and that of a cubic is at most six times its largest second difference.
 */
final class FlattenedPaths implements SurfaceInterface
{
    private const MOST_PIECES = 200;

    /** @var list<list<array{float, float}>> */
    public array $paths = [];

    /** @var list<array{float, float}> */
    private array $path = [];

    /** @var array{float, float, float, float, float, float} a, b, c, d, e, f: x' = a x + c y + e, y' = b x + d y + f */
    private array $at = [1.0, 0.0, 0.0, 1.0, 0.0, 0.0];

    /** @var list<array{float, float, float, float, float, float}> */
    private array $kept = [];

    /** @var array{float, float} before the transformation */
    private array $last = [0.0, 0.0];

    private ?Style $style = null;

    public function __construct(private readonly float $within)
    {
    }

    public function save(): void
    {
        $this->kept[] = $this->at;
    }

    public function restore(): void
    {
        $this->at = array_pop($this->kept) ?? $this->at;
    }

    public function scale(mixed $x, mixed $y): void
    {
        $this->transform(self::number($x), 0.0, 0.0, self::number($y), 0.0, 0.0);
    }

    public function rotate(mixed $angle): void
    {
        [$c, $s] = [cos(deg2rad(self::number($angle))), sin(deg2rad(self::number($angle)))];
        $this->transform($c, $s, -$s, $c, 0.0, 0.0);
    }

    public function translate(mixed $x, mixed $y): void
    {
        $this->transform(1.0, 0.0, 0.0, 1.0, self::number($x), self::number($y));
    }

    public function transform(mixed $a, mixed $b, mixed $c, mixed $d, mixed $e, mixed $f): void
    {
        [$a, $b, $c, $d, $e, $f] = [self::number($a), self::number($b), self::number($c), self::number($d), self::number($e), self::number($f)];
        [$p, $q, $r, $s, $t, $u] = $this->at;
        $this->at = [$p * $a + $r * $b, $q * $a + $s * $b, $p * $c + $r * $d, $q * $c + $s * $d, $p * $e + $r * $f + $t, $q * $e + $s * $f + $u];
    }

    public function beginPath(): void
    {
        $this->endPath();
    }

    public function closePath(): void
    {
        $this->endPath();
    }

    public function endPath(): void
    {
        if (count($this->path) > 2) {
            $this->paths[] = $this->path;
        }
        $this->path = [];
    }

    public function fill(): void
    {
        $this->endPath();
    }

    public function stroke(bool $close = false): void
    {
        $this->endPath();
    }

    public function fillStroke(bool $close = false): void
    {
        $this->endPath();
    }

    public function clip(): void
    {
        $this->endPath();
    }

    public function moveTo(mixed $x, mixed $y): void
    {
        $this->endPath();
        $this->to(self::number($x), self::number($y));
    }

    public function lineTo(mixed $x, mixed $y): void
    {
        if ($this->path === []) {
            $this->to(...$this->last);
        }
        $this->to(self::number($x), self::number($y));
    }

    public function quadraticCurveTo(mixed $cpx, mixed $cpy, mixed $x, mixed $y): void
    {
        [$u, $v] = $this->last;
        [$cpx, $cpy, $x, $y] = [self::number($cpx), self::number($cpy), self::number($x), self::number($y)];
        $this->bezierCurveTo($u + 2 * ($cpx - $u) / 3, $v + 2 * ($cpy - $v) / 3, $x + 2 * ($cpx - $x) / 3, $y + 2 * ($cpy - $y) / 3, $x, $y);
    }

    public function bezierCurveTo(mixed $cp1x, mixed $cp1y, mixed $cp2x, mixed $cp2y, mixed $x, mixed $y): void
    {
        if ($this->path === []) {
            $this->to(...$this->last);
        }
        [$a, $b, $c, $d] = [$this->last, [self::number($cp1x), self::number($cp1y)], [self::number($cp2x), self::number($cp2y)], [self::number($x), self::number($y)]];
        $size = max(hypot($this->at[0], $this->at[1]), hypot($this->at[2], $this->at[3]));
        $bend = $size * max(hypot($a[0] - 2 * $b[0] + $c[0], $a[1] - 2 * $b[1] + $c[1]), hypot($b[0] - 2 * $c[0] + $d[0], $b[1] - 2 * $c[1] + $d[1]));
        $pieces = max(1, min(self::MOST_PIECES, (int) ceil(sqrt(0.75 * $bend / $this->within))));
        for ($i = 1; $i <= $pieces; $i++) {
            $t = $i / $pieces;
            $s = 1 - $t;
            $at = static fn (int $k): float => $s * $s * $s * $a[$k] + 3 * $s * $s * $t * $b[$k] + 3 * $s * $t * $t * $c[$k] + $t * $t * $t * $d[$k];
            $this->to($i === $pieces ? $d[0] : $at(0), $i === $pieces ? $d[1] : $at(1));
        }
    }

    public function arcTo(mixed $x1, mixed $y1, mixed $x2, mixed $y2, mixed $radius): void
    {
        $this->lineTo($x1, $y1);
        $this->lineTo($x2, $y2);
    }

    public function circle(mixed $x, mixed $y, mixed $radius): void
    {
        $this->ellipse($x, $y, $radius, $radius, 0, 0, 360, false);
    }

    public function arc(mixed $x, mixed $y, mixed $radius, mixed $startAngle, mixed $endAngle, mixed $anticlockwise = false): void
    {
        $this->ellipse($x, $y, $radius, $radius, 0, $startAngle, $endAngle, $anticlockwise);
    }

    /** Whole ones: shapes have no others. */
    public function ellipse(mixed $x, mixed $y, mixed $radiusX, mixed $radiusY, mixed $rotation, mixed $startAngle, mixed $endAngle, mixed $anticlockwise): void
    {
        $this->endPath();
        [$x, $y, $radiusX, $radiusY] = [self::number($x), self::number($y), self::number($radiusX), self::number($radiusY)];
        $size = max(hypot($this->at[0], $this->at[1]), hypot($this->at[2], $this->at[3])) * max($radiusX, $radiusY);
        // A shape without a radius is not drawn (SVG 2, 10.4).
        if (is_nan($size) || $size <= 0.0) {
            return;
        }
        $corners = $size <= $this->within ? 8 : max(8, min(4 * self::MOST_PIECES, (int) ceil(M_PI / acos(max(-1.0, 1 - $this->within / $size)))));
        for ($k = 0; $k < $corners; $k++) {
            $this->to($x + $radiusX * cos(2 * M_PI * $k / $corners), $y + $radiusY * sin(2 * M_PI * $k / $corners));
        }
        $this->endPath();
    }

    public function rect(mixed $x, mixed $y, mixed $w, mixed $h, mixed $rx = 0, mixed $ry = 0): void
    {
        [$x, $y, $w, $h] = [self::number($x), self::number($y), self::number($w), self::number($h)];
        $r = min(self::number($rx), $w / 2);
        $s = min(self::number($ry), $h / 2);
        // Quarters of circles as cubics (common practice).
        $k = 0.5522847498;
        $this->moveTo($x + $r, $y);
        foreach ([[$x + $w, $y, -1, 0, 0, 1], [$x + $w, $y + $h, 0, -1, -1, 0], [$x, $y + $h, 1, 0, 0, -1], [$x, $y, 0, 1, 1, 0]] as [$u, $v, $a, $b, $c, $d]) {
            $this->lineTo($u + $a * $r, $v + $b * $s);
            if ($r > 0.0 && $s > 0.0) {
                $this->bezierCurveTo($u + $a * $r * (1 - $k), $v + $b * $s * (1 - $k), $u + $c * $r * (1 - $k), $v + $d * $s * (1 - $k), $u + $c * $r, $v + $d * $s);
            }
        }
        $this->closePath();
    }

    public function fillRect(mixed $x, mixed $y, mixed $w, mixed $h): void
    {
    }

    public function strokeRect(mixed $x, mixed $y, mixed $w, mixed $h): void
    {
    }

    public function fillText(mixed $text, mixed $x, mixed $y, mixed $maxWidth = null): void
    {
    }

    public function strokeText(mixed $text, mixed $x, mixed $y, mixed $maxWidth = null): void
    {
    }

    public function measureText(mixed $text): float
    {
        return 0.0;
    }

    public function drawImage(mixed $image, mixed $sx, mixed $sy, mixed $sw = null, mixed $sh = null, mixed $dx = null, mixed $dy = null, mixed $dw = null, mixed $dh = null): void
    {
    }

    public function setStyle(Style $style): void
    {
        $this->style = $style;
    }

    public function getStyle(): Style
    {
        return $this->style ?? new Style;
    }

    public function setFont(mixed $family, mixed $style, mixed $weight): void
    {
    }

    private static function number(mixed $written): float
    {
        return is_numeric($written) ? (float) $written : 0.0;
    }

    private function to(float $x, float $y): void
    {
        [$a, $b, $c, $d, $e, $f] = $this->at;
        $this->path[] = [$a * $x + $c * $y + $e, $b * $x + $d * $y + $f];
        $this->last = [$x, $y];
    }
}
