<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** Several bodies as one mesh, each with its own vertices. */
final class Together
{
    /** @param  list<Mesh>  $parts */
    public static function of(array $parts): Mesh
    {
        if (count($parts) === 1) {
            return $parts[0];
        }
        $xyz = $corners = $tags = [];
        $base = 0;
        foreach ($parts as $part) {
            foreach ($part->xyz as $c) {
                $xyz[] = $c;
            }
            foreach ($part->corners as $v) {
                $corners[] = $base + $v;
            }
            foreach ($part->tags as $tag) {
                $tags[] = $tag;
            }
            $base += $part->vertexCount();
        }

        return Mesh::of($xyz, $corners, $tags);
    }
}
