<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** Several bodies as one mesh, each with its own vertices. Operations join bare ones; see Carry. */
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

    /**
     * With what they carry; where one carries less than another, it is blank.
     *
     * @param  non-empty-list<Mesh>  $sources
     */
    public static function dressed(array $sources): Mesh
    {
        $whole = self::of(array_map(static fn (Mesh $mesh): Mesh => $mesh->withSkin(null), $sources));
        $widths = $all = [];
        foreach ($sources as $mesh) {
            foreach ($mesh->skin->layers ?? [] as $name => $layer) {
                $widths[$name] = max($widths[$name] ?? 0, $layer->width);
            }
            $all[] = $mesh->skin->looks ?? new Looks;
        }
        if ($widths === [] && array_filter($sources, static fn (Mesh $mesh): bool => $mesh->skin !== null) === []) {
            return $whole;
        }
        [$looks, $numbers] = Looks::together($all);
        $materials = '';
        $values = array_fill_keys(array_keys($widths), '');
        foreach ($sources as $n => $mesh) {
            $count = $mesh->triangleCount();
            $own = $mesh->skin->materials ?? str_repeat("\0\0\0\0", $count);
            $isSame = $numbers[$n] === array_keys($numbers[$n]);
            $materials .= $isSame ? $own : Packing::longs(array_map(static fn (int $m): int => $m === 0 ? 0 : 1 + ($numbers[$n][$m - 1] ?? -1), Packing::ofLongs($own)));
            foreach ($widths as $name => $width) {
                $layer = $mesh->skin->layers[$name] ?? null;
                $values[$name] .= $layer === null ? str_repeat(Layer::blank($name, $width), $count) : $layer->bytes;
            }
        }
        $layers = [];
        foreach ($widths as $name => $width) {
            $layers[$name] = new Layer($width, $values[$name]);
        }

        return $whole->withSkin(new Skin($looks, $materials, $layers));
    }
}
