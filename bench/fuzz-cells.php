<?php

declare(strict_types=1);

// As many shatters and mirrors with random settings as one likes: php bench/fuzz-cells.php 2000 [seed]. Prints what breaks a promise; exit
// code 1 if any did. One of them again: php bench/fuzz-cells.php 1 SEED ROUND NAME.

use Isotome\Cells\CellsBlade;
use Isotome\Cells\Contacts;
use Isotome\Cells\Shatter;
use Isotome\Cells\ShatterSettings;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Keep;
use Isotome\Cut\Seal;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BrokenPromise;
use Isotome\Format\Rounded;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\MirrorSettings;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Solids;

require __DIR__.'/../vendor/autoload.php';

$wanted = (int) ($argv[1] ?? 500);
$seed = (int) ($argv[2] ?? 1);
$names = array_values(array_filter(Bodies::names(), static fn (string $name): bool => ! str_contains($name, '3,000') && ! str_contains($name, 'overlap')));
$share = static fn (): float => mt_rand() / mt_getrandmax();

/** Any cells, some of them through the very vertices of the body. */
$cells = static function (Mesh $mesh) use ($share): CellsBlade {
    $box = Box::of($mesh->xyz);
    $size = $box->size();
    $vertex = static function () use ($mesh): array {
        $v = 3 * mt_rand(0, $mesh->vertexCount() - 1);

        return [$mesh->xyz[$v], $mesh->xyz[$v + 1], $mesh->xyz[$v + 2]];
    };
    $seed = mt_rand(0, 0x7FFFFFFF);
    $points = [];
    for ($n = 0, $count = mt_rand(2, 40); $n < $count; $n++) {
        $at = $vertex();
        $points["$at[0] $at[1] $at[2]"] = $at;
    }
    $along = mt_rand(0, 2) ? null : [$share() - 0.5, $share() - 0.5, $share() + 0.1];
    $stretch = $along === null ? 1.0 : 10 ** ($share() * 2 - 0.7);

    return match (mt_rand(0, 6)) {
        0 => new CellsBlade('uniform', mt_rand(2, 150), $seed, along: $along, stretch: $stretch),
        1 => new CellsBlade('even', mt_rand(2, 60), $seed, along: $along, stretch: $stretch),
        2 => new CellsBlade('gathered', mt_rand(2, 80), $seed, [$vertex(), $vertex()], (0.01 + $share()) * max($size)),
        3 => new CellsBlade('points', points: count($points) > 1 ? array_merge(...array_values($points)) : [0.0, 0.0, 0.0, max($size), 0.0, 0.0]),
        4 => new CellsBlade('blocks', seed: $seed, blocks: [mt_rand(1, 6), mt_rand(1, 6), mt_rand(2, 6)], turned: mt_rand(0, 1) ? [0.0, 0.0, 0.0] : [90 * $share(), 45.0, 90 * $share()], brick: (bool) mt_rand(0, 1), wander: mt_rand(0, 1) * 0.4),
        5 => new CellsBlade('blocks', seed: $seed, size: [max($size) / mt_rand(2, 9), max($size) / mt_rand(2, 9), max($size) / mt_rand(2, 9)], brick: (bool) mt_rand(0, 1)),
        default => new CellsBlade('rings', seed: $seed, wander: mt_rand(0, 1) * 0.3, through: mt_rand(0, 1) ? $vertex() : null, axis: [[0.0, 0.0, 1.0], [1.0, 0.0, 0.0], [0.3, 0.5, -1.0]][mt_rand(0, 2)], rings: mt_rand(1, 5), sectors: mt_rand(2, 12), layers: mt_rand(1, 4)),
    };
};
/** @param  list<Mesh>  $bodies */
$leaks = static function (array $bodies): array {
    $wrong = [];
    foreach ($bodies as $body) {
        $file = Rounded::of($body);
        $wrong[] = EdgeCheck::of($body)->isWatertight() ? '' : 'leak';
        $wrong[] = $file->isEmpty() || EdgeCheck::of($file)->isWatertight() ? '' : 'leak in the file';
    }

    return $wrong;
};
/** @param  list<Mesh>  $bodies */
$sum = static fn (array $bodies): float => array_sum(array_map(static fn (Mesh $body): float => Volume::of($body), $bodies));
$did = $broken = $unsound = $shards = 0;
for ($round = (int) ($argv[3] ?? 0); $did < $wanted; $round++) {
    foreach ($names as $n => $name) {
        if ($did >= $wanted) {
            break;
        }
        if (($argv[4] ?? $name) !== $name) {
            continue;
        }
        mt_srand($seed + 1000 * $round + $n);
        $mesh = Bodies::named($name);
        if ($round % 3 !== 0) {
            $scale = 10 ** mt_rand(-3, 3);
            $far = [0.0, 0.0, 1e2, 1e4][mt_rand(0, 3)] * $scale * max(Box::of($mesh->xyz)->size());
            $mesh = Solids::moved($mesh, mt_rand() / 1e8, mt_rand() / 1e8, mt_rand() / 1e8, $scale, [$far, -$far / 3, $far / 7]);
        }
        // What is divided may itself be a piece, with cut faces full of slivers.
        if (mt_rand(0, 3) === 0) {
            $bodies = Shatter::of($mesh, new CellsBlade('uniform', 3, mt_rand(0, 1 << 30)), new ShatterSettings, 1)->bodies ?? [$mesh];
            $mesh = $bodies[0];
        }
        $whole = Volume::measure($mesh);
        $extent = max(max($mesh->xyz), -min($mesh->xyz));
        $slack = 1e-9 * abs($whole->volume) + 1e-13 * $extent * $whole->area;
        $wrong = [];
        $did++;
        $outcome = null;
        $what = '';
        try {
            if (mt_rand(0, 3) > 0) {
                $blade = $cells($mesh);
                $kerf = mt_rand(0, 4) ? 0.0 : 0.01 * max(Box::of($mesh->xyz)->size());
                $smallest = mt_rand(0, 2) || $kerf > 0.0 ? 0.0 : 0.02;
                $seal = mt_rand(0, 9) ? Seal::Lean : Seal::Even;
                $what = "$blade->by ".($kerf > 0 ? 'kerf ' : '').($smallest > 0 ? 'joined ' : '').$seal->value;
                // Vertices within a hair of each other are one: with cells that end in the very vertices that moves the skin.
                $slack += $blade->by === 'points' ? 1e-8 * max(Box::of($mesh->xyz)->size()) * $whole->area : 0.0;
                $outcome = Shatter::of($mesh, $blade, new ShatterSettings($kerf, $seal, null, $smallest), 9);
                if ($outcome !== null) {
                    $shards += count($outcome->bodies);
                    $unsound += $outcome->sound ? 0 : 1;
                    $wrong = $leaks($outcome->bodies);
                    $off = $sum($outcome->bodies) - $whole->volume;
                    $wrong[] = ($kerf > 0.0 ? $off <= $slack : abs($off) <= $slack) ? '' : sprintf('volume off by %.2e', $off / $whole->volume);
                    if ($kerf === 0.0) {
                        $area = array_sum(array_map(static fn (Mesh $body): float => Volume::measure($body)->area, $outcome->bodies));
                        $named = [];
                        foreach ($outcome->bodies as $b => $body) {
                            $named["piece $b"] = $body;
                        }
                        $common = array_sum(array_map(array_sum(...), Contacts::named($named)));
                        $wrong[] = ! $outcome->sound || abs($area - $whole->area - $common) <= 1e-6 * $whole->area ? '' : sprintf('common faces off by %.2e', ($area - $whole->area - $common) / $whole->area);
                    }
                }
            } else {
                $what = 'mirror';
                $blades = new Blades($mesh, mt_rand());
                $plane = mt_rand(0, 1) ? $blades->unlucky() : $blades->anywhere();
                $isAhead = (bool) mt_rand(0, 1);
                $outcome = Mirror::of($mesh, new MirrorSettings([$plane], $isAhead), 9);
                $wrong = $leaks($outcome->bodies);
                $half = FlatCut::of($mesh, new FlatBlade($plane, $isAhead ? Keep::Ahead : Keep::Behind), 9)->bodies ?? [$mesh];
                $off = $sum($outcome->bodies) - 2 * $sum($half);
                $wrong[] = abs($off) <= 2 * $slack ? '' : sprintf('volume off by %.2e', $off / $whole->volume);
            }
        } catch (BadBlade $refused) {
            if (! str_contains($refused->getMessage(), 'nothing is there')) {
                $wrong[] = $refused->getMessage();
            }
        } catch (BrokenPromise $dead) {
            $wrong[] = $dead->getMessage();
        }
        $wrong = array_unique(array_filter($wrong));
        if ($wrong !== []) {
            $broken++;
            echo "$name, round $round, $what", isset($outcome->sound) && ! $outcome->sound ? ', outlines cross' : '', ': ', implode(', ', $wrong), "\n";
        }
    }
}
echo "$did steps, $shards shards, $broken broke a promise, $unsound with outlines that cross\n";
exit($broken > 0 ? 1 : 0);
