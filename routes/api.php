<?php

declare(strict_types=1);

use App\Http\Controllers\CheckController;
use App\Http\Controllers\DownloadController;
use App\Http\Controllers\FaceController;
use App\Http\Controllers\FitController;
use App\Http\Controllers\GeometryController;
use App\Http\Controllers\LineageController;
use App\Http\Controllers\MaterialController;
use App\Http\Controllers\MovementController;
use App\Http\Controllers\OutlinesController;
use App\Http\Controllers\PictureController;
use App\Http\Controllers\PieceController;
use App\Http\Controllers\PlanController;
use App\Http\Controllers\PlatesController;
use App\Http\Controllers\PrintController;
use App\Http\Controllers\PrinterController;
use App\Http\Controllers\ProfileController;
use App\Http\Controllers\ProjectController;
use App\Http\Controllers\RunController;
use App\Http\Controllers\SectionController;
use App\Http\Controllers\StepController;
use App\Http\Controllers\SymmetryController;
use App\Http\Controllers\UploadController;
use Illuminate\Support\Facades\Route;

// Numbers that the database can hold.
foreach (['project', 'step', 'printer', 'print', 'face'] as $number) {
    Route::pattern($number, '[0-9]{1,18}');
}
Route::pattern('mesh', '[0-9a-f]{64}');
foreach (['run', 'upload'] as $ulid) {
    Route::pattern($ulid, '[0-9a-zA-Z]{26}');
}

Route::post('uploads', [UploadController::class, 'store']);
Route::delete('uploads/{upload}', [UploadController::class, 'destroy']);

Route::post('outlines', OutlinesController::class);

Route::get('printers', [PrinterController::class, 'index']);
Route::post('printers', [PrinterController::class, 'store']);
Route::put('printers/{printer}', [PrinterController::class, 'update']);
Route::delete('printers/{printer}', [PrinterController::class, 'destroy']);

Route::get('projects', [ProjectController::class, 'index']);
Route::post('projects', [ProjectController::class, 'store']);
Route::post('projects/{project}/restore', [ProjectController::class, 'restore']);
Route::delete('projects/{project}/for-good', [ProjectController::class, 'purge']);
Route::prefix('projects/{project}')->group(function (): void {
    Route::get('', [ProjectController::class, 'show']);
    Route::patch('', [ProjectController::class, 'update']);
    Route::delete('', [ProjectController::class, 'destroy']);
    Route::post('meshes', [ProjectController::class, 'bringIn']);
    Route::post('duplicate', [ProjectController::class, 'duplicate']);

    Route::post('section', [SectionController::class, 'show']);
    Route::post('section/sides', [SectionController::class, 'sides']);
    Route::get('section.{format}', [SectionController::class, 'drawing'])->whereIn('format', ['svg', 'dxf']);
    Route::post('profile', [ProfileController::class, 'show']);
    Route::post('profile/widths', [ProfileController::class, 'widths']);
    Route::post('profile/stops', [ProfileController::class, 'stops']);

    Route::post('steps', [StepController::class, 'store']);
    Route::post('steps/foresee', [StepController::class, 'foresee']);
    Route::get('steps/{step}', [StepController::class, 'show']);
    Route::put('steps/{step}', [StepController::class, 'update']);
    Route::post('symmetry', SymmetryController::class);
    Route::post('plan', PlanController::class);
    Route::get('plates', [PlatesController::class, 'kept']);
    Route::put('plates', [PlatesController::class, 'keep']);
    Route::post('plates', [PlatesController::class, 'pack']);
    Route::post('plates/files', [PlatesController::class, 'files']);
    Route::post('plates/crowding', [PlatesController::class, 'crowding']);
    Route::post('plates/layers', [PlatesController::class, 'layers']);
    Route::post('sheet', [PlatesController::class, 'sheet']);
    Route::get('movement', [MovementController::class, 'kept']);
    Route::put('movement', [MovementController::class, 'keep']);
    Route::post('movement/poses', [MovementController::class, 'poses']);
    Route::post('movement/files', [MovementController::class, 'files']);
    Route::get('prints', [PrintController::class, 'index']);
    Route::post('prints', [PrintController::class, 'store']);
    Route::delete('prints/{print}', [PrintController::class, 'destroy']);
    Route::post('fits', FitController::class);
    Route::get('checks', [CheckController::class, 'index']);
    Route::post('checks', [CheckController::class, 'store']);
    Route::patch('pieces', [PieceController::class, 'update']);

    Route::put('inside-picture', [ProjectController::class, 'insidePicture']);
    Route::post('rejoin', [LineageController::class, 'rejoin']);
    Route::post('undo', [LineageController::class, 'undo']);
    Route::post('redo', [LineageController::class, 'redo']);
    Route::post('recipe', [LineageController::class, 'recipe']);

    Route::post('exports', [DownloadController::class, 'make']);
    Route::get('pieces.zip', [DownloadController::class, 'pieces']);
    Route::get('recipe.json', [DownloadController::class, 'recipe']);
});

Route::get('meshes/{mesh}/geometry', [GeometryController::class, 'show']);
Route::get('meshes/{mesh}/colours', [GeometryController::class, 'colours']);
Route::get('meshes/{mesh}/pictures', [GeometryController::class, 'pictures']);
Route::get('meshes/{mesh}/materials', [MaterialController::class, 'index']);
Route::get('meshes/{mesh}/materials/{material}/faces', [MaterialController::class, 'faces'])->where('material', '\d{1,6}');
Route::get('meshes/{mesh}/inside', [GeometryController::class, 'inside']);
Route::get('insides/{name}', [GeometryController::class, 'stuff']);
Route::get('pictures/{picture}', [GeometryController::class, 'picture'])->where('picture', '[0-9a-f]{64}');
Route::post('meshes/geometry', [GeometryController::class, 'several']);
Route::get('meshes/{mesh}/picture/{colour}/{theme}', [PictureController::class, 'show'])->where(['colour' => '[0-9a-f]{6}|own', 'theme' => 'day|night']);
Route::put('meshes/{mesh}/picture/{colour}/{theme}', [PictureController::class, 'store'])->where(['colour' => '[0-9a-f]{6}|own', 'theme' => 'day|night']);
Route::get('meshes/{mesh}/faces/{face}', FaceController::class);
Route::get('meshes/{mesh}/check', [CheckController::class, 'show']);

Route::get('answers/{key}', [DownloadController::class, 'answer'])->where('key', '[0-9a-f]{64}');
Route::get('runs/{run}', [RunController::class, 'show']);
Route::get('runs/{run}/frames', [MovementController::class, 'frames']);
Route::post('runs/{run}/cancel', [RunController::class, 'cancel']);
