<?php

declare(strict_types=1);

namespace Tests\Support;

use Demo\Heron;
use Demo\Millstone;
use Isotome\Mesh\Mesh;

/** The bodies that property tests cut: watertight, each difficult in its own way. */
final class Bodies
{
    /** @var array<string, Mesh> */
    private static array $made = [];

    /** @return list<string> */
    public static function names(): array
    {
        return array_keys(self::makers());
    }

    public static function named(string $name): Mesh
    {
        return self::$made[$name] ??= self::makers()[$name]();
    }

    /** @return array<string, \Closure(): Mesh> */
    private static function makers(): array
    {
        return [
            'box' => static fn (): Mesh => Solids::box(10, 20, 30),
            'sphere' => static fn (): Mesh => Solids::sphere(20, 3),
            'torus, one handle' => static fn (): Mesh => Solids::torus(20, 7, 40, 24),
            'cone of needle triangles' => static fn (): Mesh => Solids::cone(10, 30, 400),
            'five boxes, two of them cavities' => static fn (): Mesh => Solids::nest(5),
            'hollow ball with a ball in the cavity' => static fn (): Mesh => Solids::together(Solids::sphere(20, 2), Solids::insideOut(Solids::sphere(15, 2)), Solids::sphere(9, 2)),
            'groove whose bottom is an edge' => static fn (): Mesh => Solids::prism([[0.0, 0.0], [10.0, 0.0], [10.0, 5.0], [7.0, 5.0], [5.0, 4.0], [3.0, 5.0], [0.0, 5.0]], 8.0),
            'staircase' => static fn (): Mesh => Solids::cells(5, 5, 5, static fn (int $x, int $y, int $z): bool => $x + $y + $z < 6),
            'staircase, turned' => static fn (): Mesh => Solids::moved(Solids::cells(4, 4, 4, static fn (int $x, int $y, int $z): bool => $x + $y + $z < 5), 0.3, 0.7, 1.1),
            'frame with five handles' => static fn (): Mesh => Solids::cells(5, 5, 5, static fn (int $x, int $y, int $z): bool => ($x % 4 === 0) + ($y % 4 === 0) + ($z % 4 === 0) >= 2),
            'table on nine legs' => static fn (): Mesh => Solids::cells(5, 5, 3, static fn (int $x, int $y, int $z): bool => $z === 2 || ($x % 2 === 0 && $y % 2 === 0)),
            'torus of a micrometre' => static fn (): Mesh => Solids::moved(Solids::torus(20, 7, 24, 16), 0.1, 0.2, 0.3, 1e-5),
            'torus a kilometre away' => static fn (): Mesh => Solids::moved(Solids::torus(20, 7, 24, 16), 0.1, 0.2, 0.3, 1.0, [1e6, -1e6, 1e6]),
            'two shells that overlap' => static fn (): Mesh => Solids::together(Solids::box(10, 10, 10), Solids::box(10, 10, 10, [5.0, 5.0, 5.0])),
            'column whose outline has 3,000 corners' => static fn (): Mesh => Solids::prism(self::fluted(3000), 12.0),
            'column whose lids overlap' => static fn (): Mesh => Solids::foldedPrism(self::fluted(200), 12.0),
            'torus of a hundred kilometres' => static fn (): Mesh => Solids::moved(Solids::torus(20, 7, 24, 16), 0.1, 0.2, 0.3, 2e6),
            'millstone' => static fn (): Mesh => Millstone::mesh(),
            'heron' => static fn (): Mesh => Heron::mesh(7.0),
        ];
    }

    /** @return list<array{float, float}> an outline of 37 flutes */
    private static function fluted(int $corners): array
    {
        return array_map(static function (int $n) use ($corners): array {
            $turn = 2 * M_PI * $n / $corners;
            $radius = 10 + sin(37 * $turn);

            return [$radius * cos($turn), $radius * sin($turn)];
        }, range(0, $corners - 1));
    }
}
