<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\Refusal;
use Isotome\Format\Colours;
use Isotome\Format\MeshFile;
use Isotome\Format\Paint;
use Isotome\Format\Stuff;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\PaintedGlb;
use Tests\Support\Skins;
use Tests\Support\Solids;

/** Materials are given other looks; nothing else changes. */
final class PaintTest extends TestCase
{
    private static function box(): Mesh
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'paint');
        file_put_contents($path, PaintedGlb::box());
        try {
            return MeshFile::read($path, as: 'glb')->mesh;
        } finally {
            unlink($path);
        }
    }

    /**
     * @param  array<string, mixed>  ...$step
     * @return list<Piece>
     */
    private static function ran(Mesh $mesh, array ...$step): array
    {
        $runner = Runner::on('box', $mesh);
        foreach (Recipe::fromJson(json_encode(['isotome_recipe' => 1, 'steps' => $step], JSON_THROW_ON_ERROR))->steps as $one) {
            $runner->run($one);
        }

        return array_values($runner->pieces());
    }

    public function test_a_colour_takes_the_place_of_a_picture_and_all_else_stays(): void
    {
        $box = self::box();
        $made = self::ran($box, ['do' => 'paint', 'material' => 'painted clay', 'colour' => '#b06a44']);
        self::assertCount(1, $made);
        self::assertSame('box', $made[0]->name);
        $mesh = $made[0]->mesh;
        $skin = $mesh->skin;
        self::assertNotNull($skin);
        self::assertNotNull($box->skin);
        self::assertSame([$box->xyz, $box->corners, $box->tags, $box->skin->materials], [$mesh->xyz, $mesh->corners, $mesh->tags, $skin->materials]);
        self::assertEquals($box->skin->layers, $skin->layers);
        self::assertEqualsWithDelta([Colours::linear(0xB0 / 255), Colours::linear(0x6A / 255), Colours::linear(0x44 / 255), 1.0], $skin->looks->colour(0), 1e-12);
        self::assertSame([], $skin->looks->painted(0));
        // Nothing uses its picture any more.
        self::assertSame([], $skin->looks->pictures);
        self::assertSame(['painted clay', 'glaze'], [$skin->looks->name(0), $skin->looks->name(1)]);
        $rest = static fn (Looks $looks): array => [$looks->materials[1], array_diff_key($looks->materials[0], ['pbrMetallicRoughness' => true])];
        self::assertSame($rest($box->skin->looks), $rest($skin->looks));
    }

    public function test_a_picture_lies_on_the_coordinates_that_are_there(): void
    {
        $made = self::ran(self::box(), ['do' => 'paint', 'material' => 'glaze', 'picture' => 'oak', 'times' => 3])[0]->mesh->skin;
        self::assertNotNull($made);
        $used = $made->looks->painted(1);
        self::assertSame(['KHR_texture_transform' => ['scale' => [3.0, 3.0]]], $used['extensions'] ?? null);
        self::assertIsInt($used['index']);
        self::assertSame(Stuff::png('oak'), $made->looks->pictures[$made->looks->textures[$used['index']]['picture']]['bytes']);
        // It stays as clear as it was.
        self::assertSame([1.0, 1.0, 1.0, 0.8], $made->looks->colour(1));
        // The other material's picture is still there.
        self::assertContains(PaintedGlb::png(), array_column($made->looks->pictures, 'bytes'));
    }

    public function test_pieces_of_one_stock_still_share_their_looks_and_an_own_picture_travels_in_the_recipe(): void
    {
        $png = Stuff::png('clay');
        $pieces = self::ran(self::box(), ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0.1, 0.2, 0.3], 'facing' => [0, 0.1, 1]]], ['do' => 'paint', 'material' => 'painted clay', 'picture' => 'data:image/png;base64,'.base64_encode($png)]);
        self::assertCount(2, $pieces);
        $looks = array_map(static fn (Piece $piece): ?Looks => $piece->mesh->skin?->looks, $pieces);
        self::assertSame($looks[0], $looks[1]);
        self::assertContains($png, array_column($looks[0]->pictures ?? [], 'bytes'));
    }

    public function test_what_has_no_such_material_stays_as_it_is(): void
    {
        $ball = Solids::sphere(4, 2);
        // Of two materials the other one.
        $bare = self::ran(Skins::linear($ball), ['do' => 'paint', 'material' => 'oak', 'colour' => '#102030'])[0]->mesh;
        self::assertNotNull($bare->skin);
        self::assertSame([1.0, 1.0, 1.0, 1.0], $bare->skin->looks->colour(1));
        self::assertNotSame([1.0, 1.0, 1.0, 1.0], $bare->skin->looks->colour(0));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function wrong(): iterable
    {
        $step = ['do' => 'paint', 'material' => 'painted clay'];
        yield 'nothing' => [$step, 'steps[0] gives neither a colour nor a picture; give one of them.'];
        yield 'both' => [[...$step, 'colour' => '#000000', 'picture' => 'oak'], 'steps[0] gives both a colour and a picture; give one of them.'];
        yield 'no colour' => [[...$step, 'colour' => 'reddish'], 'steps[0].colour: The colour is "reddish"; write it as #rrggbb, such as #c9b79c.'];
        yield 'no picture' => [[...$step, 'picture' => '../../etc/passwd'], 'steps[0].picture: The picture is none of stone, oak, clay, plaster, and no data:image/png;base64,… either; give one of these.'];
        yield 'another address' => [[...$step, 'picture' => 'https://example.org/a.png'], 'steps[0].picture: The picture is none of stone, oak, clay, plaster, and no data:image/png;base64,… either; give one of these.'];
        yield 'no bytes' => [[...$step, 'picture' => 'data:image/png;base64,???'], 'steps[0].picture: The picture is none of stone, oak, clay, plaster, and no data:image/png;base64,… either; give one of these.'];
        yield 'a lie' => [[...$step, 'picture' => 'data:image/png;base64,'.base64_encode('<svg onload="alert(1)">')], 'steps[0].picture: The picture cannot be used: it is no PNG, JPEG or WebP; choose another one.'];
        yield 'too large' => [[...$step, 'picture' => 'data:image/png;base64,'.base64_encode(Stuff::png('clay').str_repeat('.', Paint::LARGEST - strlen(Stuff::png('clay')) + 1))], 'steps[0].picture: The picture cannot be used: it is larger than 600 KB; choose another one.'];
        yield 'no such material' => [[...$step, 'material' => 'gold', 'colour' => '#000000'], 'steps[0].material is "gold", and no face of the pieces it takes has it; choose one of painted clay, glaze.'];
        yield 'too often' => [[...$step, 'picture' => 'oak', 'times' => 0], 'steps[0].times is 0; give a number from 0.01 to 1000.'];
    }

    /** @param  array<string, mixed>  $step */
    #[DataProvider('wrong')]
    public function test_what_cannot_be_done_is_refused(array $step, string $says): void
    {
        $this->expectException(Refusal::class);
        $this->expectExceptionMessage($says);
        self::ran(self::box(), $step);
    }

    public function test_a_picture_needs_coordinates_and_materials_must_be_there(): void
    {
        $ball = Solids::sphere(4, 2);
        $looks = new Looks([['name' => 'clay']]);
        $said = [];
        foreach ([$ball, $ball->withSkin(new Skin($looks, str_repeat("\1\0\0\0", $ball->triangleCount()), []))] as $mesh) {
            try {
                self::ran($mesh, ['do' => 'paint', 'material' => 'clay', 'picture' => 'oak']);
                $said[] = '';
            } catch (Refusal $refusal) {
                $said[] = $refusal->getMessage();
            }
        }
        self::assertSame(['steps[0].material is "clay", and no face of the pieces it takes has it; they came without materials.', 'box: clay has no texture coordinates, so a picture has nowhere to lie; give it a colour.'], $said);
    }
}
