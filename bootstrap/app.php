<?php

declare(strict_types=1);

use App\Http\Middleware\OrdinaryInput;
use App\Http\Middleware\OwnPagesOnly;
use App\Http\Middleware\TellsLength;
use App\Http\Refusals;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Http\Middleware\HandleCors;
use Illuminate\Routing\Middleware\SubstituteBindings;
use Illuminate\Support\Facades\Route;

$app = Application::configure(basePath: dirname(__DIR__))
    ->withRouting(using: function (): void {
        Route::prefix('api/v1')->middleware(SubstituteBindings::class)->group(base_path('routes/api.php'));
        Route::group([], base_path('routes/web.php'));
    })
    ->withCommands([__DIR__.'/../app/Console'])
    ->withMiddleware(function (Middleware $middleware): void {
        // Same origin only: nothing to share with other pages.
        $middleware->remove(HandleCors::class);
        // The first two in this order, before anything looks at what came in.
        $middleware->prepend(OrdinaryInput::class);
        $middleware->prepend(OwnPagesOnly::class);
        $middleware->append(TellsLength::class);
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        Refusals::register($exceptions);
    })
    ->create();

// Everything that a person makes is in one folder; only the database and files being brought in are kept there.
$data = $_SERVER['ISOTOME_DATA'] ?? getenv('ISOTOME_DATA');
$app->useStoragePath((is_string($data) && $data !== '' ? $data : dirname(__DIR__).'/data').'/storage');

return $app;
