<?php

declare(strict_types=1);

namespace Tests\Http;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Support\Solids;

/** What is told before a cut: either side, the profile with its good and bad places, the stops of a series. */
final class RailTest extends HttpTestCase
{
    /** @return array<string, array{list<float>, list<float>}> */
    public static function blades(): array
    {
        return [
            'level' => [[0.0, 0.0, 1.0], [0.0, 0.0, 1.0]], 'through vertices' => [[0.0, 0.0, 0.0], [0.0, 0.0, 1.0]], 'tilted' => [[3.0, 1.0, 0.5], [0.3, -0.2, 0.8]],
            'upright' => [[4.0, 0.0, 0.0], [-1.0, 0.0, 0.0]], 'nearly missing' => [[0.0, 0.0, 6.9], [0.01, 0.0, 1.0]],
        ];
    }

    /**
     * @param  array{float, float, float}  $through
     * @param  array{float, float, float}  $facing
     */
    #[DataProvider('blades')]
    public function test_volume_and_box_of_either_side_are_those_of_the_cut(array $through, array $facing): void
    {
        $torus = Solids::torus(20, 7, 120, 80);
        $id = $this->project($torus);
        foreach ([0.0, 0.4] as $kerf) {
            $answer = $this->postJson("/api/v1/projects/$id/section/sides", ['through' => $through, 'facing' => $facing, 'kerf' => $kerf])->assertOk();
            $file = \Isotome\Format\StlReader::read($this->path('upload.stl'))->mesh;
            $bodies = FlatCut::of($file, new FlatBlade(Plane::through($through, $facing), kerf: $kerf), 1)?->bodies ?? self::fail('no cut');
            $plane = Plane::through($through, $facing);
            foreach (['behind', 'ahead'] as $side) {
                $mine = array_filter($bodies, static fn (Mesh $body): bool => (self::along($body, $plane) > 0) === ($side === 'ahead'));
                $volume = array_sum(array_map(Volume::of(...), $mine));
                self::assertEqualsWithDelta($volume, $answer->json("$side.volume"), 1e-9 * Volume::of($file), $side);
                $low = $high = [];
                foreach ([0, 1, 2] as $k) {
                    $low[] = min(array_map(static fn (Mesh $body): float => Box::of($body->xyz)->min[$k], $mine));
                    $high[] = max(array_map(static fn (Mesh $body): float => Box::of($body->xyz)->max[$k], $mine));
                    self::assertEqualsWithDelta($high[$k] - $low[$k], $answer->json("$side.size.$k"), 1e-9);
                }
                self::assertTrue($answer->json("$side.fit.fits"));
            }
        }
    }

    /** How far the body's middle is ahead of the plane. */
    private static function along(Mesh $body, Plane $plane): float
    {
        $centre = Volume::measure($body)->centroid;

        return $plane->nx * $centre[0] + $plane->ny * $centre[1] + $plane->nz * $centre[2] - $plane->offset;
    }

    public function test_the_narrowest_width_and_the_vertices_in_reach_of_a_catch_are_told(): void
    {
        // A box 10 wide: the wall of the section is 10 mm wherever it is cut.
        $id = $this->project(Solids::box(10, 30, 40));
        $answer = $this->postJson("/api/v1/projects/$id/section/sides", ['through' => [0, 0, 0.2], 'facing' => [0, 0, 1], 'catch' => 0.5])->assertOk();
        self::assertEqualsWithDelta(10.0, $answer->json('narrowest'), 1e-6);
        self::assertSame(4, $answer->json('caught'));
        $this->postJson("/api/v1/projects/$id/section/sides", ['through' => [0, 0, 2], 'facing' => [0, 0, 1], 'catch' => 0.5])->assertJsonPath('caught', 0);
        $this->postJson("/api/v1/projects/$id/section/sides", ['through' => [0, 0, 90], 'facing' => [0, 0, 1]])->assertJsonPath('ahead', null)->assertJsonPath('narrowest', null);
    }

    public function test_the_profile_is_that_of_the_body_and_marks_its_waist(): void
    {
        // Along x a torus has its waist in the middle, where only the ring's two walls are cut.
        $id = $this->project(Solids::torus(20, 7, 120, 60));
        $answer = $this->postJson("/api/v1/projects/$id/profile", ['through' => [0, 0, 0], 'facing' => [1, 0, 0]])->assertOk()->json();
        self::assertEqualsWithDelta(-27.0, $answer['low'], 0.05);
        self::assertEqualsWithDelta(27.0, $answer['high'], 0.05);
        self::assertCount(240, $answer['areas']);
        // Pappus: the integral of the area is the volume, 2 π² R r².
        self::assertEqualsWithDelta(2 * M_PI ** 2 * 20 * 49, array_sum($answer['areas']) * ($answer['high'] - $answer['low']) / 240, 100.0);
        // Through the middle the ring's two walls are least: 2 π r².
        self::assertEqualsWithDelta(0.0, $answer['good'][0], 0.3);
        self::assertSame(2, $answer['outlines'][120]);
        self::assertSame($answer, $this->postJson("/api/v1/projects/$id/profile", ['through' => [0, 0, 0], 'facing' => [1, 0, 0]])->json());
        $thin = $this->project(Solids::box(1.5, 30, 40));
        $widths = $this->postJson("/api/v1/projects/$thin/profile/widths", ['through' => [0, 0, 0], 'facing' => [0, 0, 1]])->assertOk();
        self::assertEqualsWithDelta(1.5, $widths->json('widths.20'), 1e-6);
        self::assertCount(1, $widths->json('bad'));
        $this->postJson("/api/v1/projects/$id/profile/widths", ['through' => [0, 0, 0], 'facing' => [0, 0, 1]])->assertOk()->assertJsonPath('thin_mm', 2);
    }

    public function test_stops_are_compared_with_the_printer_and_wander_as_they_will_cut(): void
    {
        $id = $this->project(Solids::box(40, 30, 600));
        $ask = fn (array $series): array => $this->postJson("/api/v1/projects/$id/profile/stops", ['through' => [0, 0, 0], 'facing' => [0, 0, 1], 'series' => $series])->assertOk()->json();
        $two = $ask(['stops' => [150, 400]]);
        self::assertEqualsWithDelta([150.0, 250.0, 200.0], array_column($two['slabs'], 'extent'), 1e-6);
        self::assertEqualsWithDelta([0.0, 50.0, 0.0], array_column($two['slabs'], 'over'), 1e-6);
        self::assertEqualsWithDelta([150.0, 300.0, 450.0], $ask(['parts' => 4])['stops'], 1e-6);
        self::assertEqualsWithDelta([100.0, 250.0, 400.0], $ask(['from' => 100, 'step' => 150, 'count' => 3])['stops'], 1e-6);
        $wander = ['parts' => 4, 'wander' => ['shift' => 0.02, 'tilt' => 8, 'seed' => 5]];
        $planes = $ask($wander)['pieces'][0]['planes'];
        self::assertSame($planes, $ask($wander)['pieces'][0]['planes']);
        self::assertNotEquals($planes, $ask([...$wander, 'wander' => ['shift' => 0.02, 'tilt' => 8, 'seed' => 6]])['pieces'][0]['planes']);
        $run = $this->postJson("/api/v1/projects/$id/steps", self::asCut(['through' => [0, 0, 0], 'facing' => [0, 0, 1], 'series' => $wander]))->assertAccepted()->json('id');
        self::assertStringStartsWith('4 pieces, all watertight, 0.000 % volume lost', $this->getJson("/api/v1/runs/$run")->json('message'));
        // The cut faces lie in the planes that were shown.
        $piece = collect($this->getJson("/api/v1/projects/$id")->json('pieces'))->firstWhere('name', 'torus-A');
        $hash = $piece['mesh'];
        $mesh = (new \App\Meshes\MeshStore)->get(\App\Models\Mesh::query()->findOrFail($hash));
        foreach ($mesh->tags as $t => $tag) {
            if ($tag === 1) {
                foreach ([0, 1, 2] as $k) {
                    $v = 3 * $mesh->corners[3 * $t + $k];
                    $n = $planes[0]['facing'];
                    self::assertEqualsWithDelta($planes[0]['offset'], $n[0] * $mesh->xyz[$v] + $n[1] * $mesh->xyz[$v + 1] + $n[2] * $mesh->xyz[$v + 2], 1e-9);
                }
            }
        }
        $this->postJson("/api/v1/projects/$id/steps", self::asCut(['through' => [0, 0, 0], 'facing' => [0, 0, 1], 'keep' => 'ahead', 'series' => $wander]))->assertUnprocessable();
        $this->postJson("/api/v1/projects/$id/profile/stops", ['through' => [0, 0, 0], 'facing' => [0, 0, 1]])->assertUnprocessable();
    }

    public function test_a_score_an_opening_limited_to_faces_and_every_setting_reach_the_core(): void
    {
        $id = $this->project(Solids::box(10, 10, 10));
        $post = fn (array $more): array => $this->getJson('/api/v1/runs/'.$this->postJson("/api/v1/projects/$id/steps", self::asCut(['through' => [0, 0, 4], 'facing' => [0, 0, 1], ...$more]))->assertAccepted()->json('id'))->json();
        self::assertSame('Scored 1 piece: the section\'s edges are in its mesh now.', $post(['score' => true])['message']);
        $project = $this->getJson("/api/v1/projects/$id")->json();
        self::assertSame(['do', 'blade', 'of'], array_keys($project['steps'][0]['settings']));
        self::assertSame([true, false], array_column($project['pieces'], 'spent'));
        $message = $post(['through' => [5, 0, 0], 'facing' => [1, 0, 0], 'seal' => 'even', 'edge_mm' => 2, 'kerf' => 0.3, 'kerf_side' => 'ahead', 'catch' => 0.1])['message'];
        self::assertStringStartsWith('2 pieces, both watertight, 3.000 % volume removed by the kerf', $message);
        self::assertEquals(['kerf_side' => 'ahead', 'seal' => 'even', 'edge_mm' => 2, 'catch' => 0.1], array_intersect_key($this->getJson("/api/v1/projects/$id")->json('steps.1.settings'), array_flip(['kerf_side', 'seal', 'edge_mm', 'catch'])));
        foreach ([['kerf_side' => 'left'], ['catch' => -1], ['edge_mm' => 0], ['faces' => 'all'], ['series' => ['stops' => []]], ['series' => ['every' => 3]]] as $wrong) {
            $this->postJson("/api/v1/projects/$id/steps", self::asCut(['through' => [5, 0, 0], 'facing' => [1, 0, 0], 'seal' => 'even', ...$wrong]))->assertUnprocessable();
        }
        foreach (['svg' => '<svg', 'dxf' => 'SECTION'] as $format => $has) {
            self::assertStringContainsString($has, (string) $this->get("/api/v1/projects/$id/section.$format?through[]=5&through[]=0&through[]=3&facing[]=0&facing[]=0&facing[]=1")->assertOk()->getContent());
        }
    }
}
