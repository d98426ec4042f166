<?php

declare(strict_types=1);

namespace App\Answers;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * An answer that is kept, in a file of the disk "answers".
 *
 * @property string $question
 * @property int $project_id
 * @property string $file
 * @property string|null $name
 * @property int $bytes
 * @property Carbon $used_at
 */
final class Answer extends Model
{
    public $timestamps = false;

    public $incrementing = false;

    protected $primaryKey = 'question';

    protected $keyType = 'string';

    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = ['bytes' => 'integer', 'used_at' => 'datetime'];
}
