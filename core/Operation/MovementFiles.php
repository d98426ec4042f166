<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Closure;
use Isotome\Format\InsideLook;
use Isotome\Format\MeshFile;
use Isotome\Geometry\Affine;
use Isotome\Mesh\Mesh;
use Isotome\Motion\Channels;
use Isotome\Motion\Poses;
use Isotome\Motion\Quaternion;
use RuntimeException;

/** A movement as files: animated, as it is at one frame, and as tables. Whatever fails is said; the caller sees to it that no half of a file is left. */
final class MovementFiles
{
    /**
     * A node a piece, with the keys that are needed.
     *
     * @param  list<array{name: string, mesh: Mesh, colour: string}>  $pieces  in the order of the poses
     * @param  Closure(float): mixed|null  $progress  share done; it may throw to cancel
     * @return list<array{name: string, keys: array{shift: int, turn: int, scale: int}}> how many keys each has
     */
    public static function animated(array $pieces, Poses $poses, string $path, ?InsideLook $inside = null, ?Closure $progress = null): array
    {
        $moves = $told = $files = [];
        foreach ($pieces as $n => $piece) {
            $progress === null || $progress($n / count($pieces));
            $keys = Channels::of($poses, $n);
            $moves[$piece['name']] = array_map(static fn (array $channel): array => [array_map(static fn (int $frame): float => $frame / $poses->fps, $channel[0]), $channel[1]], $keys);
            $files[$piece['name']] = ['mesh' => $piece['mesh'], 'colour' => $piece['colour']];
            $told[] = ['name' => $piece['name'], 'keys' => ['shift' => count($keys['shift'][0]), 'turn' => count($keys['turn'][0]), 'scale' => count($keys['scale'][0])]];
        }
        MeshFile::writeAll($files, $path, $inside, $moves);

        return $told;
    }

    /**
     * As they are at one frame.
     *
     * @param  list<array{name: string, mesh: Mesh, colour: string}>  $pieces
     */
    public static function still(array $pieces, Poses $poses, int $frame, string $path, ?InsideLook $inside = null): void
    {
        $files = [];
        foreach ($pieces as $n => ['name' => $name, 'mesh' => $mesh, 'colour' => $colour]) {
            $files[$name] = ['mesh' => self::moved($mesh, self::map($poses, $n, $frame)), 'colour' => $colour];
        }
        MeshFile::writeAll($files, $path, $inside);
    }

    /** @param  list<float>  $map  12 numbers, see map() */
    public static function moved(Mesh $mesh, array $map): Mesh
    {
        return Mesh::of(array_values(Affine::points($mesh->xyz, $map)), $mesh->corners, $mesh->tags, $mesh->skin?->moved($map));
    }

    /** @return list<float> 12 numbers: from where a piece stands to where it is at a frame */
    public static function map(Poses $poses, int $piece, int $frame): array
    {
        [$x, $y, $z, $qx, $qy, $qz, $qw, $scale] = $poses->at($piece, $frame);
        $turn = [$qx, $qy, $qz, $qw];
        $map = [];
        foreach ([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]] as $way) {
            foreach (Quaternion::turned($turn, $way) as $c) {
                $map[] = $scale * $c;
            }
        }
        $centre = $poses->actors[$piece]->centre;
        foreach ([$x, $y, $z] as $k => $c) {
            $map[] = $c - $map[$k] * $centre[0] - $map[3 + $k] * $centre[1] - $map[6 + $k] * $centre[2];
        }

        return $map;
    }

    /** poses.json: see docs/formats. */
    public static function json(Poses $poses, string $path): void
    {
        self::written($path, static function ($file) use ($poses): void {
            fwrite($file, '{"isotome_poses":1,"fps":'.$poses->fps.',"frames":'.$poses->frames.',"pieces":{');
            // The pieces one by one: all at once would take much memory.
            foreach ($poses->actors as $n => $actor) {
                $rows = [];
                for ($frame = 0; $frame < $poses->frames; $frame++) {
                    $rows[] = $poses->at($n, $frame);
                }
                fwrite($file, ($n > 0 ? ',' : '').json_encode($actor->name, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE).':'.json_encode($rows, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));
            }
            fwrite($file, "}}\n");
        });
    }

    /** The same as a table (RFC 4180): a row a piece and frame, the time in seconds, the place in mm, the turn as a quaternion, the scale. */
    public static function csv(Poses $poses, string $path): void
    {
        self::written($path, static function ($file) use ($poses): void {
            fputcsv($file, ['piece', 'frame', 'seconds', 'x', 'y', 'z', 'qx', 'qy', 'qz', 'qw', 'scale'], escape: '', eol: "\r\n");
            foreach ($poses->actors as $n => $actor) {
                for ($frame = 0; $frame < $poses->frames; $frame++) {
                    fputcsv($file, [$actor->name, $frame, ...array_map(static fn (float $number): string => json_encode($number, JSON_THROW_ON_ERROR), [$frame / $poses->fps, ...$poses->at($n, $frame)])], escape: '', eol: "\r\n");
                }
            }
        });
    }

    /** @param  Closure(resource): void  $write */
    private static function written(string $path, Closure $write): void
    {
        $file = @fopen($path, 'wb') ?: throw new RuntimeException('The poses cannot be written; check their folder.');
        try {
            $write($file);
        } finally {
            fclose($file);
        }
    }
}
