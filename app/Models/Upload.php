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

    public function path(): string
    {
        return storage_path("uploads/{$this->id}.".MeshFile::ending($this->file));
    }
}
