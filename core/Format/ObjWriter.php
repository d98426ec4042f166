<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\InsidePlaces;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;
use Isotome\Mesh\SmoothNormals;

/**
 * Writes Wavefront OBJ: an object a piece under its name, with its own vertices, in 64-bit floats that read back exactly; millimetres, Z up. Materials and their pictures
 * are in a library beside it: those that the pieces carry, a skin for what carries none, and an inside for each.
 *
 * An OBJ file has one set of texture coordinates, the first. Normals are worked out where a piece carries none, see SmoothNormals.
 * Sources: see ObjReader and MtlReader.
 */
final class ObjWriter
{
    public const HEAD = '# Isotome, millimetres, Z up';

    /** Behind the head when no piece carried normals: read again, those here are none of its own. */
    public const WORKED_OUT = 'normals worked out';

    private int $vertices = 0;

    private int $places = 0;

    private int $normals = 0;

    /** @param  array<string, array{mesh: Mesh, colour: string}>  $pieces  by name, brought to the file's numbers */
    private function __construct(private readonly array $pieces, private readonly InsideLook $inside)
    {
    }

    /**
     * @param  array<string, array{mesh: Mesh, colour: string}>  $pieces  by name, brought to the file's numbers
     */
    public static function write(array $pieces, string $path, ?InsideLook $inside = null): void
    {
        $writer = new self($pieces, $inside ?? InsideLook::plain());
        $library = $writer->needsLibrary() ? TextWriters::word(pathinfo($path, PATHINFO_FILENAME)).'.mtl' : null;
        $looks = [];
        foreach ($pieces as ['mesh' => $mesh]) {
            $looks[] = $mesh->skin->looks ?? new Looks;
        }
        [$all, $numbers] = $looks === [] ? [new Looks, []] : Looks::together($looks);
        $taken = [];
        foreach ($pieces as $name => $_) {
            $taken += [TextWriters::word((string) $name).'_skin' => true, TextWriters::word((string) $name).'_inside' => true];
        }
        $materials = new MtlWriter($all, $taken);
        if ($library !== null) {
            $folder = dirname($path);
            $materials->pictures($folder);
            $picture = $writer->inside->picture;
            if ($picture !== null && ! is_file($folder.'/'.MtlWriter::file($picture))) {
                Files::write($folder.'/'.MtlWriter::file($picture), [$picture['bytes']]);
            }
            Files::write("$folder/$library", (static function () use ($pieces, $materials, $writer): iterable {
                yield from Materials::library($pieces, $writer->inside);
                yield from $materials->library();
            })());
        }
        Files::write($path, $writer->chunks($library, $materials, $numbers));
    }

    /** Where there is an inside to tell from the skin, several pieces, or something that a piece carries. */
    private function needsLibrary(): bool
    {
        foreach ($this->pieces as ['mesh' => $mesh]) {
            if (($mesh->tags !== [] && max($mesh->tags) > 0) || ($mesh->skin !== null && trim($mesh->skin->materials, "\0") !== '')) {
                return true;
            }
        }

        return count($this->pieces) > 1;
    }

    /**
     * @param  list<list<int>>  $numbers  of each piece's materials among all of them
     * @return iterable<string>
     */
    private function chunks(?string $library, MtlWriter $materials, array $numbers): iterable
    {
        $areWorkedOut = true;
        foreach ($this->pieces as ['mesh' => $mesh]) {
            $areWorkedOut = $areWorkedOut && ! isset($mesh->skin->layers[Skin::NORMAL]);
        }
        yield self::HEAD.($areWorkedOut ? '; '.self::WORKED_OUT : '')."\n".($library === null ? '' : "mtllib $library\n");
        $n = 0;
        foreach ($this->pieces as $name => ['mesh' => $mesh]) {
            $word = TextWriters::word((string) $name);
            yield "o $word\n";
            yield from self::vertices($mesh);
            $normalAt = yield from $this->normals($mesh);
            $placeAt = yield from $this->places($mesh);
            $by = [];
            $carried = $mesh->skin === null ? [] : Packing::ofLongs($mesh->skin->materials);
            foreach ($mesh->tags as $t => $tag) {
                $by[$tag > 0 ? PHP_INT_MAX : ($carried[$t] ?? 0)][] = $t;
            }
            ksort($by);
            foreach ($by as $material => $triangles) {
                if ($library !== null) {
                    yield 'usemtl '.match ($material) {
                        PHP_INT_MAX => "{$word}_inside",
                        0 => "{$word}_skin",
                        default => $materials->names[$numbers[$n][$material - 1] ?? -1] ?? "{$word}_skin",
                    }."\n";
                }
                yield from $this->faces($mesh, $triangles, $placeAt, $normalAt);
            }
            $this->vertices += $mesh->vertexCount();
            $n++;
        }
    }

    /** @return iterable<string> with their colours behind them where the skin carries any */
    private static function vertices(Mesh $mesh): iterable
    {
        $colours = VertexColours::of($mesh);
        if ($colours === null) {
            yield from TextWriters::lines($mesh->xyz, 'v ');

            return;
        }
        foreach (array_chunk($mesh->xyz, 3) as $v => $place) {
            yield 'v '.implode(' ', array_map(TextNumber::exact(...), $place)).sprintf(" %.6g %.6g %.6g\n", $colours[$v][0], $colours[$v][1], $colours[$v][2]);
        }
    }

    /** @return \Generator<int, string, mixed, list<int>> lines; and for each corner the number of its normal, 0 for none */
    private function normals(Mesh $mesh): \Generator
    {
        $carried = ($mesh->skin->layers[Skin::NORMAL] ?? null)?->bytes;
        $hasInside = $mesh->tags !== [] && max($mesh->tags) > 0;
        $none = str_repeat("\0", 24);
        $hasGaps = $carried !== null && str_contains($carried, $none);
        $worked = null;
        if ($mesh->triangleCount() <= SmoothNormals::MOST && ($carried === null || $hasInside || $hasGaps)) {
            $worked = SmoothNormals::shared($mesh);
        }
        if ($carried === null && $worked === null) {
            return [];
        }
        $at = $number = [];
        $text = '';
        foreach ($mesh->corners as $i => $v) {
            // A face that is new, though not an inside one, carries none: it was made by a mend, say.
            $isWorked = $carried === null || $mesh->tags[intdiv($i, 3)] > 0 || ($hasGaps && substr_compare($carried, $none, 24 * $i, 24) === 0);
            if ($isWorked && $worked === null) {
                $at[] = 0;

                continue;
            }
            $key = $isWorked ? $worked[0][$i] ?? 0 : substr($carried, 24 * $i, 24);
            if (! isset($number[$key])) {
                /** @var array{1: float, 2: float, 3: float} $n */
                $n = is_int($key) ? [1 => $worked[1][$key] ?? 0.0, 2 => $worked[2][$key] ?? 0.0, 3 => $worked[3][$key] ?? 0.0] : unpack('e3', $key);
                $isNone = $n[1] == 0.0 && $n[2] == 0.0 && $n[3] == 0.0;
                $number[$key] = $isNone ? 0 : ++$this->normals;
                $text .= $isNone ? '' : 'vn '.TextNumber::single($n[1]).' '.TextNumber::single($n[2]).' '.TextNumber::single($n[3])."\n";
                if (strlen($text) > 1 << 18) {
                    yield $text;
                    $text = '';
                }
            }
            $at[] = $number[$key];
        }
        yield $text;

        return $at;
    }

    /** @return \Generator<int, string, mixed, list<int>> lines; and for each corner the number of its texture coordinates, 0 for none */
    private function places(Mesh $mesh): \Generator
    {
        $skin = null;
        foreach ($mesh->skin->layers ?? [] as $name => $layer) {
            if (str_starts_with($name, Skin::TEXTURE)) {
                $skin = $layer->bytes;
                break;
            }
        }
        $inside = $mesh->tags !== [] && max($mesh->tags) > 0 ? InsidePlaces::of($mesh, $this->inside->turn) : null;
        if ($skin === null && $inside === null) {
            return [];
        }
        [$across, $up] = $this->inside->scales();
        $at = $number = [];
        $text = '';
        foreach ($mesh->tags as $t => $tag) {
            $bytes = $tag > 0 ? $inside : $skin;
            for ($i = 3 * $t, $end = $i + 3; $i < $end; $i++) {
                if ($bytes === null) {
                    $at[] = 0;

                    continue;
                }
                $own = substr($bytes, 16 * $i, 16);
                $key = $tag > 0 ? "i$own" : $own;
                if (! isset($number[$key])) {
                    /** @var array{1: float, 2: float} $uv */
                    $uv = unpack('e2', $own);
                    // Upwards in the file, downwards on the skin.
                    [$u, $v] = $tag > 0 ? [$across * $uv[1], $up * $uv[2]] : [$uv[1], 1.0 - $uv[2]];
                    $number[$key] = ++$this->places;
                    $text .= 'vt '.TextNumber::single($u).' '.TextNumber::single($v)."\n";
                    if (strlen($text) > 1 << 18) {
                        yield $text;
                        $text = '';
                    }
                }
                $at[] = $number[$key];
            }
        }
        yield $text;

        return $at;
    }

    /**
     * @param  list<int>  $triangles
     * @param  list<int>  $placeAt
     * @param  list<int>  $normalAt
     * @return iterable<string>
     */
    private function faces(Mesh $mesh, array $triangles, array $placeAt, array $normalAt): iterable
    {
        $base = $this->vertices + 1;
        $text = '';
        foreach ($triangles as $t) {
            $text .= 'f';
            for ($i = 3 * $t, $end = $i + 3; $i < $end; $i++) {
                $place = $placeAt[$i] ?? 0;
                $normal = $normalAt[$i] ?? 0;
                $text .= ' '.($base + $mesh->corners[$i]).($place > 0 ? "/$place" : ($normal > 0 ? '/' : '')).($normal > 0 ? "/$normal" : '');
            }
            $text .= "\n";
            if (strlen($text) > 1 << 18) {
                yield $text;
                $text = '';
            }
        }
        yield $text;
    }
}
