<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Isotome\Mesh\Compact;
use Isotome\Mesh\Mesh;

/** Leaves out some triangles, and the vertices that nothing uses then. */
final class RemoveFaces
{
    /** @param  array<int, true>  $gone  triangle numbers */
    public static function of(Mesh $mesh, array $gone): Mesh
    {
        $corners = $tags = [];
        $i = 0;
        foreach ($mesh->tags as $t => $tag) {
            if (! isset($gone[$t])) {
                $corners[] = $mesh->corners[$i];
                $corners[] = $mesh->corners[$i + 1];
                $corners[] = $mesh->corners[$i + 2];
                $tags[] = $tag;
            }
            $i += 3;
        }
        [$xyz, $corners] = Compact::of($mesh->xyz, $corners);

        return Mesh::of($xyz, $corners, $tags);
    }
}
