<?php

declare(strict_types=1);

namespace Tests\Support;

/** A painted box as OBJ with its library and picture, put together by hand from the format's documents, without the writer that is tested. */
final class PaintedObj
{
    /** Faces of a box of 40 × 20 × 30 mm about the origin: corners, and by construction texture coordinates over each. */
    private const FACES = [[1, 4, 3, 2], [5, 6, 7, 8], [1, 2, 6, 5], [2, 3, 7, 6], [3, 4, 8, 7], [4, 1, 5, 8]];

    /** @param  bool  $hasColours  behind the vertices */
    public static function box(string $library = 'paint.mtl', bool $hasColours = false, string $more = ''): string
    {
        $obj = "# made by hand\nmtllib $library\no box\n";
        for ($n = 0; $n < 8; $n++) {
            $x = [-20, 20, 20, -20][$n % 4];
            $y = [-10, -10, 10, 10][$n % 4];
            $z = $n < 4 ? -15 : 15;
            $obj .= "v $x $y $z".($hasColours ? sprintf(' %.3f %.3f 0.25', 0.5 + $x / 80, 0.5 + $y / 40) : '')."\n";
        }
        $obj .= "vt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nvn 0 0 -2\nvn 0 0 1\nvn 0 -1 0\nvn 1 0 0\nvn 0 1 0\nvn -1 0 0\n$more";
        foreach (self::FACES as $f => $face) {
            $obj .= $f === 1 ? "usemtl green glaze\n" : ($f === 0 || $f === 2 ? "usemtl painted\n" : '');
            $obj .= 'f';
            foreach ($face as $k => $v) {
                // Counted from the end as well.
                $obj .= ' '.($f % 2 === 0 ? "$v/".($k + 1).'/'.($f + 1) : ($v - 9).'/'.($k - 4).'/'.($f - 6));
            }
            $obj .= "\n";
        }

        return $obj;
    }

    public static function library(string $picture = 'pattern.png'): string
    {
        return "# by hand\nnewmtl painted\nKa 0.1 0.1 0.1\nKd 0.8 0.4 0.2\nKs 0.5 0.5 0.5\nNs 98\nillum 2\nmap_Kd -s 2 3 1 -o 0.25 0 0 $picture\n\nnewmtl green glaze\nKd 0.2 0.5 0.3\nd 0.75\nPm 0.5\nPr 0.25\n";
    }

    /**
     * @param  array<string, string>  $files  bytes by name
     */
    public static function zip(string $path, array $files): string
    {
        $zip = new \ZipArchive;
        $zip->open($path, \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        foreach ($files as $name => $bytes) {
            $zip->addFromString($name, $bytes);
        }
        $zip->close();

        return $path;
    }
}
