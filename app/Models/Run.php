<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
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
 * @property Project $project
 */
final class Run extends Model
{
    use HasUlids;

    protected $fillable = ['project_id', 'kind', 'settings', 'status', 'phase', 'progress', 'message', 'cancel_asked'];

    /** @var array<string, string> */
    protected $casts = ['settings' => 'array', 'progress' => 'float', 'cancel_asked' => 'boolean'];

    /** @return BelongsTo<Project, $this> */
    public function project(): BelongsTo
    {
        return $this->belongsTo(Project::class);
    }

    public function isOver(): bool
    {
        return in_array($this->status, ['done', 'failed', 'cancelled'], true);
    }

    /**
     * A run that waits for a worker; a project has one at a time.
     *
     * @param  array<string, mixed>  $settings
     */
    public static function start(Project $project, string $kind, array $settings): self
    {
        if ($project->isBusy()) {
            throw new BadRecipe('Another step of this project is still at work; wait for it, or stop it first.');
        }

        return self::query()->create([
            'project_id' => $project->id, 'kind' => $kind, 'settings' => $settings, 'status' => 'waiting', 'phase' => 'waiting', 'progress' => 0.0,
        ]);
    }
}
