<?php

declare(strict_types=1);

namespace App\Providers;

use App\Database\ImmediateConnector;
use App\Runs\RunQueueConnector;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Resources\Json\JsonResource;
use Illuminate\Queue\QueueManager;
use Illuminate\Support\ServiceProvider;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind('db.connector.sqlite', ImmediateConnector::class);
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
