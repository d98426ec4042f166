<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Isotome\Fit\BuildSpace;

/**
 * A printer's working space, mm: generic profiles, and a person's own.
 *
 * @property int $id
 * @property string $name
 * @property float $x
 * @property float $y
 * @property float $z
 * @property bool $own
 */
final class Printer extends Model
{
    public $timestamps = false;

    protected $fillable = ['name', 'x', 'y', 'z', 'own'];

    /** @var array<string, string> */
    protected $casts = ['own' => 'boolean', 'x' => 'float', 'y' => 'float', 'z' => 'float'];

    public function space(): BuildSpace
    {
        return new BuildSpace($this->x, $this->y, $this->z);
    }
}
