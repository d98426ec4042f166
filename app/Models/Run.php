<?php

declare(strict_types=1);

namespace App\Models;

use App\Answers\Question;
use App\Answers\Questions;
use App\Disk\Room;
use App\Jobs\LongWork;
use App\Runs\Keeper;
use App\Runs\Lease;
use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadRecipe;

/**
 * Long work of a queue worker, as a person follows it.
 *
 * @property string $id
 * @property int $project_id
 * @property string $kind
 * @property array<string, mixed> $settings
 * @property string $status waiting, running, done, failed or cancelled
 * @property string $phase
 * @property float $progress 0 to 1
 * @property string|null $message
 * @property bool $cancel_asked
 * @property string|null $question key of the question that it works out; null when it changes the project
 * @property string|null $job class of the work
 * @property string|null $job_id in the queue
 * @property int $lease number of the newest, see Lease
 * @property int $starts that did not end with a word
 * @property Carbon|null $updated_at
 * @property Project $project
 */
final class Run extends Model
{
    use HasUlids;

    protected $fillable = ['project_id', 'kind', 'settings', 'status', 'phase', 'progress', 'message', 'cancel_asked', 'question', 'job', 'job_id', 'lease', 'starts'];

    /** @var array<string, string> */
    protected $casts = ['settings' => 'array', 'progress' => 'float', 'cancel_asked' => 'boolean', 'lease' => 'integer', 'starts' => 'integer'];

    /** @return BelongsTo<Project, $this> */
    public function project(): BelongsTo
    {
        return $this->belongsTo(Project::class);
    }

    public function isOver(): bool
    {
        return in_array($this->status, ['done', 'failed', 'cancelled'], true);
    }

    /** Ends what nobody works on. */
    public function end(string $status, string $message): void
    {
        $this->fill(['status' => $status, 'phase' => $status, 'message' => $message])->save();
        DB::table('mesh_holds')->where('run_id', $this->id)->delete();
    }

    /**
     * A run that waits for a worker, and its job in the queue: both or neither. A project has one at a time.
     *
     * @param  array<string, mixed>  $settings
     * @param  class-string<LongWork>  $job
     */
    public static function start(Project $project, string $kind, array $settings, string $job): self
    {
        app(Room::class)->demandForStep((int) Mesh::query()->whereIn('hash', $project->pieces()->reorder()->whereNull('spent_by')->select('mesh_hash'))->sum('bytes'));

        return DB::transaction(static function () use ($project, $kind, $settings, $job): self {
            if ($project->isBusy()) {
                throw new BadRecipe('Another step of this project is still at work; wait for it, or stop it first.');
            }
            $run = self::query()->create([
                'project_id' => $project->id, 'kind' => $kind, 'settings' => $settings, 'status' => 'waiting', 'phase' => 'waiting', 'progress' => 0.0, 'job' => $job, 'lease' => 0, 'starts' => 0,
            ]);
            Keeper::enqueue($run);

            return $run;
        })->refresh();
    }

    /**
     * A run that works out an answer. It changes nothing, so that steps need not wait for it; within the caller's transaction.
     *
     * @param  class-string<LongWork>  $job
     */
    public static function ask(Project $project, Question $question, string $key, string $job): self
    {
        $run = self::query()->create([
            'project_id' => $project->id, 'kind' => 'question', 'settings' => Questions::write($question), 'question' => $key, 'status' => 'waiting', 'phase' => 'waiting', 'progress' => 0.0, 'job' => $job, 'lease' => 0, 'starts' => 0,
        ]);
        // A step may spend the pieces meanwhile: their meshes stay until this is over.
        foreach (array_chunk($question->meshes(), 300) as $hashes) {
            DB::table('mesh_holds')->insert(array_map(static fn (string $hash): array => ['run_id' => $run->id, 'mesh_hash' => $hash], $hashes));
        }
        Keeper::enqueue($run);

        return $run;
    }

    /** Which workers take it up: see App\Console\Work. */
    public function lane(): string
    {
        return $this->question === null ? 'default' : 'questions';
    }

    /** Asks the worker to stop; what nobody works on ends at once. */
    public function cancel(): void
    {
        DB::transaction(function (): void {
            $this->refresh();
            if ($this->isOver()) {
                return;
            }
            if (Lease::isAlive($this)) {
                $this->fill(['cancel_asked' => true])->save();
            } else {
                $this->end('cancelled', 'Stopped; nothing was changed.');
            }
        });
    }
}
