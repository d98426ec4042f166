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
use Isotome\Seal\Rim;

/** From the open halves of a cut to its bodies: what every kind of flat cut does after dividing the triangles. */
final class Closing
{
    private const LARGEST_FOLD = 64;

    public static function cap(Rim $rim, FlatBlade $blade): Cap
    {
        return match (true) {
            $rim->from === [] => Cap::none(),
            $blade->seal === Seal::Even => EvenSeal::of($rim, $blade->edge),
            $blade->seal === Seal::Lean, $blade->keep === Keep::Outline => LeanSeal::of($rim),
            default => Cap::none(),
        };
    }

    /**
     * A skin with the caps of all the cuts that bound it.
     *
     * @param  array{list<float>, list<int>, list<int>}  $skin  coordinates, corners, tags
     * @param  list<array{Rim, Cap, bool, int}>  $rims  of all cuts, their caps, whether the skin is behind each, and the vertex of its rim point 0
     */
    public static function shut(array $skin, array $rims, int $tag): Mesh
    {
        [$xyz, $corners, $tags] = $skin;
        unset($skin);
        $pinched = [];
        foreach ($rims as [$rim, $cap, $isBehind, $base]) {
            $known = intdiv(count($rim->xyz), 3);
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
            foreach (array_count_values($rim->from) as $point => $edges) {
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
     * @param  list<Mesh>  $bodies
     * @return list<Mesh>
     */
    public static function bodies(array $bodies, int $tag): array
    {
        return self::largestFirst(array_values(array_filter(
            $bodies,
            static fn (Mesh $body): bool => $body->triangleCount() > self::LARGEST_FOLD
                || 2 * count(array_keys($body->tags, $tag, true)) !== $body->triangleCount()
                || 2 * FaceCheck::of($body)->doubled !== $body->triangleCount(),
        )), false);
    }

    /** @return list<Mesh> the section faces as flat sheets, largest first */
    public static function sheets(Rim $rim, Cap $cap, int $tag): array
    {
        $tags = $cap->triangles === [] ? [] : array_fill(0, intdiv(count($cap->triangles), 3), $tag);

        return self::largestFirst(Bodies::of(Mesh::of([...$rim->xyz, ...$cap->newXyz], $cap->triangles, $tags)), true);
    }

    /** @return list<list<array{float, float, float}>> the outlines that could not be closed, as points */
    public static function unclosed(Rim $rim, Cap $cap): array
    {
        return array_map(
            static fn (array $path): array => array_map(
                static fn (int $p): array => [$rim->xyz[3 * $p], $rim->xyz[3 * $p + 1], $rim->xyz[3 * $p + 2]],
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
        $sizes = array_map(static fn (Mesh $body): float => $byArea ? Volume::measure($body)->area : abs(Volume::roughly($body)), $bodies);
        if (! $byArea && self::areNear($sizes)) {
            $sizes = array_map(static fn (Mesh $body): float => abs(Volume::of($body)), $bodies);
        }
        arsort($sizes);

        return array_map(static fn (int $i): Mesh => $bodies[$i], array_keys($sizes));
    }

    /**
     * Are any two so near each other that plain sums may not tell which is larger?
     *
     * @param  non-empty-list<float>  $sizes
     */
    private static function areNear(array $sizes): bool
    {
        rsort($sizes);
        foreach ($sizes as $i => $size) {
            if ($i > 0 && 1e-6 * $sizes[0] >= $sizes[$i - 1] - $size) {
                return true;
            }
        }

        return false;
    }
}
