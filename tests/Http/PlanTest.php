<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Meshes\Fits;
use App\Models\Project;
use Illuminate\Support\Facades\DB;
use Isotome\Geometry\Turn;
use Isotome\Mesh\Mesh;
use Tests\Support\Solids;

/** Plans, and whether pieces fit in any turn. The printer holds 200 mm along each side. */
final class PlanTest extends HttpTestCase
{
    private const WISHES = ['margin' => 0, 'gap' => 0.3, 'peg' => 6];

    /** @return list<array<string, mixed>> */
    private function living(int $project): array
    {
        return array_values(array_filter($this->getJson("/api/v1/projects/$project")->json('pieces'), static fn (array $piece): bool => ! $piece['spent']));
    }

    /** @return array<string, mixed> */
    private function plan(int $project, int $piece): array
    {
        $run = $this->postJson("/api/v1/projects/$project/plan", ['piece' => $piece, ...self::WISHES])->assertAccepted()->json();
        self::assertSame('done', $this->getJson("/api/v1/runs/{$run['id']}")->json('status'));

        return $this->postJson("/api/v1/projects/$project/plan", ['piece' => $piece, ...self::WISHES])->assertOk()->json();
    }

    public function test_a_plan_is_made_aside_and_its_cuts_give_the_pieces_that_it_tells(): void
    {
        $id = $this->project(Solids::box(390, 190, 290), 'Chest');
        $plan = $this->plan($id, $this->living($id)[0]['id']);
        self::assertSame(['least', 'alternatives'], array_keys($plan));
        foreach ($plan['alternatives'] as $alternative) {
            self::assertSame(count($alternative['cuts']), count($alternative['steps']));
            self::assertEqualsWithDelta($alternative['cost'], array_sum($alternative['terms']), 1e-9);
            foreach ($alternative['cuts'] as $cut) {
                // The outlines lie in the plane of the cut.
                foreach (array_merge(...$cut['outlines']) as $place) {
                    self::assertEqualsWithDelta(0.0, array_sum(array_map(static fn (float|int $at, float|int $through, float|int $facing): float => ($at - $through) * $facing, $place, $cut['through'], $cut['facing'])), 1e-6);
                }
            }
        }
        $best = $plan['alternatives'][0];
        self::assertSame(4, count($best['pieces']));
        // A cut is moved by hand: the same cuts otherwise, and what comes of them.
        $cuts = array_map(static fn (array $cut): array => ['of' => $cut['of'], 'through' => $cut['through'], 'facing' => $cut['facing']], $best['cuts']);
        foreach ($cuts[0]['through'] as $k => $at) {
            $cuts[0]['through'][$k] = $at + 2 * $cuts[0]['facing'][$k];
        }
        $question = ['piece' => $this->living($id)[0]['id'], ...self::WISHES, 'cuts' => $cuts];
        $run = $this->postJson("/api/v1/projects/$id/plan", $question)->assertAccepted()->json();
        self::assertSame('done', $this->getJson("/api/v1/runs/{$run['id']}")->json('status'));
        $revised = $this->postJson("/api/v1/projects/$id/plan", $question)->assertOk()->json('alternatives');
        self::assertSame([1, 4, array_column($cuts, 'of')], [count($revised), count($revised[0]['pieces']), array_column($revised[0]['cuts'], 'of')]);
        self::assertEqualsWithDelta($cuts[0]['through'], $revised[0]['steps'][0]['blade']['through'], 1e-9);
        $this->postJson("/api/v1/projects/$id/recipe?as=plan", ['isotome_recipe' => 1, 'units' => 'mm', 'steps' => $best['steps']])->assertAccepted();
        self::assertSame('the plan', $this->getJson("/api/v1/projects/$id")->json('history.undo'));
        $living = $this->living($id);
        self::assertEqualsCanonicalizing(array_column($best['pieces'], 'name'), array_column($living, 'name'));
        foreach ($living as $piece) {
            self::assertSame([true, true, false], [$piece['watertight'], $piece['fit']['fits'], $piece['fit']['unsure']]);
        }
        // What fits already has a plan without cuts.
        $none = $this->plan($id, $living[0]['id']);
        self::assertSame([1, []], [$none['least'], $none['alternatives'][0]['cuts']]);
    }

    public function test_no_cut_goes_through_what_must_stay_whole(): void
    {
        $id = $this->project(Solids::box(390, 50, 50), 'Beam');
        $question = ['piece' => $this->living($id)[0]['id'], ...self::WISHES, 'whole' => [['at' => [195, 25, 25], 'radius' => 30]]];
        $this->postJson("/api/v1/projects/$id/plan", $question)->assertAccepted();
        $plan = $this->postJson("/api/v1/projects/$id/plan", $question)->assertOk()->json();
        self::assertNotSame([], $plan['alternatives']);
        foreach ($plan['alternatives'] as $alternative) {
            self::assertNotSame([], $alternative['cuts']);
            foreach ($alternative['cuts'] as $cut) {
                self::assertGreaterThanOrEqual(30.0, abs(array_sum(array_map(static fn (int $at, float|int $through, float|int $facing): float => ($at - $through) * $facing, [195, 25, 25], $cut['through'], $cut['facing']))));
            }
        }
    }

    public function test_what_cannot_be_planned_is_refused_in_one_sentence(): void
    {
        $id = $this->project(Solids::box(390, 190, 290), 'Chest');
        $piece = $this->living($id)[0]['id'];
        $box = Solids::box(300, 20, 20);
        $open = $this->project(Mesh::of($box->xyz, array_slice($box->corners, 3)), 'Gutter');
        foreach ([
            ['The places that must stay whole are not each a place and a radius of 0.001 mm or more; pick them again.', $id, ['whole' => [['at' => [0, 0, 0], 'radius' => 0]]]],
            ['The plan is for another piece; look for cuts again.', $id, ['cuts' => [['of' => 'jar', 'through' => [0, 0, 0], 'facing' => [0, 0, 1]]]]],
            ['The cuts of the plan are not each a piece, a place and a facing; look for cuts again.', $id, ['cuts' => [['of' => 'chest', 'through' => [0, 0], 'facing' => [0, 0, 1]]]]],
            ['The piece is not there any more; pick another one.', $id, ['piece' => 99999]],
            ['There is no piece to plan for; pick one.', $id, ['piece' => 'all']],
            ['The margin, the gap and the width of pegs are not three ordinary numbers; type them again.', $id, ['gap' => 'wide']],
            ['A margin of 100 mm leaves nothing of the bed; give less than half its width.', $id, ['margin' => 100]],
            ['The gap is 60 mm; give one from 0 mm to a quarter of the bed, 50 mm.', $id, ['gap' => 60]],
            ['Gutter is not watertight, so nobody can say what is inside of it; mend it at the Check station first.', $open, ['piece' => $this->living($open)[0]['id']]],
        ] as [$sentence, $project, $wrong]) {
            $this->postJson("/api/v1/projects/$project/plan", ['piece' => $piece, ...self::WISHES, ...$wrong])->assertUnprocessable()->assertJsonPath('message', $sentence);
        }
        Project::query()->whereKey($id)->update(['printer_id' => null]);
        $this->postJson("/api/v1/projects/$id/plan", ['piece' => $piece, ...self::WISHES])->assertUnprocessable()->assertJsonPath('message', 'The project has no printer; choose one beside its name, then plan.');
    }

    public function test_a_piece_that_fits_only_tilted_is_marked_so_with_the_turn(): void
    {
        $id = $this->project(Solids::box(300, 20, 30), 'Rail');
        $fit = $this->living($id)[0]['fit'];
        self::assertSame([false, true, null], [$fit['fits'], $fit['unsure'], $fit['turn']]);
        $this->postJson("/api/v1/projects/$id/fits")->assertOk()->assertJsonPath('looked_at', 1);
        $fit = $this->living($id)[0]['fit'];
        self::assertSame([true, 'tilted', false], [$fit['fits'], $fit['how'], $fit['unsure']]);
        $turned = Turn::about(array_map(floatval(...), $fit['turn']['axis']), (float) $fit['turn']['degrees'])->of(Solids::box(300, 20, 30)->xyz);
        foreach ([0, 1, 2] as $k) {
            $along = array_column(array_chunk($turned, 3), $k);
            self::assertLessThanOrEqual(200.0 + 1e-6, max($along) - min($along));
        }
        // Known, so nothing is looked at again; and the shelf goes by it.
        $this->postJson("/api/v1/projects/$id/fits")->assertOk()->assertJsonPath('looked_at', 0);
        $this->getJson('/api/v1/projects')->assertJsonPath('0.too_large', 0);
        // Too long for any turn: that needs no looking.
        $long = $this->project(Solids::box(400, 20, 30), 'Beam');
        self::assertSame([false, false], [$this->living($long)[0]['fit']['fits'], $this->living($long)[0]['fit']['unsure']]);
    }

    public function test_what_a_step_makes_is_looked_at_with_it(): void
    {
        $id = $this->project(Solids::box(600, 20, 30), 'Beam');
        $run = $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [300, 0, 0], 'facing' => [1, 0, 0]]]])->assertAccepted()->json();
        foreach ($this->living($id) as $piece) {
            self::assertSame([true, 'tilted'], [$piece['fit']['fits'], $piece['fit']['how']]);
        }
        self::assertStringNotContainsString('too large', (string) $this->getJson("/api/v1/runs/{$run['id']}")->json('message'));
        // What is known of meshes that are gone goes after a while.
        DB::table('fits')->insert(['mesh_hash' => str_repeat('0', 64), 'space' => '[1.0,1.0,1.0]', 'fits' => false, 'over_mm' => 1.0, 'vector' => '[0.0,0.0,0.0]', 'made_at' => now()->subDays(31)]);
        DB::table('fits')->insert(['mesh_hash' => str_repeat('1', 64), 'space' => '[1.0,1.0,1.0]', 'fits' => false, 'over_mm' => 1.0, 'vector' => '[0.0,0.0,0.0]', 'made_at' => now()]);
        DB::table('fits')->whereNotIn('mesh_hash', [str_repeat('0', 64), str_repeat('1', 64)])->update(['made_at' => now()->subDays(31)]);
        Fits::sweep();
        self::assertSame([0, 1, 2], [DB::table('fits')->where('mesh_hash', str_repeat('0', 64))->count(), DB::table('fits')->where('mesh_hash', str_repeat('1', 64))->count(), DB::table('fits')->whereIn('mesh_hash', array_column($this->living($id), 'mesh'))->count()]);
    }
}
