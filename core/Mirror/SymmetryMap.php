<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Closure;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Coarse;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Nearest;

/** How far every place of a body lies from its own reflection, on a mesh that can be drawn: the body's own, or a rough one of a large body. */
final readonly class SymmetryMap
{
    private const CELLS = 44;

    /** Triangles from which on none is divided further. */
    private const MOST = 20_000;

    /** @param  list<float>  $deviations  of each vertex, mm */
    private function __construct(
        public Mesh $mesh,
        public array $deviations,
    ) {
    }

    /** @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel */
    public static function of(Mesh $body, Plane $plane, ?Nearest $nearest = null, ?Closure $progress = null): self
    {
        $mesh = $body->vertexCount() <= Symmetry::PLACES ? self::refined($body) : Coarse::of($body, self::CELLS);
        $nearest ??= new Nearest($body);
        $deviations = [];
        $places = Reflect::places($mesh->xyz, $plane);
        for ($i = 0, $count = count($places); $i < $count; $i += 3) {
            if ($progress !== null && $i % 3072 === 0) {
                $progress($i / $count);
            }
            $deviations[] = $nearest->to($places[$i], $places[$i + 1], $places[$i + 2])[0];
        }

        return new self($mesh, $deviations);
    }

    /** Divided at the middles of long edges, so that colours change within large faces as well; edges that two faces share stay shared. */
    private static function refined(Mesh $mesh): Mesh
    {
        $size = Box::of($mesh->xyz)->size();
        $longest = (max($size) / self::CELLS) ** 2;
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        while (count($corners) < 3 * self::MOST) {
            /** @var array<int, int> $middle edge → vertex */
            $middle = [];
            /** @var list<int> $next */
            $next = [];
            for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
                $three = [$corners[$i], $corners[$i + 1], $corners[$i + 2]];
                /** @var list<int> $new */
                $new = [];
                for ($k = 0; $k < 3; $k++) {
                    [$p, $q] = [min($three[$k], $three[($k + 1) % 3]), max($three[$k], $three[($k + 1) % 3])];
                    $length = ($xyz[3 * $p] - $xyz[3 * $q]) ** 2 + ($xyz[3 * $p + 1] - $xyz[3 * $q + 1]) ** 2 + ($xyz[3 * $p + 2] - $xyz[3 * $q + 2]) ** 2;
                    if ($length <= $longest) {
                        $new[] = -1;

                        continue;
                    }
                    if (! isset($middle[$p << 32 | $q])) {
                        $middle[$p << 32 | $q] = intdiv(count($xyz), 3);
                        array_push($xyz, ($xyz[3 * $p] + $xyz[3 * $q]) / 2, ($xyz[3 * $p + 1] + $xyz[3 * $q + 1]) / 2, ($xyz[3 * $p + 2] + $xyz[3 * $q + 2]) / 2);
                    }
                    $new[] = $middle[$p << 32 | $q];
                }
                // From a corner before which no edge is divided, if there is one.
                $turn = $new[2] < 0 ? 0 : ($new[0] < 0 ? 1 : 2);
                [$a, $b, $c] = [$three[$turn], $three[($turn + 1) % 3], $three[($turn + 2) % 3]];
                [$ab, $bc, $ca] = [$new[$turn], $new[($turn + 1) % 3], $new[($turn + 2) % 3]];
                if ($ab >= 0 && $bc >= 0 && $ca >= 0) {
                    array_push($next, $a, $ab, $ca, $ab, $b, $bc, $ca, $bc, $c, $ab, $bc, $ca);
                } elseif ($ab >= 0 && $bc >= 0) {
                    array_push($next, $ab, $b, $bc, $a, $ab, $bc, $a, $bc, $c);
                } elseif ($ab >= 0) {
                    array_push($next, $a, $ab, $c, $ab, $b, $c);
                } elseif ($bc >= 0) {
                    array_push($next, $a, $b, $bc, $a, $bc, $c);
                } else {
                    array_push($next, $a, $b, $c);
                }
            }
            $corners = $next;
            if ($middle === []) {
                break;
            }
        }

        return Mesh::of($xyz, $corners);
    }
}
