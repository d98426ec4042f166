<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A plate that the simulated printer was given.
 *
 * @property int $id
 * @property int $project_id
 * @property string $title
 * @property string $printer
 * @property float $seconds that printing takes
 * @property list<float> $layers the second at which each layer ends
 * @property float $grams
 * @property int $times as fast it prints
 * @property float $asked_at seconds since 1970
 * @property float|null $stopped_at
 */
final class PlatePrint extends Model
{
    public $timestamps = false;

    protected $table = 'prints';

    protected $fillable = ['project_id', 'title', 'printer', 'seconds', 'layers', 'grams', 'times', 'asked_at', 'stopped_at'];

    /** @var array<string, string> */
    protected $casts = ['layers' => 'array', 'seconds' => 'float', 'grams' => 'float', 'times' => 'integer', 'asked_at' => 'float', 'stopped_at' => 'float'];
}
