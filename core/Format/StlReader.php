<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;
use Isotome\Geometry\Extent;
use Isotome\Geometry\Zero;
use Isotome\Mesh\Compact;
use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;

/**
 * Reads STL, binary or ASCII, in chunks, welding vertices whose coordinates are exactly equal (0 and −0 are one number).
 *
 * The length of a binary file follows from its triangle count, so a file whose length fits is binary even when its header
 * begins with "solid". Source: 3D Systems, StereoLithography Interface Specification (1988): 80 bytes header, 32-bit little-endian
 * count, 50 bytes a triangle. Normals are not trusted; the corners' order decides. The two bytes at a triangle's end are its colour when the header says "COLOR=" (common
 * practice, from memory: five bits each of red, green and blue from the lowest on; the highest bit set for the colour that the header names); else they mean nothing.
 */
final class StlReader
{
    private const CHUNK = 8192;

    /** Largest value of a 32-bit float. */
    private const LARGEST = 3.4028234663852886e38;

    /**
     * @throws UnreadableMesh when the file is missing, empty, cut short, lies about its length, or holds a coordinate that is not finite
     */
    public static function read(string $path, Units $units = Units::Millimetres): ReadMesh
    {
        $file = is_file($path) ? @fopen($path, 'rb') : false;
        // Asked of the open file: PHP remembers sizes by name.
        $size = $file === false ? 0 : (int) (fstat($file)['size'] ?? 0);
        $name = basename($path);
        if ($file === false) {
            throw new UnreadableMesh("The file $name cannot be opened; check its name and that it may be read.");
        }
        try {
            if ($size === 0) {
                throw new UnreadableMesh("The file $name is empty; export the mesh again.");
            }
            $head = (string) fread($file, 1024);
            $count = strlen($head) >= 84 ? self::unsigned(substr($head, 80, 4)) : 0;
            if (strlen($head) >= 84 && $size === 84 + 50 * $count) {
                return self::binary($file, $count, $name, $units, substr($head, 0, 80));
            }
            if (self::looksLikeText($head)) {
                return self::ascii($file, $name, $units);
            }
            if (strlen($head) < 84) {
                throw new UnreadableMesh("The file $name is too short to be an STL ($size bytes, where a binary one needs 84 at least); export the mesh again as STL.");
            }
            $holds = intdiv($size - 84, 50);
            throw new UnreadableMesh(
                $holds < $count
                ? "The STL file $name is cut short: its header promises $count triangles and it holds $holds; copy or export it again."
                : "The STL file $name lies about its length: its header promises $count triangles and there is room for $holds; export it again.",
            );
        } finally {
            fclose($file);
        }
    }

    private static function looksLikeText(string $head): bool
    {
        $start = ltrim($head);

        return strncasecmp($start, 'solid', 5) === 0 && ! str_contains($head, "\0");
    }

    private static function unsigned(string $bytes): int
    {
        return ord($bytes[0]) | ord($bytes[1]) << 8 | ord($bytes[2]) << 16 | ord($bytes[3]) << 24;
    }

    /** @param  resource  $file */
    private static function binary($file, int $count, string $name, Units $units, string $header): ReadMesh
    {
        if ($count === 0) {
            throw new UnreadableMesh("The STL file $name holds no triangles; export the mesh again.");
        }
        fseek($file, 84);
        /** @var array<string, int> $index */
        $index = [];
        $corners = [];
        $next = 0;
        $collapsed = 0;
        $isColoured = strpos($header, 'COLOR=') !== false && strpos($header, 'COLOR=') <= 70;
        $words = '';
        for ($left = $count; $left > 0; $left -= self::CHUNK) {
            $want = 50 * min($left, self::CHUNK);
            $chunk = stream_get_contents($file, $want);
            if ($chunk === false || strlen($chunk) !== $want) {
                throw new UnreadableMesh("The STL file $name could not be read to its end; copy or export it again.");
            }
            if (str_contains($chunk, "\0\0\0\x80")) {
                $chunk = self::withoutMinusZero($chunk);
            }
            for ($i = 12; $i < $want; $i += 50) {
                $key = substr($chunk, $i, 12);
                if (($a = $index[$key] ?? -1) < 0) {
                    $index[$key] = $a = $next++;
                }
                $key = substr($chunk, $i + 12, 12);
                if (($b = $index[$key] ?? -1) < 0) {
                    $index[$key] = $b = $next++;
                }
                $key = substr($chunk, $i + 24, 12);
                if (($c = $index[$key] ?? -1) < 0) {
                    $index[$key] = $c = $next++;
                }
                if ($a === $b || $b === $c || $c === $a) {
                    $collapsed++;

                    continue;
                }
                $corners[] = $a;
                $corners[] = $b;
                $corners[] = $c;
                if ($isColoured) {
                    $words .= $chunk[$i + 36].$chunk[$i + 37];
                }
            }
        }
        $xyz = Precision::single()->decode([array_map(strval(...), array_keys($index))]);
        unset($index);
        self::refuseUnusable($xyz, $corners, $name);

        $read = self::result($xyz, $corners, $collapsed, 'binary STL', $name, $units);
        if (! $isColoured || $words === '') {
            return $read;
        }

        return new ReadMesh($read->mesh->withSkin(self::colours($words, substr($header, (int) strpos($header, 'COLOR=') + 6, 4))), $read->collapsed, $read->format);
    }

    /**
     * @param  string  $words  16 bits a triangle
     * @param  string  $named  the header's colour: red, green, blue, alpha
     */
    private static function colours(string $words, string $named): Skin
    {
        $linear = array_map(static fn (int $part): float => Colours::linear($part / 31), range(0, 31));
        $own = [];
        for ($k = 0; $k < 3; $k++) {
            $own[] = Colours::linear(ord($named[$k]) / 255);
        }
        $own = str_repeat(pack('e4', $own[0], $own[1], $own[2], ord($named[3]) / 255), 3);
        $known = [];
        $bytes = '';
        for ($i = 0, $length = strlen($words); $i < $length; $i += 2) {
            $word = ord($words[$i]) | ord($words[$i + 1]) << 8;
            $bytes .= $word >= 32768 ? $own : ($known[$word] ??= str_repeat(pack('e4', $linear[$word & 31], $linear[$word >> 5 & 31], $linear[$word >> 10 & 31], 1.0), 3));
        }

        return new Skin(new Looks, str_repeat("\0\0\0\0", intdiv(strlen($words), 2)), [Skin::COLOUR => new Layer(4, $bytes)]);
    }

    /** −0 becomes 0 in the coordinates of a chunk of triangles. */
    private static function withoutMinusZero(string $chunk): string
    {
        $length = strlen($chunk);
        for ($at = strpos($chunk, "\0\0\0\x80"); $at !== false; $at = $at + 1 < $length ? strpos($chunk, "\0\0\0\x80", $at + 1) : false) {
            $in = $at % 50;
            if ($in >= 12 && $in < 48 && $in % 4 === 0) {
                $chunk[$at + 3] = "\0";
            }
        }

        return $chunk;
    }

    /** @param  resource  $file */
    private static function ascii($file, string $name, Units $units): ReadMesh
    {
        rewind($file);
        /** @var array<string, int> $index */
        $index = [];
        $xyz = [];
        $corners = [];
        $collapsed = 0;
        $line = 0;
        $facet = [];
        $inside = false;
        $ended = false;
        foreach (StlStatements::of($file) as $line => $words) {
            $word = strtolower($words[0] ?? '');
            if ($word === 'vertex') {
                if (! $inside || ! isset($words[3]) || isset($words[4])) {
                    throw new UnreadableMesh("The STL file $name is damaged at line $line: a vertex of three numbers inside a facet is expected there; export it again.");
                }
                $point = [];
                foreach ([$words[1], $words[2], $words[3]] as $number) {
                    // 0 and −0 are one number.
                    $value = is_numeric($number) ? Zero::plain((float) $number) : NAN;
                    if (! is_finite($value) || abs($value) > self::LARGEST) {
                        throw new UnreadableMesh("The STL file $name has a coordinate that is not a usable number at line $line; mend or export it again.");
                    }
                    $point[] = $value;
                }
                $key = pack('e3', ...$point);
                if (! isset($index[$key])) {
                    $index[$key] = count($index);
                    array_push($xyz, ...$point);
                }
                $facet[] = $index[$key];
            } elseif ($word === 'facet') {
                if ($inside) {
                    throw new UnreadableMesh("The STL file $name is damaged at line $line: a facet begins before the last one ended; export it again.");
                }
                $inside = true;
                $facet = [];
            } elseif ($word === 'endfacet') {
                if (! $inside || count($facet) !== 3) {
                    $holds = count($facet);
                    throw new UnreadableMesh("The STL file $name is damaged at line $line: a facet has $holds vertices instead of 3; export it again.");
                }
                $inside = false;
                if ($facet[0] === $facet[1] || $facet[1] === $facet[2] || $facet[2] === $facet[0]) {
                    $collapsed++;
                } else {
                    array_push($corners, ...$facet);
                }
                $facet = [];
            } elseif ($word === 'endsolid') {
                $ended = true;
            } elseif ($word === 'solid') {
                $ended = false;
            } elseif ($word !== '' && $word !== 'outer' && $word !== 'endloop') {
                throw new UnreadableMesh("The STL file $name is damaged at line $line: \"".substr(preg_replace('/[^\x20-\x7e]/', '?', $words[0] ?? '') ?? '', 0, 20).'" is no word of the format; export it again.');
            }
        }
        if (! $ended || $inside) {
            throw new UnreadableMesh("The STL file $name is cut short: it ends at line $line without \"endsolid\"; copy or export it again.");
        }

        return self::result($xyz, $corners, $collapsed, 'ASCII STL', $name, $units);
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     */
    private static function refuseUnusable(array $xyz, array $corners, string $name): void
    {
        if (is_finite(Extent::of($xyz))) {
            return;
        }
        foreach ($xyz as $i => $value) {
            if (! is_finite($value)) {
                $vertex = intdiv($i, 3);
                $at = array_search($vertex, $corners, true);
                $where = $at === false ? '' : ' in triangle '.(intdiv($at, 3) + 1);
                throw new UnreadableMesh("The STL file $name has a coordinate that is not a finite number$where; mend or export it again.");
            }
        }
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     */
    private static function result(array $xyz, array $corners, int $collapsed, string $format, string $name, Units $units): ReadMesh
    {
        if ($corners === []) {
            throw new UnreadableMesh("The STL file $name holds no triangle with three different corners; export the mesh again.");
        }
        $scale = $units->millimetres();
        if ($scale !== 1.0) {
            foreach ($xyz as $i => $value) {
                $xyz[$i] = $value * $scale;
            }
        }
        if ($collapsed > 0) {
            [$xyz, $corners] = Compact::of($xyz, $corners);
        }

        return new ReadMesh(Mesh::of($xyz, $corners), $collapsed, $format);
    }
}
