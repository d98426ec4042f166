<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Isotome\Fit\BuildSpace;

/**
 * A printer's working space and what it prints with, mm: generic profiles, and a person's own.
 *
 * @property int $id
 * @property string $name
 * @property float $x
 * @property float $y
 * @property float $z
 * @property bool $own
 * @property bool $round  its bed is round, and x and y its diameter
 * @property float $nozzle
 * @property float $layer
 * @property float $gap  that parts need to fit into each other
 * @property float $margin  of the bed, that stays free
 */
final class Printer extends Model
{
    public $timestamps = false;

    protected $fillable = ['name', 'x', 'y', 'z', 'own', 'round', 'nozzle', 'layer', 'gap', 'margin'];

    /** @var array<string, string> */
    protected $casts = ['own' => 'boolean', 'x' => 'float', 'y' => 'float', 'z' => 'float', 'round' => 'boolean', 'nozzle' => 'float', 'layer' => 'float', 'gap' => 'float', 'margin' => 'float'];

    public function space(): BuildSpace
    {
        return new BuildSpace($this->x, $this->y, $this->z, $this->round);
    }
}
