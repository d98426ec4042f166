<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\DrawnCut;
use Isotome\Drawn\Shape;
use Isotome\Drawn\Sight;
use Isotome\Drawn\SvgOutlines;
use Isotome\Exception\BadRecipe;
use Isotome\Exception\UnreadableMesh;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Outlines of SVG drawings. Shapes and places as the standard has them: W3C, "Scalable Vector Graphics 2". */
final class SvgTest extends TestCase
{
    private static function svg(string $shapes, string $root = 'width="100mm" height="50mm" viewBox="0 0 200 100"'): string
    {
        return "<?xml version=\"1.0\"?><svg xmlns=\"http://www.w3.org/2000/svg\" $root>$shapes</svg>";
    }

    /** To about a millionth of what is cut: a plate a metre wide. Area within all outlines, counted evenly and oddly, of those that do not cross: mm². */
    private static function area(string $svg): float
    {
        $plate = Solids::box(1000, 1, 1000, [-500, 0, -500]);
        $lines = array_map(static fn (array $line): array => array_map(static fn (array $p): array => [$p[0], 0.0, $p[1]], $line), SvgOutlines::read($svg)->lines);
        $made = DrawnCut::of($plate, new DrawnBlade(Shape::Outline, $lines, Sight::along([0, 1, 0]), keep: \Isotome\Cut\Keep::Behind), 1)->bodies ?? [];

        return array_sum(array_map(Volume::of(...), $made));
    }

    public function test_shapes_have_their_sizes_in_millimetres(): void
    {
        // 200 units are 100 mm: a unit is half a millimetre.
        self::assertEqualsWithDelta(40 * 20 / 4, self::area(self::svg('<rect x="3" y="4" width="40" height="20"/>')), 1e-3);
        self::assertEqualsWithDelta(M_PI * 25 / 4, self::area(self::svg('<circle cx="50" cy="50" r="5"/>')), 0.15);
        self::assertEqualsWithDelta(M_PI * 20 * 5 / 4, self::area(self::svg('<ellipse cx="50" cy="50" rx="20" ry="5"/>')), 0.5);
        self::assertEqualsWithDelta(100 * 60 / 4 - (4 - M_PI) * 100 / 4, self::area(self::svg('<rect width="100" height="60" rx="10" ry="10"/>')), 0.3);
        self::assertEqualsWithDelta(50 / 4, self::area(self::svg('<polygon points="0,0 10,0 0,10"/>')), 1e-3);
        // Two arcs of half a circle; a cubic; holes and islands.
        self::assertEqualsWithDelta(M_PI * 625 / 4, self::area(self::svg('<path d="M 100 50 a 25 25 0 1 0 50 0 a 25 25 0 1 0 -50 0"/>')), 1.0);
        self::assertEqualsWithDelta((900 - 400 + 25) / 4, self::area(self::svg('<path d="M0 0h30v30h-30z m5 5h20v20h-20z m5 5 5 0 0 5 -5 0z"/>')), 1e-3);
        // Below a curve from (0, 0) by (0, 30) and (30, 30) to (30, 0): three tenths of its box of 30 by 30, times two (the cubic's area in closed form).
        self::assertEqualsWithDelta(0.6 * 900 / 4, self::area(self::svg('<path d="M0 0C0 30 30 30 30 0z"/>')), 0.5);
        // What says no size is in 96ths of an inch; inches and points.
        self::assertEqualsWithDelta((960 * 25.4 / 96) ** 2 / 4, self::area(self::svg('<rect width="480" height="480"/>', '')), 1e-6 * 16129);
        self::assertEqualsWithDelta(25.4 ** 2, self::area(self::svg('<rect width="50" height="50"/>', 'width="1in" viewBox="0 0 50 50"')), 1e-3);
    }

    public function test_transformations_and_what_is_hidden(): void
    {
        $turned = SvgOutlines::read(self::svg('<g transform="translate(10 20) rotate(90)"><g transform="scale(2,1)"><rect x="0" y="0" width="40" height="20"/></g></g>'));
        self::assertEqualsWithDelta([10.0, 40.0], $turned->size, 1e-9);
        // Up is up: the drawing's y runs down.
        $corner = SvgOutlines::read(self::svg('<path d="M0 0h20v40z"/>'))->lines[0];
        self::assertEqualsWithDelta([[-5, 10], [5, 10], [5, -10]], $corner, 1e-9);
        self::assertCount(1, SvgOutlines::read(self::svg('<rect width="4" height="4"/><rect style="display:none" width="9" height="9"/><defs><rect width="5" height="5"/></defs><clipPath><circle r="4"/></clipPath><image href="x.png"/><text>A</text>'))->lines);
    }

    /** @return iterable<string, array{string, string}> */
    public static function wrong(): iterable
    {
        yield 'nothing' => ['', 'is no SVG drawing'];
        yield 'no XML' => ['solid heron', 'is no SVG drawing'];
        yield 'another document' => ['<html></html>', 'is no SVG drawing'];
        yield 'entities' => ['<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]><svg>&a;</svg>', 'defines entities'];
        yield 'text only' => [self::svg('<text x="3">Mill</text>'), 'turn the letters into paths'];
        yield 'copies only' => [self::svg('<use href="#a"/>'), 'linked copies'];
        yield 'lines only' => [self::svg('<line x1="0" y1="0" x2="4" y2="4"/>'), 'has no closed outlines'];
        yield 'too deep' => [self::svg(str_repeat('<g>', 70).'<rect width="3" height="3"/>'.str_repeat('</g>', 70)), 'nests groups'];
        yield 'too many shapes' => [self::svg(str_repeat('<rect width="3" height="3"/>', 5001)), 'more than 5000 shapes'];
        yield 'too many corners' => [self::svg('<path d="M0 0'.str_repeat('l1 1 1 -2', 3000).'z"/>'), 'corners'];
        yield 'no size' => [self::svg('<rect width="3" height="3"/>', 'width="10mm" viewBox="0 0 1e400 5"'), 'a size that nothing can have'];
        yield 'huge' => [str_repeat(' ', SvgOutlines::MOST_BYTES + 1), 'more than 1 MB'];
    }

    #[DataProvider('wrong')]
    public function test_what_cannot_be_read_is_refused_in_a_sentence(string $bytes, string $says): void
    {
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessage($says);
        SvgOutlines::read($bytes);
    }

    public function test_whatever_is_damaged_is_read_or_refused(): void
    {
        $good = self::svg('<g transform="translate(10 20) rotate(90) matrix(1 0 0 1 2 3)"><rect x="0" y="0" width="40" height="20" rx="2"/><circle cx="50" cy="50" r="10"/><ellipse cx="1" cy="2" rx="3" ry="4"/></g>'
            .'<path d="M0 0 C 10 0 20 10 20 20 S 30 40 40 40 Q 3 4 5 6 T 9 9 L 40 0 H 3 V 5 z m5 5h10v10h-10z"/><path d="M 100 50 a 25 25 0 1 0 50 0 A 25 25 0 1 0 -50 0"/><polygon points="0,0 10,0 0,10"/>');
        $chance = new Chance(5);
        $put = [' ', '"', '-', '1e400', 'z', 'M', 'A', 'C', 'NaN', '.', '..', '(', ')', ',', '9999999999', '', '%', 'S', 'T'];
        $read = $refused = 0;
        for ($n = 0; $n < 1500; $n++) {
            $damaged = $good;
            for ($k = 0; $k <= 3 * $chance->uniform(); $k++) {
                $damaged = substr_replace($damaged, $put[(int) (count($put) * $chance->uniform())], 80 + (int) ((strlen($damaged) - 90) * $chance->uniform()), (int) (7 * $chance->uniform()));
            }
            try {
                foreach (array_merge(...SvgOutlines::read($damaged)->lines) as [$u, $v]) {
                    self::assertTrue(is_finite($u) && is_finite($v));
                }
                $read++;
            } catch (UnreadableMesh) {
                $refused++;
            }
        }
        self::assertGreaterThan(100, min($read, $refused));
    }

    public function test_a_reference_to_itself_does_not_hang(): void
    {
        self::assertCount(1, SvgOutlines::read(self::svg('<g id="a"><use href="#a"/><rect width="4" height="4"/></g>'))->lines);
    }

    public function test_a_recipe_names_a_drawing_beside_it(): void
    {
        $recipe = static fn (array $blade): string => json_encode(['isotome_recipe' => 1, 'units' => 'cm', 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'drawn', 'along' => [0, 1, 0], ...$blade]]]], JSON_THROW_ON_ERROR);
        $open = static fn (string $name): ?string => $name === 'sign.svg' ? self::svg('<rect width="40" height="20"/>') : null;
        $read = Recipe::fromJson($recipe(['svg' => 'sign.svg', 'at' => [1, 2, 3]]), $open)->steps[0]->toArray();
        self::assertSame('outline', $read['blade']['shape']);
        self::assertEqualsWithDelta([[0, 20, 35], [20, 20, 35], [20, 20, 25], [0, 20, 25]], array_slice($read['blade']['lines'][0], 0, 4), 1e-9);
        foreach ([
            [['svg' => '../sign.svg'], 'no plain file name'], [['svg' => 'other.svg'], 'there is no file other.svg'], [['svg' => 'sign.svg', 'at' => 3], 'not three numbers'],
            [['svg' => 'sign.svg', 'points' => [[0, 0, 0], [1, 0, 0]]], 'both svg and points'],
        ] as [$blade, $says]) {
            try {
                Recipe::fromJson($recipe($blade), $open);
                self::fail("It was not refused: $says");
            } catch (BadRecipe $refusal) {
                self::assertStringContainsString($says, $refusal->getMessage());
            }
        }
        // Where there are no files beside it, it is an unknown key.
        $this->expectException(BadRecipe::class);
        Recipe::fromJson($recipe(['svg' => 'sign.svg']));
    }
}
