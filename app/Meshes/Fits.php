<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Mesh as StoredMesh;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Isotome\Fit\BuildSpace;
use Isotome\Fit\Turned;
use Isotome\Mesh\Mesh;

/**
 * How pieces go into a printer's space: by their boxes, or, where those are too large, in any turn at all, which is worked out once for a mesh and a space and kept.
 */
final class Fits
{
    /** Turns that are looked at before a piece counts as too large. */
    private const PATIENCE = 1_500;

    /** Of what does not fit, mm. */
    private const TOLERANCE = 0.5;

    private const DAYS = 30;

    /** @var array<string, array{fits: bool, over: float, vector: array{float, float, float}}> by mesh */
    private array $known = [];

    /** @param  iterable<StoredMesh>  $meshes  that will be asked about */
    public function __construct(private readonly ?BuildSpace $space, iterable $meshes)
    {
        if ($space === null) {
            return;
        }
        $asked = [];
        foreach ($meshes as $mesh) {
            if (self::isOpen($mesh, $space)) {
                $asked[] = $mesh->hash;
            }
        }
        foreach (array_chunk(array_unique($asked), 500) as $some) {
            foreach (DB::table('fits')->where('space', self::key($space))->whereIn('mesh_hash', $some)->get() as $row) {
                /** @var object{mesh_hash: string, fits: int, over_mm: float, vector: string} $row */
                /** @var array{float, float, float} $vector */
                $vector = json_decode($row->vector, true, 4, JSON_THROW_ON_ERROR);
                $this->known[$row->mesh_hash] = ['fits' => (bool) $row->fits, 'over' => $row->over_mm, 'vector' => $vector];
            }
        }
    }

    /** @return array{fits: bool, how: string, over_mm: float, turn: array{axis: array{float, float, float}, degrees: float}|null, unsure: bool}|null null without a printer; unsure when only its box is known to be too large */
    public function of(StoredMesh $mesh): ?array
    {
        if ($this->space === null) {
            return null;
        }
        $box = $this->space->holds($mesh->size());
        $known = $box['fits'] ? null : ($this->known[$mesh->hash] ?? null);
        if ($known === null) {
            return [...$box, 'turn' => null, 'unsure' => ! $box['fits'] && self::isOpen($mesh, $this->space)];
        }
        if (! $known['fits']) {
            return ['fits' => false, 'how' => 'too large', 'over_mm' => min($box['over_mm'], max(0.0, $known['over'])), 'turn' => null, 'unsure' => false];
        }
        [$x, $y, $z] = $known['vector'];
        $angle = sqrt($x * $x + $y * $y + $z * $z);

        return ['fits' => true, 'how' => 'tilted', 'over_mm' => 0.0, 'turn' => ['axis' => $angle > 0.0 ? [$x / $angle, $y / $angle, $z / $angle] : [0.0, 0.0, 1.0], 'degrees' => rad2deg($angle)], 'unsure' => false];
    }

    public function isUnsure(StoredMesh $mesh): bool
    {
        return $this->of($mesh)['unsure'] ?? false;
    }

    /** Works it out and keeps it. */
    public static function learn(StoredMesh $row, Mesh $mesh, BuildSpace $space): void
    {
        $turned = Turned::into($mesh->xyz, $space, self::TOLERANCE, self::PATIENCE);
        DB::table('fits')->insertOrIgnore([
            'mesh_hash' => $row->hash, 'space' => self::key($space), 'fits' => $turned->fits(), 'over_mm' => $turned->over, 'vector' => json_encode($turned->vector, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION), 'made_at' => now(),
        ]);
    }

    /** Removes what is old and of meshes that are gone. Not at once: while the answer is kept that it was worked out, nobody works it out again. */
    public static function sweep(): void
    {
        DB::table('fits')->where('made_at', '<', now()->subDays(self::DAYS))
            ->whereNotExists(static fn (Builder $query) => $query->from('meshes')->whereColumn('meshes.hash', 'fits.mesh_hash')->selectRaw('1'))->delete();
    }

    /** Too large by its box, and not so large that no turn helps: longer than the space from corner to corner, or of more volume. */
    public static function isOpen(StoredMesh $mesh, BuildSpace $space): bool
    {
        $size = $mesh->size();

        return ! $space->holds($size)['fits'] && max($size) <= sqrt($space->x ** 2 + $space->y ** 2 + $space->z ** 2) && abs($mesh->volume) <= $space->volume();
    }

    private static function key(BuildSpace $space): string
    {
        return json_encode($space->sides(), JSON_THROW_ON_ERROR);
    }
}
