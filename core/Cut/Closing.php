<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Check\FaceCheck;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Pinches;
use Isotome\Mesh\Volume;
use Isotome\Seal\Cap;
use Isotome\Seal\EvenSeal;
use Isotome\Seal\LeanSeal;

/** From the open halves of a cut to its bodies: what every kind of flat cut does after dividing the triangles. */
final class Closing
{
    private const LARGEST_FOLD = 64;

    public static function cap(Halves $halves, FlatBlade $blade): Cap
    {
        return match (true) {
            $blade->seal === Seal::Even => EvenSeal::of($halves->rim, $blade->edge),
            $blade->seal === Seal::Lean, $blade->keep === Keep::Outline => LeanSeal::of($halves->rim),
            default => Cap::none(),
        };
    }

    /** One side with the cap on it; the side is handed out, so this works once a side. */
    public static function side(Halves $halves, bool $isBehind, Cap $cap, int $tag): Mesh
    {
        return self::shut($halves->take($isBehind), [[$halves, $cap, $isBehind, $isBehind ? $halves->behindBase : $halves->aheadBase]], $tag);
    }

    /**
     * A skin with the caps of all the cuts that bound it.
     *
     * @param  array{list<float>, list<int>, list<int>}  $skin  coordinates, corners, tags
     * @param  list<array{Halves, Cap, bool, int}>  $rims  cuts, their caps, whether the skin is behind each, and the vertex of its rim point 0
     */
    public static function shut(array $skin, array $rims, int $tag): Mesh
    {
        [$xyz, $corners, $tags] = $skin;
        unset($skin);
        $pinched = [];
        foreach ($rims as [$halves, $cap, $isBehind, $base]) {
            $known = intdiv(count($halves->rim->xyz), 3);
            $newBase = intdiv(count($xyz), 3) - $known;
            foreach ($cap->newXyz as $coordinate) {
                $xyz[] = $coordinate;
            }
            if ($cap->divided !== []) {
                [$xyz, $corners, $tags] = RimPoints::into($xyz, $corners, $tags, $cap->divided, $base, $newBase, $isBehind);
            }
            [$second, $third] = $isBehind ? [1, 2] : [2, 1];
            $count = count($cap->triangles);
            for ($i = 0; $i < $count; $i += 3) {
                foreach ([$cap->triangles[$i], $cap->triangles[$i + $second], $cap->triangles[$i + $third]] as $point) {
                    $corners[] = $point + ($point < $known ? $base : $newBase);
                }
                $tags[] = $tag;
            }
            foreach (array_count_values($halves->rim->from) as $point => $edges) {
                if ($edges > 1) {
                    $pinched[$base + $point] = true;
                }
            }
        }
        if ($pinched !== []) {
            [$xyz, $corners] = Pinches::apart($xyz, $corners, $pinched);
        }

        return Mesh::of($xyz, $corners, $tags);
    }

    /**
     * The bodies of one side, largest volume first.
     *
     * Faces that lie on the blade a rounding error the wrong way round would be cut off as a body of skin and cap back to
     * back: that is nothing, and is left out.
     *
     * @return list<Mesh>
     */
    public static function bodies(Mesh $side, int $tag): array
    {
        return self::largestFirst(array_values(array_filter(
            Bodies::of($side),
            static fn (Mesh $body): bool => $body->triangleCount() > self::LARGEST_FOLD
                || 2 * count(array_keys($body->tags, $tag, true)) !== $body->triangleCount()
                || 2 * FaceCheck::of($body)->doubled !== $body->triangleCount(),
        )), false);
    }

    /** @return list<Mesh> the section faces as flat sheets, largest first */
    public static function sheets(Halves $halves, Cap $cap, int $tag): array
    {
        $tags = $cap->triangles === [] ? [] : array_fill(0, intdiv(count($cap->triangles), 3), $tag);

        return self::largestFirst(Bodies::of(Mesh::of([...$halves->rim->xyz, ...$cap->newXyz], $cap->triangles, $tags)), true);
    }

    /** @return list<list<array{float, float, float}>> the outlines that could not be closed, as points */
    public static function unclosed(Halves $halves, Cap $cap): array
    {
        return array_map(
            static fn (array $path): array => array_map(
                static fn (int $p): array => [$halves->rim->xyz[3 * $p], $halves->rim->xyz[3 * $p + 1], $halves->rim->xyz[3 * $p + 2]],
                $path,
            ),
            $cap->unclosed,
        );
    }

    /**
     * @param  list<Mesh>  $bodies
     * @return list<Mesh>
     */
    private static function largestFirst(array $bodies, bool $byArea): array
    {
        if (count($bodies) < 2) {
            return $bodies;
        }
        $sizes = [];
        foreach ($bodies as $i => $body) {
            $sizes[$i] = $byArea ? Volume::measure($body)->area : abs(Volume::of($body));
        }
        arsort($sizes);

        return array_map(static fn (int $i): Mesh => $bodies[$i], array_keys($sizes));
    }
}
