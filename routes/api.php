<?php

declare(strict_types=1);

use App\Http\Controllers\CutController;
use App\Http\Controllers\DownloadController;
use App\Http\Controllers\GeometryController;
use App\Http\Controllers\ProjectController;
use App\Http\Controllers\RejoinController;
use App\Http\Controllers\RunController;
use App\Http\Controllers\SectionController;
use App\Http\Controllers\UploadController;
use Illuminate\Support\Facades\Route;

Route::post('uploads', [UploadController::class, 'store']);
Route::delete('uploads/{upload}', [UploadController::class, 'destroy']);

Route::get('projects', [ProjectController::class, 'index']);
Route::post('projects', [ProjectController::class, 'store']);
Route::get('projects/{project}', [ProjectController::class, 'show']);
Route::delete('projects/{project}', [ProjectController::class, 'destroy']);

Route::post('projects/{project}/section', SectionController::class);
Route::post('projects/{project}/cuts', CutController::class);
Route::post('projects/{project}/rejoin', RejoinController::class);
Route::get('projects/{project}/pieces.zip', [DownloadController::class, 'pieces']);
Route::get('projects/{project}/recipe.json', [DownloadController::class, 'recipe']);

Route::get('meshes/{mesh}/geometry', GeometryController::class);

Route::get('runs/{run}', [RunController::class, 'show']);
Route::post('runs/{run}/cancel', [RunController::class, 'cancel']);
