<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;
use Isotome\Geometry\Extent;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;

/**
 * Puts together what a file's groups or objects hold.
 *
 * Vertices at exactly one place are one vertex. Groups that use vertices of each other are one part; parts stay apart when each is watertight for
 * itself (so touching pieces are not glued together), and are welded into one mesh otherwise (so a body whose sides are separate
 * groups is closed).
 */
final class Assembly
{
    public const MOST_TRIANGLES = 60_000_000;

    /** A 32-bit float holds no larger coordinate. */
    private const LARGEST = 3.4e38;

    /** Triangles of instances that any file may have, however small it is, and how often as many as it holds. */
    private const UNFOLDED = 300_000;

    private const UNFOLDED_TIMES = 3;

    /** @var array<string, array{list<float>, list<int>, list<int>}> raw coordinates, corners and tags by name */
    private array $groups = [];

    private int $triangles = 0;

    /** @var array<string, int> the highest number given to each name */
    private array $used = [];

    public function __construct(
        private readonly string $file,
        private readonly string $format,
    ) {
    }

    /**
     * @param  list<float>  $xyz  millimetres
     * @param  list<int>  $corners
     * @param  list<int>|null  $tags
     */
    public function add(string $name, array $xyz, array $corners, ?array $tags = null): void
    {
        if ($corners === []) {
            return;
        }
        $this->triangles += intdiv(count($corners), 3);
        if ($this->triangles > self::MOST_TRIANGLES) {
            throw new UnreadableMesh("The file {$this->file} holds more than 60 million triangles; reduce the mesh or divide it into several files.");
        }
        $name = trim((string) preg_replace('/[\x00-\x1f\x7f]+/', ' ', mb_scrub($name)));
        $name = $name === '' ? 'part' : mb_substr($name, 0, 120);
        $free = $name;
        // Counted on from the last of this name: a file may hold very many.
        for ($n = $this->used[$name] ?? 1; isset($this->groups[$free]); $n++) {
            $free = "$name ".($n + 1);
        }
        $this->used[$name] = $n;
        $this->groups[$free] = [$xyz, $corners, $tags ?? array_fill(0, intdiv(count($corners), 3), 0)];
    }

    /**
     * A few hundred bytes can show one mesh a hundred thousand times: what instances unfold to is bounded by what the file holds.
     *
     * @param  int  $stored  triangles that the file holds
     * @param  int  $shown  triangles when every instance has its own
     *
     * @throws UnreadableMesh
     */
    public static function refuseUnfolded(string $file, string $format, int $stored, int $shown): void
    {
        $most = min(self::MOST_TRIANGLES, self::UNFOLDED + self::UNFOLDED_TIMES * $stored);
        if ($shown > $most) {
            throw new UnreadableMesh(sprintf(
                'The %s file %s shows its %s triangles so often that there are %s; at most %s are read of a file that holds so many, so export fewer instances or divide it into several files.',
                $format, $file, number_format($stored), $shown >= 1 << 50 ? 'more than can be counted' : number_format($shown), number_format($most),
            ));
        }
    }

    /** @throws UnreadableMesh when nothing is left, or a coordinate is not usable */
    public function result(): ReadMesh
    {
        $parts = [];
        $collapsed = 0;
        foreach (array_keys($this->groups) as $name) {
            [$xyz, $corners, $tags] = $this->groups[$name];
            // Raw and welded lists of everything at once would take twice the memory.
            unset($this->groups[$name]);
            $this->refuseUnusable($xyz);
            [$mesh, $lost] = self::welded($xyz, $corners, $tags);
            unset($xyz, $corners, $tags);
            $collapsed += $lost;
            if (! $mesh->isEmpty()) {
                $parts[$name] = $mesh;
            }
        }
        if ($parts === []) {
            throw new UnreadableMesh("The {$this->format} file {$this->file} holds no triangle with three different corners; export the mesh again.");
        }
        if (count($parts) === 1) {
            return new ReadMesh(reset($parts), $collapsed, $this->format);
        }
        $xyz = $corners = $tags = [];
        $base = 0;
        $closed = true;
        foreach ($parts as $mesh) {
            foreach ($mesh->xyz as $c) {
                $xyz[] = $c;
            }
            foreach ($mesh->corners as $v) {
                $corners[] = $base + $v;
            }
            foreach ($mesh->tags as $tag) {
                $tags[] = $tag;
            }
            $base += $mesh->vertexCount();
            $closed = $closed && EdgeCheck::of($mesh)->isWatertight();
        }
        if ($closed) {
            return new ReadMesh(Mesh::of($xyz, $corners, $tags), $collapsed, $this->format, $parts);
        }
        [$mesh, $lost] = self::welded($xyz, $corners, $tags);

        return new ReadMesh($mesh, $collapsed + $lost, $this->format);
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  list<int>  $tags
     * @return array{Mesh, int} without unused vertices; and how many triangles collapsed
     */
    private static function welded(array $xyz, array $corners, array $tags): array
    {
        foreach ($xyz as $i => $c) {
            // 0 and −0 are one number.
            if ($c === 0.0) {
                $xyz[$i] = 0.0;
            }
        }
        $index = $map = [];
        foreach ($xyz === [] ? [] : str_split(Packing::doubles($xyz), 24) as $v => $key) {
            $map[] = $index[$key] ??= $v;
        }
        unset($index);
        $number = array_fill(0, count($map), -1);
        $new = $newCorners = $newTags = [];
        $collapsed = $used = 0;
        foreach ($tags as $t => $tag) {
            $a = $map[$corners[3 * $t]];
            $b = $map[$corners[3 * $t + 1]];
            $c = $map[$corners[3 * $t + 2]];
            if ($a === $b || $b === $c || $c === $a) {
                $collapsed++;

                continue;
            }
            if ($number[$a] < 0) {
                $number[$a] = $used++;
                $new[] = $xyz[3 * $a];
                $new[] = $xyz[3 * $a + 1];
                $new[] = $xyz[3 * $a + 2];
            }
            if ($number[$b] < 0) {
                $number[$b] = $used++;
                $new[] = $xyz[3 * $b];
                $new[] = $xyz[3 * $b + 1];
                $new[] = $xyz[3 * $b + 2];
            }
            if ($number[$c] < 0) {
                $number[$c] = $used++;
                $new[] = $xyz[3 * $c];
                $new[] = $xyz[3 * $c + 1];
                $new[] = $xyz[3 * $c + 2];
            }
            $newCorners[] = $number[$a];
            $newCorners[] = $number[$b];
            $newCorners[] = $number[$c];
            $newTags[] = $tag;
        }

        return [Mesh::of($new, $newCorners, $newTags), $collapsed];
    }

    /** @param  list<float>  $xyz */
    private function refuseUnusable(array $xyz): void
    {
        if (Extent::of($xyz) <= self::LARGEST) {
            return;
        }
        foreach ($xyz as $i => $c) {
            if (! is_finite($c) || abs($c) > self::LARGEST) {
                throw new UnreadableMesh("The {$this->format} file {$this->file} has a coordinate that is not a usable number at vertex ".(intdiv($i, 3) + 1).'; mend or export it again.');
            }
        }
    }
}
