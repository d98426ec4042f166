<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use App\Models\Project;
use Closure;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Fit\BuildSpace;
use Isotome\Fit\Turned;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Geometry\EnclosingCircle;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Kind\LayStep;
use Isotome\Operation\Kinds;
use Isotome\Plate\Hull;
use Isotome\Plate\Overhang;
use Isotome\Plate\Rest;
use Isotome\Plate\Rests;

/** How each of several pieces will stand once it is laid down; of a piece alone also the other faces on which it can stand. Pieces that are not closed are named and left out. */
final readonly class HowItStands extends AboutPieces
{
    /** Triangles up to which it takes less than a blink. */
    protected const SHORT = 8000;

    /** Pieces that are looked at; of more, the first ones. */
    private const PIECES = 200;

    /** Faces that are offered. */
    private const FACES = 6;

    /** Degrees between any two of them. */
    private const APART = 20.0;

    /** @param  Collection<int, Piece>  $pieces  with their meshes */
    public static function of(LayStep $step, Collection $pieces): self
    {
        $space = Project::query()->find($pieces->first()?->project_id)?->printer?->space();

        return new self([
            'step' => [...$step->toArray(), 'of' => ['*']], 'space' => $space === null ? null : $space->sides(),
            'pieces' => self::pieces($pieces->take(self::PIECES)),
        ]);
    }

    public function doing(): string
    {
        return 'looking for faces to stand on';
    }

    public function answer(Closure $progress, string $path): ?string
    {
        $step = Kinds::read($this->content['step'], 'step');
        if (! $step instanceof LayStep) {
            throw new BadRecipe('There is nothing to lay down; set it first.');
        }
        $store = new MeshStore;
        $told = $open = $faces = $map = [];
        $turned = $below = null;
        $space = $this->content['space'] === null ? null : BuildSpace::of($this->content['space']);
        $count = count($this->content['pieces']);
        foreach ($this->content['pieces'] as $n => ['name' => $name, 'mesh' => $hash, 'watertight' => $isClosed]) {
            $progress($n / $count);
            if (! $isClosed) {
                $open[] = $name;

                continue;
            }
            $mesh = $store->get(StoredMesh::query()->findOrFail($hash));
            $rests = $count === 1 || $step->on() === null ? Rests::of($mesh) : [];
            $on = $step->on();
            $chosen = $on === null ? ($rests[0] ?? null) : Rests::on($mesh, $on);
            if ($chosen === null) {
                $open[] = $name;

                continue;
            }
            $own = LayStep::mapOn($mesh, $chosen->facing);
            $told[] = ['name' => $name, ...self::told($chosen), 'over_mm' => $space === null ? null : self::over($space, $mesh, $own)];
            if ($count === 1) {
                $faces = array_map(self::told(...), array_slice(Rests::apart($rests, self::APART), 0, self::FACES));
                $map = $own;
                $below = Overhang::of(Mesh::of(array_values(Affine::points($mesh->xyz, $own)), $mesh->corners))->volume;
                if ($space !== null && $told[0]['over_mm'] > 0.0) {
                    $progress(0.7);
                    $turned = self::turned($space, $mesh);
                }
            }
        }
        file_put_contents($path, json_encode(['pieces' => $told, 'open' => $open, 'faces' => $faces, 'map' => $map, 'below_mm3' => $below, 'turned' => $turned], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));

        return null;
    }

    /**
     * By how much a piece is too large for the printer as it will lie, turned about the upright if need be; 0 when it fits.
     *
     * @param  list<float>  $map
     */
    private static function over(BuildSpace $space, Mesh $mesh, array $map): float
    {
        $xyz = array_values(Affine::points($mesh->xyz, $map));
        $size = Box::of($xyz)->size();
        if ($space->isRound) {
            $seen = array_map(static fn (int $v): array => [$xyz[3 * $v], $xyz[3 * $v + 1]], array_values(array_unique(Hull::of($xyz))));

            return max(0.0, $size[2] - $space->z, 2 * EnclosingCircle::of($seen ?: [[0.0, 0.0]])->radius - $space->x);
        }
        $fit = $space->holds($size);

        return $fit['fits'] && $fit['how'] === 'laid down' ? max($size[2] - $space->z, max($size[0], $size[1]) - max($space->x, $space->y), min($size[0], $size[1]) - min($space->x, $space->y)) : $fit['over_mm'];
    }

    /** @return array<string, mixed> whether it fits the printer in any turn at all, and in which; else by how much it is too large at least */
    private static function turned(BuildSpace $space, Mesh $mesh): array
    {
        $xyz = [];
        foreach (array_unique(Hull::of($mesh->xyz)) as $v) {
            array_push($xyz, $mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]);
        }
        $turned = Turned::into($xyz === [] ? $mesh->xyz : $xyz, $space);
        $angle = sqrt($turned->vector[0] ** 2 + $turned->vector[1] ** 2 + $turned->vector[2] ** 2);

        return [
            'fits' => $turned->fits(), 'over_mm' => $turned->over, 'least_mm' => $turned->isUnsure() ? 0.0 : max(0.0, $turned->least),
            'about' => $angle > 0.0 ? array_map(static fn (float $part): float => $part / $angle, $turned->vector) : [0.0, 0.0, 1.0], 'degrees' => rad2deg($angle),
        ];
    }

    /** @return array<string, mixed> */
    private static function told(Rest $rest): array
    {
        return ['facing' => $rest->facing, 'footprint_mm2' => $rest->footprint, 'margin' => $rest->margin, 'height_mm' => $rest->height, 'overhang_mm2' => $rest->overhang];
    }
}
