<?php

declare(strict_types=1);

namespace App\Providers;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Resources\Json\JsonResource;
use Illuminate\Support\ServiceProvider;

final class AppServiceProvider extends ServiceProvider
{
    public function boot(): void
    {
        // Numbers keep all their digits on the way to the database.
        ini_set('precision', '-1');
        Model::shouldBeStrict();
        JsonResource::withoutWrapping();
    }
}
