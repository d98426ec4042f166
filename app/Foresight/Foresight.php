<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Answers\Question;
use App\Models\Piece;
use Illuminate\Support\Collection;
use Isotome\Operation\Step;

/** Tells what a step of some kinds would do to pieces that are stored, before it does it. */
interface Foresight
{
    /**
     * @param  Collection<int, Piece>  $pieces  with their meshes
     * @param  bool  $tried  made for a try on the pieces themselves, where they are small enough
     * @return array<string, mixed>|Question for the front end; a question where it may take long
     */
    public function foresee(Step $step, Collection $pieces, bool $tried): array|Question;
}
