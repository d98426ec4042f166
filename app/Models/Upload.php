<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Isotome\Format\MeshFile;

/**
 * A file that was brought in and waits to be accepted.
 *
 * @property string $id
 * @property string $file
 * @property array<string, mixed> $report
 */
final class Upload extends Model
{
    use HasUlids;

    protected $fillable = ['file', 'report'];

    /** @var array<string, string> */
    protected $casts = ['report' => 'array'];

    /** Removes what was brought in and not accepted for long, and files that a kill left without a row. */
    public static function sweep(): void
    {
        foreach (self::query()->where('created_at', '<', now()->subHours((int) config('isotome.upload_hours')))->get() as $old) {
            $old->remove();
        }
        foreach (glob(storage_path('uploads/*')) ?: [] as $path) {
            // One that is being read now has its row in a moment.
            if ((int) @filemtime($path) < time() - 3600 && self::query()->whereKey(pathinfo($path, PATHINFO_FILENAME))->doesntExist()) {
                @unlink($path);
            }
        }
    }

    public function remove(): void
    {
        $this->delete();
        $this->unlink();
    }

    /** What of it is on the disk. */
    public function unlink(): void
    {
        @unlink($this->path());
        @unlink($this->readPath());
    }

    /** Where the meshes of it are that were read already, see ReadAlready. */
    public function readPath(): string
    {
        return storage_path("uploads/{$this->id}.read");
    }

    public function path(): string
    {
        return storage_path("uploads/{$this->id}.".MeshFile::ending($this->file));
    }
}
