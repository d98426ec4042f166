<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Answers\Answers;
use App\Answers\Questions;
use App\Meshes\StoreAhead;
use App\Models\Run;

/** Answers a question that takes long, and keeps the answer. */
final class WorkOutAnswer extends LongWork
{
    protected function work(Run $run, StoreAhead $ahead): \Closure
    {
        $question = Questions::read($run->settings);
        $answers = app(Answers::class);
        $row = $answers->workOut($run->project, (string) $run->question, $question, fn (float $share) => $this->report($question->doing(), 0.95 * $share));

        return static function () use ($answers, $row): string {
            $answers->keep($row);

            return 'Answered.';
        };
    }
}
