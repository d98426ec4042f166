<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Mesh;

/** A check with its places as points of space, for whoever shows them: lines for edges and rims, triangles for faces. */
final class PlacedReport
{
    /** At most so many places a fault are given, and points a rim; counts are always whole. */
    private const MOST = 500;

    /**
     * @return array{counts: array<mixed>, notes: array<string, int|null>, sound: bool, rims: list<array{length_mm: float, edges: int, closed: bool, points: list<float>}>, lines: array<string, list<float>>, triangles: array<string, list<float>>, points: array<string, list<float>>} points flat, x y z, mm
     */
    public static function of(Report $report): array
    {
        $places = $report->places(self::MOST);
        $mesh = $report->mesh;
        $lines = $triangles = [];
        foreach (['open_edges', 'nonmanifold_edges', 'flipped_edges'] as $fault) {
            /** @var list<array{int, int}> $edges */
            $edges = $places[$fault];
            $lines[$fault] = self::points($mesh, array_merge(...array_map(static fn (array $edge): array => [$edge[0], $edge[1]], $edges)));
        }
        foreach (['doubled_faces', 'sliver_faces', 'inner_faces'] as $fault) {
            /** @var list<int> $faces */
            $faces = $places[$fault];
            $triangles[$fault] = self::faces($mesh, $faces);
        }
        $triangles['crossing_faces'] = self::faces($mesh, array_slice(array_keys($report->crossings->faces ?? []), 0, self::MOST));
        $inverted = [];
        if ($report->shells->inverted !== []) {
            $turned = array_fill_keys($report->shells->inverted, true);
            foreach ($mesh->tags as $t => $_) {
                if (count($inverted) < self::MOST && isset($turned[$report->shells->of[$mesh->corners[3 * $t]]])) {
                    $inverted[] = $t;
                }
            }
        }
        $triangles['inverted_shells'] = self::faces($mesh, $inverted);
        $rims = [];
        /** @var list<array{vertices: list<int>, length_mm: float, closed: bool}> $list */
        $list = $places['rims'];
        foreach ($list as $n => $rim) {
            $rims[] = ['length_mm' => $rim['length_mm'], 'edges' => count($report->rims->list[$n]['vertices']), 'closed' => $rim['closed'], 'points' => self::points($mesh, $rim['vertices'])];
        }
        /** @var list<array{int, int}> $near */
        $near = $places['near_vertices'];

        return [
            'counts' => (array) $report->toArray()['faults'], 'notes' => $report->notes(), 'sound' => $report->isSound(),
            'rims' => $rims, 'lines' => $lines, 'triangles' => $triangles, 'points' => ['near_vertices' => self::points($mesh, array_column($near, 0))],
        ];
    }

    /**
     * @param  list<int>  $faces
     * @return list<float>
     */
    public static function faces(Mesh $mesh, array $faces): array
    {
        $vertices = [];
        foreach ($faces as $t) {
            $vertices[] = $mesh->corners[3 * $t];
            $vertices[] = $mesh->corners[3 * $t + 1];
            $vertices[] = $mesh->corners[3 * $t + 2];
        }

        return self::points($mesh, $vertices);
    }

    /**
     * @param  array<int>  $vertices
     * @return list<float>
     */
    private static function points(Mesh $mesh, array $vertices): array
    {
        $points = [];
        foreach ($vertices as $v) {
            $points[] = $mesh->xyz[3 * $v];
            $points[] = $mesh->xyz[3 * $v + 1];
            $points[] = $mesh->xyz[3 * $v + 2];
        }

        return $points;
    }
}
