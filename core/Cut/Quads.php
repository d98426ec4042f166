<?php

declare(strict_types=1);

namespace Isotome\Cut;

/**
 * Four-sided faces that wait for the next blade of a series: what is left of triangles ahead of the blade before it.
 *
 * corners  4 a face, in the sense of the triangle; the first two lie on the blade before.
 * tags     1 a face.
 */
final readonly class Quads
{
    /**
     * @param  list<int>  $corners
     * @param  list<int>  $tags
     */
    public function __construct(public array $corners = [], public array $tags = [])
    {
    }

    /**
     * As triangles, divided by the shorter diagonal.
     *
     * @param  list<float>  $xyz
     * @return array{list<int>, list<int>} corners and tags
     */
    public function triangles(array $xyz): array
    {
        $corners = $tags = [];
        foreach ($this->tags as $q => $tag) {
            $loop = array_slice($this->corners, 4 * $q, 4);
            $places = [];
            foreach ($loop as $v) {
                array_push($places, $xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]);
            }
            foreach (Fan::of($places) as $k) {
                $corners[] = $loop[$k];
            }
            array_push($tags, $tag, $tag);
        }

        return [$corners, $tags];
    }
}
