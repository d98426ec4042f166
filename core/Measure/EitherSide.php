<?php

declare(strict_types=1);

namespace Isotome\Measure;

use Isotome\Geometry\Plane;
use Isotome\Mesh\Volume;

/**
 * Volume and box of what lies behind and ahead of a plane, from a mesh's blocks: those that the plane does not touch count as sums.
 *
 * The volume of a side is the sum of the tetrahedra from a point of the plane to the side's part of the surface: the cut face
 * itself adds nothing, because that point lies in it (divergence theorem). Boxes are exact. For a mesh that is not closed the
 * volumes depend on where it is open.
 */
final class EitherSide
{
    private float $behind = 0.0;

    private float $ahead = 0.0;

    /** @var array{array{float, float, float, float, float, float}, array{float, float, float, float, float, float}} x0, x1, y0, y1, z0, z1 of behind and ahead */
    private array $boxes = [[INF, -INF, INF, -INF, INF, -INF], [INF, -INF, INF, -INF, INF, -INF]];

    /** @var array{float, float, float} a point of the plane, near the mesh */
    private array $point;

    /** @param  array{float, float, float}  $centre  middle of the mesh's box */
    public function __construct(private Plane $plane, private array $centre)
    {
        $d = $plane->nx * $centre[0] + $plane->ny * $centre[1] + $plane->nz * $centre[2] - $plane->offset;
        $this->point = [$centre[0] - $d * $plane->nx, $centre[1] - $d * $plane->ny, $centre[2] - $d * $plane->nz];
    }

    /**
     * Blocks that lie wholly on one side.
     *
     * @param  array{float, float, float, float}  $sums  see Blocks::sums, added up
     * @param  array{float, float, float, float, float, float}  $box  around them all
     */
    public function whole(bool $isAhead, array $sums, array $box): void
    {
        $volume = $sums[0];
        foreach ([0, 1, 2] as $k) {
            $volume -= ($this->point[$k] - $this->centre[$k]) * $sums[$k + 1] / 3;
        }
        if ($isAhead) {
            $this->ahead += $volume;
        } else {
            $this->behind += $volume;
        }
        $side = $isAhead ? 1 : 0;
        foreach ([0, 2, 4] as $k) {
            $this->boxes[$side][$k] = min($this->boxes[$side][$k], $box[$k]);
            $this->boxes[$side][$k + 1] = max($this->boxes[$side][$k + 1], $box[$k + 1]);
        }
    }

    /** @param  iterable<string>  $payloads  blocks that the plane may touch */
    public function touched(iterable $payloads): void
    {
        [$nx, $ny, $nz] = $this->plane->facing();
        $offset = $this->plane->offset;
        [$ox, $oy, $oz] = $this->point;
        $behind = $all = 0.0;
        [$bx0, $bx1, $by0, $by1, $bz0, $bz1] = $this->boxes[0];
        [$ax0, $ax1, $ay0, $ay1, $az0, $az1] = $this->boxes[1];
        foreach ($payloads as $payload) {
            $count = ord($payload[0]) | ord($payload[1]) << 8;
            $used = ord($payload[2]) | ord($payload[3]) << 8;
            /** @var array<int, float> $c */
            $c = unpack('e'.(3 * $used), $payload, 4 + 4 * $used);
            $distances = [];
            for ($i = 1, $last = 3 * $used; $i <= $last; $i += 3) {
                $x = $c[$i];
                $y = $c[$i + 1];
                $z = $c[$i + 2];
                $distances[] = $d = $nx * $x + $ny * $y + $nz * $z - $offset;
                if ($d < 0.0) {
                    $bx0 = $x < $bx0 ? $x : $bx0;
                    $bx1 = $x > $bx1 ? $x : $bx1;
                    $by0 = $y < $by0 ? $y : $by0;
                    $by1 = $y > $by1 ? $y : $by1;
                    $bz0 = $z < $bz0 ? $z : $bz0;
                    $bz1 = $z > $bz1 ? $z : $bz1;
                }
                if ($d > 0.0) {
                    $ax0 = $x < $ax0 ? $x : $ax0;
                    $ax1 = $x > $ax1 ? $x : $ax1;
                    $ay0 = $y < $ay0 ? $y : $ay0;
                    $ay1 = $y > $ay1 ? $y : $ay1;
                    $az0 = $z < $az0 ? $z : $az0;
                    $az1 = $z > $az1 ? $z : $az1;
                }
            }
            for ($i = 4 + 28 * $used, $end = $i + 3 * $count; $i < $end; $i += 3) {
                $p = ord($payload[$i]);
                $q = ord($payload[$i + 1]);
                $r = ord($payload[$i + 2]);
                $dp = $distances[$p];
                $dq = $distances[$q];
                $dr = $distances[$r];
                $p = 3 * $p + 1;
                $q = 3 * $q + 1;
                $r = 3 * $r + 1;
                $px = $c[$p] - $ox;
                $py = $c[$p + 1] - $oy;
                $pz = $c[$p + 2] - $oz;
                $qx = $c[$q] - $ox;
                $qy = $c[$q + 1] - $oy;
                $qz = $c[$q + 2] - $oz;
                $rx = $c[$r] - $ox;
                $ry = $c[$r + 1] - $oy;
                $rz = $c[$r + 2] - $oz;
                $v = $px * ($qy * $rz - $qz * $ry) + $py * ($qz * $rx - $qx * $rz) + $pz * ($qx * $ry - $qy * $rx);
                $all += $v;
                $low = ($dp < 0.0 ? 1 : 0) + ($dq < 0.0 ? 1 : 0) + ($dr < 0.0 ? 1 : 0);
                if ($dp === 0.0 || $dq === 0.0 || $dr === 0.0) {
                    // A vertex on the plane belongs to the sides on which its triangles have something.
                    foreach ([[$dp, $p], [$dq, $q], [$dr, $r]] as [$distance, $i0]) {
                        if ($distance !== 0.0) {
                            continue;
                        }
                        if ($low > 0) {
                            $bx0 = min($bx0, $c[$i0]);
                            $bx1 = max($bx1, $c[$i0]);
                            $by0 = min($by0, $c[$i0 + 1]);
                            $by1 = max($by1, $c[$i0 + 1]);
                            $bz0 = min($bz0, $c[$i0 + 2]);
                            $bz1 = max($bz1, $c[$i0 + 2]);
                        }
                        if ($dp > 0.0 || $dq > 0.0 || $dr > 0.0) {
                            $ax0 = min($ax0, $c[$i0]);
                            $ax1 = max($ax1, $c[$i0]);
                            $ay0 = min($ay0, $c[$i0 + 1]);
                            $ay1 = max($ay1, $c[$i0 + 1]);
                            $az0 = min($az0, $c[$i0 + 2]);
                            $az1 = max($az1, $c[$i0 + 2]);
                        }
                    }
                }
                if ($low === 0 || ! ($dp > 0.0 || $dq > 0.0 || $dr > 0.0)) {
                    $behind += $low === 0 ? 0.0 : $v;

                    continue;
                }
                // The corner that is alone on its side, first.
                $alone = $low === 1;
                if (($dq < 0.0) === $alone && ($dp < 0.0) !== $alone && ($dr < 0.0) !== $alone) {
                    [$dp, $dq, $dr] = [$dq, $dr, $dp];
                    [$px, $py, $pz, $qx, $qy, $qz, $rx, $ry, $rz] = [$qx, $qy, $qz, $rx, $ry, $rz, $px, $py, $pz];
                } elseif (($dr < 0.0) === $alone && ($dp < 0.0) !== $alone) {
                    [$dp, $dq, $dr] = [$dr, $dp, $dq];
                    [$px, $py, $pz, $qx, $qy, $qz, $rx, $ry, $rz] = [$rx, $ry, $rz, $px, $py, $pz, $qx, $qy, $qz];
                }
                $s = $dp / ($dp - $dq);
                $t = $dp / ($dp - $dr);
                $behind += $alone ? $s * $t * $v : $v - $s * $t * $v;
                // Both new points belong to both boxes.
                foreach ([[$px + $s * ($qx - $px), $py + $s * ($qy - $py), $pz + $s * ($qz - $pz)], [$px + $t * ($rx - $px), $py + $t * ($ry - $py), $pz + $t * ($rz - $pz)]] as [$x, $y, $z]) {
                    $x += $ox;
                    $y += $oy;
                    $z += $oz;
                    $bx0 = min($bx0, $x);
                    $bx1 = max($bx1, $x);
                    $by0 = min($by0, $y);
                    $by1 = max($by1, $y);
                    $bz0 = min($bz0, $z);
                    $bz1 = max($bz1, $z);
                    $ax0 = min($ax0, $x);
                    $ax1 = max($ax1, $x);
                    $ay0 = min($ay0, $y);
                    $ay1 = max($ay1, $y);
                    $az0 = min($az0, $z);
                    $az1 = max($az1, $z);
                }
            }
        }
        $this->behind += $behind / 6;
        $this->ahead += ($all - $behind) / 6;
        $this->boxes = [[$bx0, $bx1, $by0, $by1, $bz0, $bz1], [$ax0, $ax1, $ay0, $ay1, $az0, $az1]];
    }

    /** @return array{behind: array{volume: float, min: array{float, float, float}, max: array{float, float, float}}|null, ahead: array{volume: float, min: array{float, float, float}, max: array{float, float, float}}|null} null where nothing lies */
    public function sides(): array
    {
        return ['behind' => self::side($this->behind, $this->boxes[0]), 'ahead' => self::side($this->ahead, $this->boxes[1])];
    }

    /**
     * @param  array{float, float, float, float, float, float}  $box
     * @return array{volume: float, min: array{float, float, float}, max: array{float, float, float}}|null
     */
    private static function side(float $volume, array $box): ?array
    {
        return $box[0] > $box[1] ? null : ['volume' => $volume, 'min' => [$box[0], $box[2], $box[4]], 'max' => [$box[1], $box[3], $box[5]]];
    }
}
