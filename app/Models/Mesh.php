<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A stored mesh and its measures; never changed after it was stored.
 *
 * @property string $hash
 * @property int $triangles
 * @property int $vertices
 * @property int $shells
 * @property bool $watertight
 * @property array{open_edges: int, nonmanifold_edges: int, flipped_edges: int} $faults
 * @property list<string>|null $carries what it carries besides its shape, as a person would name it
 * @property float $volume
 * @property float $area
 * @property float $x0
 * @property float $x1
 * @property float $y0
 * @property float $y1
 * @property float $z0
 * @property float $z1
 * @property int $bytes
 * @property string|null $storer who is storing it; null when all of it is there
 * @property float $cx
 * @property float $cy
 * @property float $cz
 */
final class Mesh extends Model
{
    public const UPDATED_AT = null;

    public $incrementing = false;

    protected $primaryKey = 'hash';

    protected $keyType = 'string';

    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = ['faults' => 'array', 'carries' => 'array', 'watertight' => 'boolean'];

    /** Largest absolute coordinate, mm. */
    public function extent(): float
    {
        return max(abs($this->x0), abs($this->x1), abs($this->y0), abs($this->y1), abs($this->z0), abs($this->z1));
    }

    /** Of the box, mm. */
    public function diagonal(): float
    {
        return sqrt(($this->x1 - $this->x0) ** 2 + ($this->y1 - $this->y0) ** 2 + ($this->z1 - $this->z0) ** 2);
    }

    /** @return array{float, float, float} middle of the box */
    public function centre(): array
    {
        return [($this->x0 + $this->x1) / 2, ($this->y0 + $this->y1) / 2, ($this->z0 + $this->z1) / 2];
    }

    /** @return array{float, float, float} */
    public function size(): array
    {
        return [$this->x1 - $this->x0, $this->y1 - $this->y0, $this->z1 - $this->z0];
    }
}
