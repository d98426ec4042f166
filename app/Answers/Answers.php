<?php

declare(strict_types=1);

namespace App\Answers;

use App\Disk\Room;
use App\Jobs\WorkOutAnswer;
use App\Models\Project;
use App\Models\Run;
use Closure;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;
use Isotome\Exception\BadRecipe;
use RuntimeException;

/** Questions that may take long: answered from what is kept, at once when they are short, or by a run that a person follows and can stop. */
final class Answers
{
    /** Questions of one project that may wait or be at work at a time. */
    private const AT_ONCE = 4;

    /** Days after which an answer that nobody asked for again goes. */
    private const DAYS = 7;

    /** Share of the room on the disk, that of kept answers included, which they may take. */
    private const SHARE = 0.25;

    public function __construct(private readonly Room $room, private readonly Filesystem $files)
    {
    }

    /** The kept answer, or one that was worked out now; else the run that works it out. */
    public function ask(Project $project, Question $question): Answer|Run
    {
        $key = $question->key();
        $kept = $this->kept($key);
        if ($kept !== null) {
            return $kept;
        }
        $this->room->demand($question->room());
        if ($question->isShort()) {
            return $this->keep($this->workOut($project, $key, $question, static fn (float $share) => null));
        }

        return DB::transaction(static function () use ($project, $question, $key): Run {
            $asked = Run::query()->where('project_id', $project->id)->whereNotNull('question')->whereIn('status', ['waiting', 'running']);
            $same = (clone $asked)->where('question', $key)->where('cancel_asked', false)->first();
            if ($same instanceof Run) {
                return $same;
            }
            if ($asked->count() >= self::AT_ONCE) {
                throw new BadRecipe('Four questions of this project are being worked out already; wait for one of them, or stop it first.');
            }

            return Run::ask($project, $question, $key, WorkOutAnswer::class);
        })->refresh();
    }

    public function kept(string $key): ?Answer
    {
        $answer = Answer::query()->find($key);
        if ($answer === null || ! Storage::disk('answers')->exists($answer->file)) {
            return null;
        }
        // Written down now and then only: whoever asks does not wait for those who write.
        if ($answer->used_at->lt(now()->subHour())) {
            rescue(static fn () => Answer::query()->whereKey($key)->update(['used_at' => now()]), report: false);
        }

        return $answer;
    }

    /**
     * Works an answer out and puts it where answers are kept; it counts from when its row is stored.
     *
     * @param  Closure(float): void  $progress
     * @return array<string, mixed> the row
     */
    public function workOut(Project $project, string $key, Question $question, Closure $progress): array
    {
        // Whatever a kill leaves there is swept by App\Disk\Spool.
        $path = storage_path('downloads/'.Str::ulid());
        $this->files->ensureDirectoryExists(dirname($path), 0700);
        try {
            $name = $question->answer($progress, $path);
            $file = $key.($name === null ? '.json' : strrchr($name, '.'));
            $stream = fopen($path, 'rb');
            // Under another name first: whoever is being sent the same answer, made at the same time by somebody else, has it to its end.
            $part = Str::ulid().'.part';
            if ($stream === false || ! Storage::disk('answers')->writeStream($part, $stream) || ! Storage::disk('answers')->move($part, $file)) {
                throw new RuntimeException('The answer could not be kept; check that the data folder can be written and has room.');
            }

            return ['question' => $key, 'project_id' => $project->id, 'file' => $file, 'name' => $name, 'bytes' => (int) filesize($path), 'used_at' => now()];
        } finally {
            isset($stream) && is_resource($stream) && fclose($stream);
            $this->files->delete($path);
        }
    }

    /** @param  array<string, mixed>  $row */
    public function keep(array $row): Answer
    {
        return Answer::query()->updateOrCreate(['question' => $row['question']], $row);
    }

    /** What is told, as it was written. */
    public function text(Answer $answer): string
    {
        return (string) Storage::disk('answers')->get($answer->file);
    }

    /** Removes what nobody asked for in a week, what takes too much room (the longest unused first), and files that no answer has. */
    public function sweep(): void
    {
        $disk = Storage::disk('answers');
        $left = min((int) config('isotome.answers_bytes'), (int) (self::SHARE * ($this->room->free() + (int) Answer::query()->sum('bytes'))));
        $old = now()->subDays(self::DAYS);
        foreach (Answer::query()->orderByDesc('used_at')->get() as $answer) {
            /** @var Answer $answer */
            $left -= $answer->bytes;
            if ($left < 0 || $answer->used_at->lt($old)) {
                $answer->delete();
                $disk->delete($answer->file);
            }
        }
        foreach ($disk->files() as $file) {
            // One that is young may be waiting for its row.
            if (! Answer::query()->where('file', $file)->exists() && $disk->lastModified($file) < now()->subHour()->getTimestamp()) {
                $disk->delete($file);
            }
        }
    }
}
