<?php

declare(strict_types=1);

namespace Tests\Http;

use App\Answers\Answer;
use App\Answers\HowItMoves;
use App\Models\Run;
use Illuminate\Support\Facades\Storage;
use Isotome\Format\MeshFile;
use Isotome\Geometry\Box;
use Tests\Support\Solids;
use ZipArchive;

/** A movement in the application: kept, worked out, read frame by frame, and taken out. */
final class MovementTest extends HttpTestCase
{
    /**
     * @param  list<array<string, mixed>>  $layers
     * @return array<string, mixed>
     */
    private static function movement(array $layers, int $frames = 21): array
    {
        return ['isotome_movement' => 1, 'fps' => 20, 'frames' => $frames, 'layers' => $layers];
    }

    private function halves(): int
    {
        $id = $this->project(Solids::box(40, 20, 20), 'Chest');
        $run = $this->postJson("/api/v1/projects/$id/steps", ['step' => ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0], 'parts' => 2]], 'pieces' => null])->assertAccepted()->json('id');
        self::assertSame('done', $this->getJson("/api/v1/runs/$run")->json('status'));

        return $id;
    }

    /**
     * @param  array<string, mixed>  $body
     * @return array<string, mixed>
     */
    private function answer(int $id, string $what, array $body): array
    {
        $told = $this->postJson("/api/v1/projects/$id/movement/$what", $body)->assertSuccessful()->json();
        if (isset($told['status'])) {
            self::assertSame('done', $this->getJson("/api/v1/runs/{$told['id']}")->json('status'), $this->getJson("/api/v1/runs/{$told['id']}")->json('message') ?? '');
            $told = $this->postJson("/api/v1/projects/$id/movement/$what", $body)->assertOk()->json();
        }

        return $told;
    }

    private static function bytes(string $url): string
    {
        $answer = Answer::query()->findOrFail(basename($url));

        return (string) Storage::disk('answers')->get($answer->file);
    }

    /**
     * @param  array<string, mixed>  $movement
     * @return array{array<string, mixed>, list<list<list<float>>>} header; by frame and piece
     */
    private function poses(int $id, array $movement): array
    {
        $bytes = self::bytes($this->answer($id, 'poses', ['movement' => $movement])['url']);
        $length = unpack('V', $bytes)[1];
        $header = json_decode(substr($bytes, 4, $length), true, flags: JSON_THROW_ON_ERROR);
        self::assertSame(0, (4 + $length) % 8);
        $numbers = array_values(unpack('e*', substr($bytes, 4 + $length)));
        $poses = array_chunk(array_chunk($numbers, HowItMoves::WIDTH), count($header['pieces']));
        self::assertCount($header['frames'], $poses);

        return [$header, $poses];
    }

    public function test_pieces_spread_as_they_are_told(): void
    {
        $id = $this->halves();
        [$header, $poses] = $this->poses($id, self::movement([['do' => 'spread', 'distance_mm' => 30, 'start' => 5, 'length' => 10, 'ease' => 'even'], ['do' => 'scatter', 'off' => true]]));
        self::assertSame([20, 21, ['chest-A', 'chest-B']], [$header['fps'], $header['frames'], $header['pieces']]);
        self::assertEquals([5, 5], $header['layers'][0]['starts']);
        self::assertEqualsWithDelta([0, 0, 0.5, 1, 1], array_map(static fn (int $frame): float => $header['layers'][0]['curve'][$frame], [0, 5, 10, 15, 20]), 1e-9);
        self::assertSame(['starts' => [], 'curve' => []], $header['layers'][1]);
        $rest = $poses[0][0][0];
        self::assertEqualsWithDelta(15, abs($poses[10][0][0] - $rest), 1e-9);
        self::assertEqualsWithDelta(30, abs($poses[20][0][0] - $rest), 1e-9);
        self::assertEqualsWithDelta([0, 0, 0, 1, 1], array_slice($poses[20][0], 3), 1e-12);
    }

    /** What falls is worked out by a run; layers after it add up with it, as the core has it. */
    public function test_what_falls_lands(): void
    {
        $id = $this->halves();
        $movement = self::movement([['do' => 'drop', 'floor' => -30, 'start' => 2], ['do' => 'spread', 'distance_mm' => 40, 'start' => 0, 'length' => 4, 'ease' => 'even']], 30);
        $told = $this->postJson("/api/v1/projects/$id/movement/poses", ['movement' => $movement])->assertAccepted()->json();
        self::assertSame('done', $this->getJson("/api/v1/runs/{$told['id']}")->json('status'));
        self::assertSame('', $this->get("/api/v1/runs/{$told['id']}/frames?from=0")->assertOk()->getContent());
        [$header, $poses] = $this->poses($id, $movement);
        // Boxes of 20 mm, of which the lowest side is at −10 or 0: they fall by 20 mm and more, and lie.
        $low = min(array_map(static fn (array $one): float => $one[2], $poses[29]));
        self::assertEqualsWithDelta(-20, $low, 0.1);
        self::assertEqualsWithDelta(80, abs($poses[29][0][0] - $poses[29][1][0]) - abs($poses[0][0][0] - $poses[0][1][0]), 1.0);
        self::assertSame($header['layers'][0]['curve'][0], 1.0);
        // Nothing of what was known meanwhile is left.
        self::assertSame([], glob(storage_path('downloads/*.frames')) ?: []);
    }

    /** While a run works, its frames are read from a byte on. */
    public function test_frames_that_are_known_already_are_read(): void
    {
        $id = $this->halves();
        $run = $this->postJson("/api/v1/projects/$id/movement/poses", ['movement' => self::movement([['do' => 'drop', 'floor' => -30]], 4)])->assertAccepted()->json('id');
        $file = HowItMoves::begun((string) Run::query()->findOrFail($run)->question);
        try {
            file_put_contents($file, 'known so far');
            self::assertSame('so far', $this->get("/api/v1/runs/$run/frames?from=6")->assertOk()->getContent());
            self::assertSame('', $this->get("/api/v1/runs/$run/frames?from=12")->assertOk()->getContent());
            self::assertSame('known so far', $this->get("/api/v1/runs/$run/frames?from=-5")->assertOk()->getContent());
        } finally {
            unlink($file);
        }
    }

    public function test_it_is_kept_and_nobody_overwrites_what_he_did_not_see(): void
    {
        $id = $this->halves();
        self::assertSame(['version' => 0, 'movement' => null], $this->getJson("/api/v1/projects/$id/movement")->assertOk()->json());
        $movement = self::movement([['do' => 'wave', 'shift' => [0, 0, 5.0]]]);
        self::assertSame(1, $this->putJson("/api/v1/projects/$id/movement", ['movement' => $movement, 'version' => 0])->assertOk()->json('version'));
        self::assertStringContainsString('Somebody else', $this->putJson("/api/v1/projects/$id/movement", ['movement' => $movement, 'version' => 0])->assertUnprocessable()->json('message'));
        self::assertEquals(['version' => 1, 'movement' => $movement], $this->getJson("/api/v1/projects/$id/movement")->json());
        $refused = $this->putJson("/api/v1/projects/$id/movement", ['movement' => self::movement([['do' => 'wave', 'width' => 0]]), 'version' => 1])->assertUnprocessable()->json('message');
        self::assertStringContainsString('layers[0].width', $refused);
    }

    public function test_it_is_taken_out(): void
    {
        $id = $this->halves();
        $movement = self::movement([['do' => 'keys', 'keys' => [['frame' => 0], ['frame' => 20, 'shift' => [0, 0, 100], 'degrees' => 90]]]]);
        $body = ['movement' => $movement];
        $csv = self::bytes($this->answer($id, 'files', [...$body, 'as' => 'csv'])['url']);
        $rows = array_map(static fn (string $line): array => str_getcsv($line, escape: ''), explode("\r\n", trim($csv)));
        self::assertSame('piece,frame,seconds,x,y,z,qx,qy,qz,qw,scale', implode(',', $rows[0]));
        self::assertCount(1 + 2 * 21, $rows);
        self::assertSame(['chest-A', '20', '1'], array_slice($rows[21], 0, 3));
        $json = json_decode(self::bytes($this->answer($id, 'files', [...$body, 'as' => 'json'])['url']), true, flags: JSON_THROW_ON_ERROR);
        self::assertEqualsWithDelta(array_map(floatval(...), array_slice($rows[21], 3)), $json['pieces']['chest-A'][20], 1e-12);
        self::assertStringStartsWith('glTF', self::bytes($this->answer($id, 'files', [...$body, 'as' => 'glb'])['url']));
        $still = $this->answer($id, 'files', [...$body, 'as' => 'still.glb', 'frame' => 20]);
        self::assertSame('Chest-frame-0020.glb', $still['name']);
        $path = $this->path('still.glb');
        file_put_contents($path, self::bytes($still['url']));
        $box = Box::of(MeshFile::read($path)->mesh->xyz);
        // Turned by a quarter about the middle, and 100 mm up.
        self::assertEqualsWithDelta([20, 40, 20], $box->size(), 1e-3);
        self::assertEqualsWithDelta(100, $box->min[2] - Box::of(Solids::box(40, 20, 20)->xyz)->min[2], 1e-3);
        file_put_contents($this->path('still.zip'), self::bytes($this->answer($id, 'files', [...$body, 'as' => 'still.obj', 'frame' => 0])['url']));
        $zip = new ZipArchive;
        self::assertTrue($zip->open($this->path('still.zip')));
        self::assertNotFalse($zip->getFromName('Chest-frame-0000.obj'));
        self::assertStringContainsString('no frame 21', $this->postJson("/api/v1/projects/$id/movement/files", [...$body, 'as' => 'still.glb', 'frame' => 21])->assertUnprocessable()->json('message'));
    }
}
