<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;
use Isotome\Check\Crossings;
use Isotome\Check\EdgePlaces;
use Isotome\Check\InnerFaces;
use Isotome\Check\Shells;
use Isotome\Exception\BadMesh;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Tree;

/** One mend at a time, as a person chooses it. Each of them leaves everything else as it is. */
final class SingleMend
{
    public const KINDS = ['join', 'doubled', 'slivers', 'inner', 'turn', 'close'];

    /**
     * @param  string  $kind  one of KINDS
     * @param  list<int>|null  $rims  for "close": rims by their place in Rims; all when null
     * @param  float|null  $distance  for "join": vertices within this distance, mm; a hundred-thousandth of the size, at open edges only, when null
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return array{mesh: Mesh, changed: int} the number of vertices joined, faces removed or turned, rims closed
     *
     * @throws BadMesh when the kind is none
     */
    public static function of(Mesh $mesh, string $kind, int $tag = 0, ?array $rims = null, ?float $distance = null, ?Closure $progress = null): array
    {
        switch ($kind) {
            case 'join':
                return self::join($mesh, $distance);
            case 'doubled':
                ['mesh' => $after, 'removed' => $changed] = RemoveDoubled::of($mesh);
                break;
            case 'slivers':
                ['mesh' => $after, 'removed' => $changed] = RemoveSlivers::of($mesh);
                break;
            case 'inner':
                // What lies inside an overlapping body stays: without it that body would be open.
                $tree = Tree::of($mesh);
                $inner = InnerFaces::of($mesh, Shells::of($mesh), EdgePlaces::of($mesh), Crossings::of($mesh, $tree, $progress)->faces, $tree, false);
                $after = $inner === [] ? $mesh : RemoveFaces::of($mesh, array_fill_keys($inner, true));
                $changed = count($inner);
                break;
            case 'turn':
                ['mesh' => $after, 'turned' => $changed] = Orient::of($mesh);
                break;
            case 'close':
                ['mesh' => $after, 'closed' => $changed] = CloseRims::of($mesh, $rims, $tag, $progress);
                break;
            default:
                throw new BadMesh("There is no mend called $kind; choose one of ".implode(', ', self::KINDS).'.');
        }

        return ['mesh' => $after, 'changed' => $changed];
    }

    /** @return array{mesh: Mesh, changed: int} */
    private static function join(Mesh $mesh, ?float $distance): array
    {
        $among = null;
        if ($distance === null) {
            $size = Box::of($mesh->xyz)->size();
            $distance = 1e-5 * sqrt($size[0] ** 2 + $size[1] ** 2 + $size[2] ** 2);
            $open = EdgePlaces::of($mesh)->open;
            $among = array_values(array_unique([...array_column($open, 0), ...array_column($open, 1)]));
        }
        if ($distance <= 0.0 || $among === []) {
            return ['mesh' => $mesh, 'changed' => 0];
        }
        ['mesh' => $after, 'joined' => $joined] = JoinVertices::of($mesh, $distance, $among);

        return ['mesh' => $after, 'changed' => $joined];
    }
}
