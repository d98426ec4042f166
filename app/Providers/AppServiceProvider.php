<?php

declare(strict_types=1);

namespace App\Providers;

use App\Database\ImmediateConnector;
use App\Http\SoundJson;
use App\Runs\RunQueueConnector;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Contracts\Routing\ResponseFactory;
use Illuminate\Contracts\View\Factory as ViewFactory;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Resources\Json\JsonResource;
use Illuminate\Queue\QueueManager;
use Illuminate\Support\ServiceProvider;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind('db.connector.sqlite', ImmediateConnector::class);
        $this->app->singleton(ResponseFactory::class, static fn (Application $app): SoundJson => new SoundJson($app->make(ViewFactory::class), $app->make('redirect')));
        $this->app->resolving('queue', static function (QueueManager $queues, Application $app): void {
            $queues->addConnector('database', static fn (): RunQueueConnector => new RunQueueConnector($app->make('db')));
        });
    }

    public function boot(): void
    {
        // Numbers keep all their digits on the way to the database.
        ini_set('precision', '-1');
        Model::shouldBeStrict();
        JsonResource::withoutWrapping();
    }
}
