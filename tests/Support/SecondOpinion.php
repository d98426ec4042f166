<?php

declare(strict_types=1);

namespace Tests\Support;

use Demo\Millstone;
use Isotome\Format\StlWriter;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use Isotome\Solid\Partition;

/**
 * Pairs of bodies in general position, united, common, subtracted and divided, beside what a general-purpose geometry library makes of them (second-opinion-solid.mjs). Of touching
 * ones the library decides otherwise what is joined.
 */
final class SecondOpinion
{
    /** Four operations are compared of every pair of two bodies: this many pairs a round. */
    public const PAIRS = 36;

    /** @return array<string, Mesh> */
    private static function bodies(): array
    {
        return [
            'sphere' => Solids::sphere(20, 3), 'torus' => Solids::torus(20, 7, 48, 32), 'cone' => Solids::cone(15, 40, 60), 'hollow' => Solids::together(Solids::sphere(20, 3), Solids::insideOut(Solids::sphere(15, 3))),
            'table' => Solids::moved(Solids::cells(5, 5, 3, static fn (int $x, int $y, int $z): bool => $z === 2 || ($x % 2 === 0 && $y % 2 === 0)), 0, 0, 0, 8.0), 'stone' => Solids::moved(Millstone::mesh(), 0, 0, 0, 0.1),
        ];
    }

    /**
     * @param  string  $folder  where files for the library are written
     * @return array{compared: int, differences: list<string>} operations compared
     */
    public static function round(int $seed, string $folder): array
    {
        $chance = new Chance($seed);
        $bodies = self::bodies();
        $questions = $ours = [];
        foreach ($bodies as $name => $one) {
            foreach ($bodies as $other => $mesh) {
                $angle = static fn (): float => 6 * $chance->uniform();
                $files = ["$folder/$name-$other-a.stl", "$folder/$name-$other-b.stl"];
                $questions[] = $files;
                $ours[] = ["$name and $other", [
                    StlWriter::write($one, $files[0]),
                    StlWriter::write(Solids::moved($mesh, $angle(), $angle(), $angle(), 1.0, [12 * $chance->uniform(), 12 * $chance->uniform(), 12 * $chance->uniform()]), $files[1]),
                ]];
            }
        }
        file_put_contents("$folder/pairs.json", json_encode($questions));
        /** @var list<array<string, array{volume: float, area: float, shells: int, handles: int}>>|null $answers */
        $answers = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/second-opinion-solid.mjs '.escapeshellarg("$folder/pairs.json")), true);
        if ($answers === null || count($answers) !== count($ours)) {
            return ['compared' => 0, 'differences' => ['the library did not answer']];
        }
        $compared = 0;
        $differences = [];
        foreach ($answers as $i => $answer) {
            [$what, $pair] = $ours[$i];
            foreach (['united' => array_column(Combined::unite($pair), 0), 'common' => array_column(Combined::common($pair), 0), 'subtracted' => array_column(Combined::subtract($pair, 1), 0), 'divided' => Partition::by($pair[0], [$pair[1]], 1)->bodies] as $rule => $made) {
                $compared++;
                $volume = array_sum(array_map(Volume::of(...), $made));
                $area = array_sum(array_map(static fn (Mesh $body): float => Volume::measure($body)->area, $made));
                $theirs = $answer[$rule];
                // The library works to a tolerance of its own, about 1e-6 of the extent.
                if (abs($theirs['volume'] - $volume) > 2e-6 * (1 + $answer['united']['volume'])) {
                    $differences[] = "$what, $rule: volume $volume, not {$theirs['volume']}";
                }
                if (abs($theirs['area'] - $area) > 1e-5 * (1 + $area)) {
                    $differences[] = "$what, $rule: area $area, not {$theirs['area']}";
                }
                $shells = array_sum(array_map(Bodies::shellCount(...), $made));
                $handles = array_sum(array_map(self::handles(...), $made));
                if ([$shells, $handles] !== [$theirs['shells'], $theirs['handles']]) {
                    $differences[] = "$what, $rule: $shells shells and $handles handles, not {$theirs['shells']} and {$theirs['handles']}";
                }
            }
        }

        return ['compared' => $compared, 'differences' => $differences];
    }

    /** Euler: V − E + F = 2 (shells − handles), with E = 3F/2 in a closed triangle mesh. */
    public static function handles(Mesh $mesh): int
    {
        $f = $mesh->triangleCount();

        return intdiv(2 * Bodies::shellCount($mesh) - ($mesh->vertexCount() - intdiv(3 * $f, 2) + $f), 2);
    }
}
