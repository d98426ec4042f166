<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * The whole check of a stored mesh; it holds as long as the mesh does, for every project.
 *
 * @property string $mesh_hash
 * @property array<string, mixed> $report
 */
final class Check extends Model
{
    public const UPDATED_AT = null;

    public $incrementing = false;

    protected $primaryKey = 'mesh_hash';

    protected $keyType = 'string';

    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = ['report' => 'array'];
}
