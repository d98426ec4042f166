<?php

declare(strict_types=1);

namespace Tests\Core;

use Demo\ClayJar;
use Demo\Heron;
use Isotome\Format\Picture;
use Isotome\Format\PngWriter;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\OwnPictures;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;
use PHPUnit\Framework\TestCase;
use Tests\Support\Png;

/** Which picture lies on a triangle, and where: as glTF and its extension KHR_texture_transform say (Khronos Group). */
final class OwnPicturesTest extends TestCase
{
    private const UV = [0.1, 0.2, 0.8, 0.3, 0.4, 0.9];

    /**
     * Two triangles: one of each material.
     *
     * @param  list<array<mixed>>  $materials
     * @param  array<mixed>  $sampler
     */
    private static function skin(array $materials, array $sampler = []): Skin
    {
        $other = array_map(static fn (float $c): float => $c + 5.0, self::UV);

        return new Skin(
            new Looks($materials, [['picture' => 0, 'sampler' => $sampler], ['picture' => 1, 'sampler' => null]], [['kind' => 'image/png', 'bytes' => 'a', 'name' => 'a'], ['kind' => 'image/png', 'bytes' => 'b', 'name' => 'b']]),
            Packing::longs([1, 2]), ['uv0' => Layer::of(2, [...self::UV, ...self::UV]), 'uv1' => Layer::of(2, [...$other, ...$other])],
        );
    }

    /**
     * @param  array<mixed>  $texture
     * @return array<mixed>
     */
    private static function painted(array $texture): array
    {
        return ['pbrMetallicRoughness' => ['baseColorTexture' => $texture]];
    }

    /** @return list<float> */
    private static function singles(string $bytes): array
    {
        return array_values((array) unpack('g*', $bytes));
    }

    public function test_each_triangle_has_the_sheet_of_its_material_and_coordinates_of_the_right_set(): void
    {
        $own = OwnPictures::of(self::skin([self::painted(['index' => 1]), self::painted(['index' => 0, 'texCoord' => 1])], ['magFilter' => 9728, 'wrapS' => 33071, 'wrapT' => 33648]));
        self::assertNotNull($own);
        self::assertSame([['picture' => 1, 'across' => 'repeat', 'down' => 'repeat', 'nearest' => false], ['picture' => 0, 'across' => 'clamp', 'down' => 'mirror', 'nearest' => true]], $own->sheets);
        self::assertSame("\1\2", $own->numbers);
        self::assertEqualsWithDelta([...self::UV, ...array_map(static fn (float $c): float => $c + 5.0, self::UV)], self::singles($own->coordinates), 1e-6);
    }

    public function test_a_transform_scales_turns_and_shifts_in_this_order(): void
    {
        $own = OwnPictures::of(self::skin([self::painted(['index' => 0, 'extensions' => ['KHR_texture_transform' => ['offset' => [0.5, 0.25], 'rotation' => M_PI / 2, 'scale' => [2, 3], 'texCoord' => 1]]]), ['name' => 'bare']]));
        self::assertNotNull($own);
        self::assertSame("\1\0", $own->numbers);
        $expected = [];
        foreach (array_chunk(self::UV, 2) as [$u, $v]) {
            // A quarter turn takes (u, v) to (v, −u).
            array_push($expected, 3 * ($v + 5) + 0.5, -2 * ($u + 5) + 0.25);
        }
        self::assertEqualsWithDelta($expected, array_slice(self::singles($own->coordinates), 0, 6), 1e-5);
    }

    public function test_without_a_picture_or_without_coordinates_there_is_nothing_to_draw(): void
    {
        self::assertNull(OwnPictures::of(self::skin([['name' => 'bare'], []])));
        self::assertNull(OwnPictures::of(self::skin([self::painted(['index' => 7]), self::painted(['index' => 0, 'texCoord' => 3])])));
        self::assertNull(OwnPictures::of(self::skin([[], [], self::painted(['index' => 0])])));
    }

    public function test_many_triangles_are_told_as_few_are(): void
    {
        $count = 5000;
        $uv = [];
        for ($i = 0; $i < 6 * $count; $i++) {
            $uv[] = $i / 7;
        }
        $skin = static fn (array $texture): Skin => new Skin(
            new Looks([self::painted($texture)], [['picture' => 0, 'sampler' => null]], [['kind' => 'image/png', 'bytes' => 'a', 'name' => 'a']]),
            Packing::longs(array_fill(0, $count, 1)), ['uv0' => Layer::of(2, $uv)],
        );
        $plain = OwnPictures::of($skin(['index' => 0]));
        $turned = OwnPictures::of($skin(['index' => 0, 'extensions' => ['KHR_texture_transform' => ['offset' => [0, 0]]]]));
        self::assertNotNull($plain);
        self::assertSame(Packing::singles($uv), $plain->coordinates);
        self::assertSame($plain->coordinates, $turned->coordinates ?? '');
    }

    public function test_the_pictures_of_the_demo_are_sound(): void
    {
        $jar = ClayJar::painted();
        $picture = $jar->skin->looks->pictures[0]['bytes'] ?? '';
        self::assertNull(Picture::fault($picture, 2048));
        $size = getimagesizefromstring($picture);
        self::assertSame([1024, 512], $size === false ? [] : [$size[0], $size[1]]);
        self::assertSame(Packing::hash(ClayJar::mesh()), Packing::hash(Mesh::of($jar->xyz, $jar->corners, $jar->tags)));
        // Not drawn backwards anywhere: no triangle is wider on the picture than half of it.
        foreach (array_chunk(self::singles(OwnPictures::of($jar->skin ?? self::skin([]))->coordinates ?? ''), 6) as [$a, , $b, , $c]) {
            self::assertLessThanOrEqual(0.5, max($a, $b, $c) - min($a, $b, $c));
        }
        self::assertTrue(EdgeCheck::of($jar)->isWatertight());
        self::assertSame(['colours'], Heron::coloured(9.0)->skin?->words());
    }

    public function test_a_written_png_holds_the_pixels_that_were_given(): void
    {
        $pixels = '';
        for ($i = 0; $i < 7 * 5 * 3; $i++) {
            // Some rows are like the one above.
            $pixels .= chr($i < 63 ? $i % 21 : ($i * 37) % 256);
        }
        self::assertSame(array_values((array) unpack('C*', $pixels)), array_merge(...Png::rows(PngWriter::of(7, 5, $pixels))));
    }
}
