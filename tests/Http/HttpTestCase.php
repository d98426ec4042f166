<?php

declare(strict_types=1);

namespace Tests\Http;

use Illuminate\Contracts\Console\Kernel;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Testing\TestCase;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Testing\TestResponse;
use Isotome\Format\StlWriter;
use Isotome\Mesh\Mesh;
use Tests\Support\AnswerTypes;
use Tests\Support\Folder;
use Tests\Support\PaintedGlb;
use Tests\Support\Solids;

/** The application with a data folder and a database of its own; work of the queue is done at once. */
abstract class HttpTestCase extends TestCase
{
    use Folder;

    /** Kinds of step that only this test has are in no type of the front end. */
    protected bool $hasOwnKinds = false;

    public function createApplication(): Application
    {
        putenv('ISOTOME_DATA='.$this->path('data'));
        $_SERVER['ISOTOME_DATA'] = $this->path('data');
        foreach (['framework/views', 'framework/cache', 'logs', 'uploads', 'downloads'] as $folder) {
            @mkdir($this->path('data')."/storage/$folder", 0700, true);
        }
        /** @var Application $app */
        $app = require __DIR__.'/../../bootstrap/app.php';
        $app->make(Kernel::class)->bootstrap();

        return $app;
    }

    protected function setUp(): void
    {
        parent::setUp();
        $this->prepareDatabase();
        Artisan::call('migrate', ['--force' => true]);
    }

    /** What is there before it is brought to this version: nothing. */
    protected function prepareDatabase(): void
    {
    }

    /**
     * Every answer is held against the front end's type of it.
     *
     * @param  string  $method
     * @param  string  $uri
     * @param  array<mixed>  $parameters
     * @param  array<mixed>  $cookies
     * @param  array<mixed>  $files
     * @param  array<mixed>  $server
     * @param  string|null  $content
     */
    public function call($method, $uri, $parameters = [], $cookies = [], $files = [], $server = [], $content = null): TestResponse
    {
        $response = parent::call($method, $uri, $parameters, $cookies, $files, $server, $content);
        $this->hasOwnKinds || AnswerTypes::check($this->app?->make('router')->current(), $method, $response);

        return $response;
    }

    protected function upload(Mesh $mesh, string $name = 'torus.stl'): TestResponse
    {
        StlWriter::write($mesh, $this->path('upload.stl'));

        return $this->postFile($name, (string) file_get_contents($this->path('upload.stl')));
    }

    protected function postFile(string $name, string $bytes): TestResponse
    {
        return $this->call('POST', '/api/v1/uploads?file='.rawurlencode($name), [], [], [], ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream'], $bytes);
    }

    /** @return int the number of a project with a torus of 1920 triangles (or the mesh given) as its stock */
    protected function project(?Mesh $mesh = null, string $name = 'Torus', string $units = 'mm'): int
    {
        $upload = $this->upload($mesh ?? Solids::torus(20, 7, 40, 24))->assertCreated()->json('id');

        return $this->postJson('/api/v1/projects', ['upload' => $upload, 'name' => $name, 'units' => $units])->assertAccepted()->json('id');
    }

    /** Brings in a box with two materials, a picture and colours. */
    protected function painted(string $up = 'z'): int
    {
        $upload = $this->postFile('painted box.glb', PaintedGlb::box())->assertCreated()->json('id');

        return $this->postJson('/api/v1/projects', ['uploads' => [$upload], 'name' => 'Painted box', 'units' => 'mm', 'up' => $up])->assertAccepted()->json('id');
    }

    /**
     * @param  array<string, mixed>  $more
     * @return array<string, mixed>
     */
    protected function flatBlade(array $more = []): array
    {
        return ['through' => [0, 0, 1], 'facing' => [0, 0, 1], ...$more];
    }

    /** @return string path of the zip that the address gives, made before if it is large */
    protected function takenOut(string $address): string
    {
        file_put_contents($path = $this->path('taken-out.zip'), $this->get($address)->assertOk()->streamedContent());

        return $path;
    }

    /**
     * A cut of a step, from a blade and what it leaves.
     *
     * @param  array<string, mixed>  $given  through, facing, and anything of series, score, faces, pieces, keep, kerf…
     * @return array{step: array<string, mixed>, pieces: mixed}
     */
    protected static function asCut(array $given): array
    {
        $series = $given['series'] ?? null;
        $blade = is_array($series) ? ['kind' => 'series', 'facing' => $given['facing'], ...$series] : ['kind' => 'flat', 'through' => $given['through'], 'facing' => $given['facing']];
        $more = array_diff_key($given, array_flip(['through', 'facing', 'series', 'score', 'pieces']));

        return ['step' => ['do' => ($given['score'] ?? false) === true ? 'score' : 'cut', 'blade' => $blade, ...$more], 'pieces' => $given['pieces'] ?? null];
    }

    /**
     * A mend, or a thickness, as a step.
     *
     * @param  array<string, mixed>  $given  pieces, and anything of only, rims, join_mm, thickness, side
     * @return array{step: array<string, mixed>, pieces: mixed}
     */
    protected static function asMend(array $given): array
    {
        $more = array_diff_key($given, array_flip(['pieces', 'thickness']));

        return ['step' => array_key_exists('thickness', $given) ? ['do' => 'thicken', 'thickness_mm' => $given['thickness'], ...$more] : ['do' => 'mend', ...$more], 'pieces' => $given['pieces']];
    }
}
