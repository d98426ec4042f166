<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Mesh as StoredMesh;
use App\Runs\ProcessLock;
use Closure;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadMesh;
use Isotome\Geometry\Plane;
use Isotome\Measure\EitherSide;
use Isotome\Mesh\Blocks;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Mesh\SkinBytes;
use Isotome\Process\SideBySide;
use PDO;

/**
 * Meshes in the database, by content: the same mesh is stored once, whatever project it is in.
 */
final class MeshStore
{
    private const ROWS = 64;

    /** Who stores outside of runs. */
    private const HERE = 'here';

    /** Seconds for which somebody else's storing of the same mesh is awaited. */
    private const PATIENCE = 60.0;

    /** @var array<string, string> by hash */
    private array $pictures = [];

    /** Stores a mesh in one transaction, the caller's if there is one. */
    public function put(PreparedMesh $mesh): StoredMesh
    {
        $stored = $mesh->stored();
        $this->besides([$mesh], fn () => DB::transaction(function () use ($mesh): void {
            if ($this->begin($mesh, self::HERE)) {
                $this->insert($mesh->hash(), $mesh->blocks);
                DB::table('meshes')->where('hash', $mesh->hash())->update(['storer' => null]);
            }
        }));

        return $stored;
    }

    /**
     * Stores meshes for a run that is under way, and holds them for it. Nobody waits long for the lock meanwhile.
     *
     * @param  list<PreparedMesh>  $meshes
     * @param  string  $storer  name of the run's lease
     * @param  int  $most  bytes a transaction
     */
    public function putHeld(array $meshes, string $runId, string $storer, int $most): void
    {
        $this->besides($meshes, fn () => $this->putAll($meshes, $runId, $storer, $most));
    }

    /**
     * Stores meshes while what the view needs of them is put aside, by another process where it is worth it: only this one touches the database.
     *
     * @param  list<PreparedMesh>  $meshes
     * @param  Closure(): void  $store
     */
    private function besides(array $meshes, Closure $store): void
    {
        $triangles = array_sum(array_map(static fn (PreparedMesh $mesh): int => $mesh->mesh->triangleCount(), $meshes));
        SideBySide::all([
            static function () use ($store): null {
                $store();

                return null;
            },
            function () use ($meshes): null {
                foreach ($meshes as $mesh) {
                    (new Geometry($this))->keep($mesh->stored(), $mesh->mesh);
                }

                return null;
            },
        ], [$triangles, $triangles]);
    }

    /** @param  list<PreparedMesh>  $meshes */
    private function putAll(array $meshes, string $runId, string $storer, int $most): void
    {
        $small = array_values(array_filter($meshes, static fn (PreparedMesh $mesh): bool => $mesh->bytes() <= $most));
        $waiting = [];
        if ($small !== []) {
            DB::transaction(function () use ($small, $runId, $storer, &$waiting): void {
                foreach ($small as $mesh) {
                    if (! $this->begin($mesh, $storer)) {
                        $waiting[] = $mesh;

                        continue;
                    }
                    $this->insert($mesh->hash(), $mesh->blocks);
                    DB::table('meshes')->where('hash', $mesh->hash())->update(['storer' => null]);
                }
                $this->hold($waiting === [] ? $small : array_values(array_filter($small, static fn (PreparedMesh $mesh): bool => ! in_array($mesh, $waiting, true))), $runId);
            });
        }
        foreach ($meshes as $mesh) {
            if ($mesh->bytes() > $most || in_array($mesh, $waiting, true)) {
                $this->putLarge($mesh, $runId, $storer, $most);
            }
        }
    }

    /** In several transactions; when somebody else is at the same mesh, theirs is awaited. */
    private function putLarge(PreparedMesh $mesh, string $runId, string $storer, int $most): void
    {
        $blocks = max(1, intdiv(count($mesh->blocks) * $most, max(1, $mesh->bytes())));
        $parts = array_chunk($mesh->blocks, $blocks);
        $end = microtime(true) + self::PATIENCE;
        for ($part = 0; $part < max(1, count($parts)); $part++) {
            $went = DB::transaction(function () use ($mesh, $runId, $storer, $parts, $part, $end): ?bool {
                if ($part === 0) {
                    $known = DB::table('meshes')->where('hash', $mesh->hash())->first(['storer']);
                    $isTheirs = $known !== null && $known->storer !== null && $known->storer !== $storer && ProcessLock::isHeld('leases', $known->storer);
                    if ($isTheirs && microtime(true) < $end) {
                        return false;
                    }
                    $isNew = $known === null || $known->storer !== null;
                    if ($isNew) {
                        $this->begin($mesh, $storer, true);
                    }
                    $this->hold([$mesh], $runId);
                    if (! $isNew) {
                        return null;
                    }
                } elseif (DB::table('meshes')->where('hash', $mesh->hash())->where('storer', $storer)->doesntExist()) {
                    return false;
                }
                $this->insert($mesh->hash(), $parts[$part] ?? []);
                if ($part >= count($parts) - 1) {
                    DB::table('meshes')->where('hash', $mesh->hash())->update(['storer' => null]);
                }

                return true;
            });
            if ($went === null) {
                return;
            }
            if (! $went) {
                // From the beginning.
                $part = -1;
                usleep(100_000);
            }
        }
    }

    /**
     * The mesh's row, for its blocks to follow; what somebody left unfinished goes first.
     *
     * @return bool false when it is there already, or somebody is storing it
     */
    private function begin(PreparedMesh $mesh, string $storer, bool $isOurs = false): bool
    {
        $known = DB::table('meshes')->where('hash', $mesh->hash())->first(['storer']);
        if ($known !== null && ! $isOurs) {
            if ($known->storer === null || ProcessLock::isHeld('leases', $known->storer)) {
                return false;
            }
        }
        if ($known === null) {
            DB::table('meshes')->insert([...$mesh->columns(), 'storer' => $storer, 'created_at' => now()]);
            $this->insertPictures($mesh);

            return true;
        }
        DB::table('mesh_blocks')->where('mesh_hash', $mesh->hash())->delete();
        DB::table('mesh_skins')->where('mesh_hash', $mesh->hash())->delete();
        $this->insertPictures($mesh);
        DB::table('meshes')->where('hash', $mesh->hash())->update(['storer' => $storer]);

        return true;
    }

    /** @param  list<PreparedMesh>  $meshes */
    private function hold(array $meshes, string $runId): void
    {
        DB::table('mesh_holds')->insertOrIgnore(array_map(static fn (PreparedMesh $mesh): array => ['run_id' => $runId, 'mesh_hash' => $mesh->hash()], $meshes));
    }

    /** The shape of a mesh, without what it carries. */
    public function get(StoredMesh $stored): Mesh
    {
        $rows = DB::table('mesh_blocks')->where('mesh_hash', $stored->hash)->orderBy('id')->select('payload')->cursor();

        $mesh = Blocks::whole($this->payloads($rows), $stored->vertices, $stored->triangles);

        return $stored->shells === 1 ? Bodies::isOne($mesh) : $mesh;
    }

    /** A mesh with what it carries, for steps and files. */
    public function dressed(StoredMesh $stored): Mesh
    {
        return $this->get($stored)->withSkin($this->skin($stored));
    }

    /** What a mesh carries, without its shape; null when that is nothing. */
    public function skin(StoredMesh $stored): ?Skin
    {
        $bytes = implode('', [...$this->payloads(DB::table('mesh_skins')->where('mesh_hash', $stored->hash)->orderBy('id')->select('payload')->cursor())]);

        return $bytes === '' ? null : SkinBytes::read($bytes, $this->picture(...));
    }

    /**
     * A picture that meshes use, or a project for the inside. Many meshes have the same one: it is in memory once for all that this store gives.
     *
     * @throws BadMesh when it is not there
     */
    public function picture(string $hash): string
    {
        if (! isset($this->pictures[$hash])) {
            foreach ($this->payloads(DB::table('skin_pictures')->where('hash', $hash)->select('payload')->cursor()) as $bytes) {
                $this->pictures[$hash] = $bytes;
            }
        }

        return $this->pictures[$hash] ?? throw new BadMesh('A picture that is used here is not there any more; bring the mesh in again, or choose another picture.');
    }

    /** Keeps a picture once; it is swept away when nothing needs it. */
    public static function keepPicture(string $hash, string $bytes): void
    {
        if (DB::table('skin_pictures')->where('hash', $hash)->exists()) {
            return;
        }
        $statement = DB::connection()->getPdo()->prepare('insert into skin_pictures (hash, payload) values (?, ?)');
        $statement->bindValue(1, $hash);
        $statement->bindValue(2, $bytes, PDO::PARAM_LOB);
        $statement->execute();
    }

    private function insertPictures(PreparedMesh $mesh): void
    {
        $skin = $mesh->mesh->skin;
        foreach ($skin === null ? [] : SkinBytes::pictures($skin) as $hash => $bytes) {
            self::keepPicture($hash, $bytes);
            DB::table('mesh_pictures')->insertOrIgnore(['mesh_hash' => $mesh->hash(), 'picture_hash' => $hash]);
        }
    }

    /**
     * The triangles of a mesh that the plane touches, or nearly.
     *
     * @param  float  $reach  or that have a vertex within this distance of it, mm
     */
    public function touching(StoredMesh $stored, Plane $plane, float $reach = 0.0): Mesh
    {
        return Blocks::touching($this->near($stored, $plane, $reach), $plane, $stored->extent(), $reach);
    }

    /** Volume and box behind and ahead of the plane. */
    public function eitherSide(StoredMesh $stored, Plane $plane): EitherSide
    {
        $sides = new EitherSide($plane, $stored->centre());
        foreach ([false, true] as $isAhead) {
            [$distance, $values] = $this->reach($plane, 0.0, $stored);
            $row = DB::table('mesh_blocks')->where('mesh_hash', $stored->hash)
                ->whereRaw($isAhead ? "{$distance[0]} > {$distance[1]}" : "{$distance[0]} < -({$distance[1]})", $values)
                ->selectRaw('count(*) as n, sum(sv) as sv, sum(sx) as sx, sum(sy) as sy, sum(sz) as sz, min(x0) as x0, max(x1) as x1, min(y0) as y0, max(y1) as y1, min(z0) as z0, max(z1) as z1')
                ->first();
            if ($row !== null && $row->n > 0) {
                $sides->whole($isAhead, [(float) $row->sv, (float) $row->sx, (float) $row->sy, (float) $row->sz],
                    [(float) $row->x0, (float) $row->x1, (float) $row->y0, (float) $row->y1, (float) $row->z0, (float) $row->z1]);
            }
        }
        $sides->touched($this->near($stored, $plane, 0.0));

        return $sides;
    }

    /**
     * How far the mesh reaches along a facing: exactly, from the few blocks that can reach farthest.
     *
     * @return array{float, float} mm from the origin
     */
    public function along(StoredMesh $stored, Plane $plane): array
    {
        [$nx, $ny, $nz] = $plane->facing();
        $ends = [];
        foreach ([1, -1] as $sign) {
            $best = -INF;
            $corner = [($sign * $nx > 0 ? 'x1' : 'x0'), ($sign * $ny > 0 ? 'y1' : 'y0'), ($sign * $nz > 0 ? 'z1' : 'z0')];
            $blocks = DB::table('mesh_blocks')->where('mesh_hash', $stored->hash)
                ->selectRaw("id, ? * {$corner[0]} + ? * {$corner[1]} + ? * {$corner[2]} as most", [$sign * $nx, $sign * $ny, $sign * $nz])
                ->orderByDesc('most')->cursor();
            foreach ($blocks as $block) {
                if ((float) $block->most <= $best) {
                    break;
                }
                foreach ($this->payloads(DB::table('mesh_blocks')->where('id', $block->id)->select('payload')->cursor()) as $payload) {
                    $best = max($best, Blocks::farthest($payload, $sign * $nx, $sign * $ny, $sign * $nz));
                }
            }
            $ends[] = $sign * $best;
        }

        return [$ends[1], $ends[0]];
    }

    /** @return list<string> payloads of the blocks that the plane may touch, or that reach so near to it */
    private function near(StoredMesh $stored, Plane $plane, float $reach): array
    {
        [$distance, $values] = $this->reach($plane, $reach, $stored);
        // Straight from the database: rows as objects would take longer than the reading.
        $statement = DB::connection()->getReadPdo()->prepare(
            "select payload from mesh_blocks where mesh_hash = ? and {$distance[0]} between -({$distance[1]}) and {$distance[1]}",
        );
        foreach ([$stored->hash, ...$values, ...array_slice($values, 4)] as $n => $value) {
            // As the shortest decimal that is exact; cast there, because a bound text never counts as a number.
            $statement->bindValue($n + 1, is_float($value) ? var_export($value, true) : $value);
        }
        $statement->execute();
        $payloads = [];
        while (($payload = $statement->fetchColumn()) !== false) {
            $payloads[] = is_resource($payload) ? (string) stream_get_contents($payload) : (string) $payload;
        }

        return $payloads;
    }

    /**
     * Twice the distance of a block's middle from the plane, and twice the distance that its box reaches along the normal.
     *
     * @return array{array{string, string}, list<float>} expressions and their values
     */
    private function reach(Plane $plane, float $reach, StoredMesh $stored): array
    {
        // Wider than the rounding of these sums.
        $margin = $reach + 1e-12 * (1 + $stored->extent() + abs($plane->offset));

        return [
            ['cast(? as real) * (x0 + x1) + cast(? as real) * (y0 + y1) + cast(? as real) * (z0 + z1) - cast(? as real)', 'cast(? as real) * (x1 - x0) + cast(? as real) * (y1 - y0) + cast(? as real) * (z1 - z0) + cast(? as real)'],
            [$plane->nx, $plane->ny, $plane->nz, 2 * $plane->offset, abs($plane->nx), abs($plane->ny), abs($plane->nz), 2 * $margin],
        ];
    }

    /**
     * @param  iterable<\stdClass>  $rows
     * @return iterable<string>
     */
    private function payloads(iterable $rows): iterable
    {
        foreach ($rows as $row) {
            $payload = $row->payload;
            yield is_resource($payload) ? (string) stream_get_contents($payload) : (string) $payload;
        }
    }

    /** @param  list<array{box: array{float, float, float, float, float, float}, sums: array{float, float, float, float}, payload: string}|string>  $parts  blocks, and what the mesh carries */
    private function insert(string $hash, array $parts): void
    {
        foreach (array_filter($parts, is_string(...)) as $bytes) {
            $statement = DB::connection()->getPdo()->prepare('insert into mesh_skins (mesh_hash, payload) values (?, ?)');
            $statement->bindValue(1, $hash);
            $statement->bindValue(2, $bytes, PDO::PARAM_LOB);
            $statement->execute();
        }
        foreach (array_chunk(array_filter($parts, is_array(...)), self::ROWS) as $some) {
            $places = implode(',', array_fill(0, count($some), '(?,?,?,?,?,?,?,?,?,?,?,?)'));
            $statement = DB::connection()->getPdo()->prepare("insert into mesh_blocks (mesh_hash, x0, x1, y0, y1, z0, z1, sv, sx, sy, sz, payload) values $places");
            $n = 1;
            foreach ($some as ['box' => $box, 'sums' => $sums, 'payload' => $payload]) {
                $statement->bindValue($n++, $hash);
                foreach ([...$box, ...$sums] as $side) {
                    // As the shortest decimal that is exact.
                    $statement->bindValue($n++, var_export($side, true));
                }
                $statement->bindValue($n++, $payload, PDO::PARAM_LOB);
            }
            $statement->execute();
        }
    }
}
