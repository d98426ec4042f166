<?php

declare(strict_types=1);

namespace App\Meshes;

use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Removes meshes that nothing needs: no piece, nothing that can be undone, no work that is under way. In many short transactions, so that
 * nobody waits long for the lock; what is left over is for the next time.
 */
final class Sweep
{
    /** Rows of blocks, or meshes, a transaction. */
    private const AT_ONCE = 300;

    private const NAME = 'sweep';

    /** @return bool false when time was up before all was gone */
    public function some(float $seconds): bool
    {
        $end = microtime(true) + $seconds;
        while (true) {
            $hashes = self::unused(DB::table('meshes'))->limit(self::AT_ONCE)->pluck('hash')->all();
            if ($hashes === []) {
                Fits::sweep();

                return true;
            }
            // Whoever stores the same mesh from now on stores it anew.
            DB::transaction(static fn () => self::unused(DB::table('meshes')->whereIn('hash', $hashes))->update(['storer' => self::NAME]));
            foreach (['mesh_blocks', 'mesh_skins'] as $table) {
                while (DB::transaction(static fn (): int => DB::table($table)->whereIn('id', DB::table($table)
                    ->whereIn('mesh_hash', self::unused(DB::table('meshes')->whereIn('hash', $hashes)->where('storer', self::NAME))->select('hash'))->limit(self::AT_ONCE)->select('id'))->delete()) > 0) {
                    if (microtime(true) > $end) {
                        return false;
                    }
                }
            }
            DB::transaction(static fn () => self::unused(DB::table('meshes')->whereIn('hash', $hashes)->where('storer', self::NAME))->delete());
            // Pictures that the last mesh with them has left, and no project has for the inside.
            DB::transaction(static fn () => DB::table('skin_pictures')
                ->whereNotExists(static fn (Builder $query) => $query->from('mesh_pictures')->whereColumn('mesh_pictures.picture_hash', 'skin_pictures.hash')->selectRaw('1'))
                ->whereNotExists(static fn (Builder $query) => $query->from('projects')->whereColumn('projects.inside_picture', 'skin_pictures.hash')->selectRaw('1'))->delete());
            $left = DB::table('meshes')->whereIn('hash', $hashes)->pluck('hash')->all();
            Geometry::forget(array_values(array_diff($hashes, $left)));
            if (microtime(true) > $end) {
                return false;
            }
        }
    }

    private static function unused(Builder $meshes): Builder
    {
        foreach (['pieces', 'history_meshes', 'mesh_holds'] as $user) {
            $meshes->whereNotExists(static fn (Builder $query) => $query->from($user)->whereColumn("$user.mesh_hash", 'meshes.hash')->selectRaw('1'));
        }

        return $meshes;
    }
}
