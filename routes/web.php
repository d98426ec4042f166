<?php

declare(strict_types=1);

use Illuminate\Support\Facades\Route;

// One page; the addresses below it are the front end's.
Route::view('/{path?}', 'app')->where('path', '(?!api/|build/).*');
