<?php

declare(strict_types=1);

namespace App\Answers;

use App\Lineage\Draft;
use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use Closure;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\Storage;
use Isotome\Exception\BadRecipe;
use Isotome\Mesh\Volume;
use Isotome\Motion\Actor;
use Isotome\Motion\Movement;
use Isotome\Motion\Poses;
use RuntimeException;

/**
 * Where pieces are at every frame of a movement, as a file: how long its header is (32 bits, the lowest first), the header as JSON, filled up with spaces to a multiple of 8, and then, frame by frame and piece by piece, 64-bit floats:
 * where the centre of mass is, x, y, z in mm, the turn as a quaternion x, y, z, w, and the scale.
 *
 * While something falls, the frames that are known already lie in a file of their own, without header, so that they can be played.
 */
final readonly class HowItMoves extends Question
{
    /** Pieces times frames up to which it takes less than a blink, when nothing falls; and their triangles. */
    private const SHORT = 20_000;

    private const SMALL = 400_000;

    /** Numbers of a pose. */
    public const WIDTH = 8;

    /** Triangles up to which memory suffices. */
    private const LARGEST = 8_000_000;

    /**
     * @param  Collection<int, Piece>  $pieces  with their meshes
     * @param  array<mixed>  $movement  a sound one
     *
     * @throws BadRecipe
     */
    public static function of(Collection $pieces, array $movement): self
    {
        if ($pieces->isEmpty()) {
            throw new BadRecipe('There is no piece that could move.');
        }
        $triangles = $pieces->sum(static fn (Piece $piece): int => $piece->mesh->triangles);
        if ($triangles > self::LARGEST) {
            throw new BadRecipe(number_format($triangles).' triangles are too many to be moved together; up to '.number_format(self::LARGEST).' are.');
        }
        $read = Movement::fromArray($movement);
        $read->demand($pieces->count());

        return self::ask($read, array_values($pieces->map(static fn (Piece $piece): array => ['name' => $piece->name, 'mesh' => $piece->mesh_hash])->all()), (int) $triangles);
    }

    /**
     * Of pieces that a step takes.
     *
     * @param  list<Draft>  $drafts  in their order
     */
    public static function ofDrafts(array $drafts, Movement $movement): self
    {
        return self::ask($movement, array_map(static fn (Draft $draft): array => ['name' => $draft->name, 'mesh' => $draft->hash()], $drafts), array_sum(array_map(static fn (Draft $draft): int => $draft->triangles(), $drafts)));
    }

    /** @param  list<array{name: string, mesh: string}>  $pieces */
    private static function ask(Movement $movement, array $pieces, int $triangles): self
    {
        // As text: what is stored and read again must be the same to the last bit, or the answer would not be found under its key.
        return new self(['movement' => json_encode($movement->toArray(), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION), 'falls' => $movement->falls(), 'by_shape' => $movement->needsShapes(), 'poses' => count($pieces) * $movement->frames, 'triangles' => $triangles, 'pieces' => $pieces]);
    }

    public function doing(): string
    {
        return $this->content['falls'] ? 'letting pieces fall' : 'moving pieces';
    }

    public function isShort(): bool
    {
        return ! $this->content['by_shape'] && $this->content['poses'] <= self::SHORT && $this->content['triangles'] <= self::SMALL;
    }

    public function meshes(): array
    {
        return array_values(array_unique(array_column($this->content['pieces'], 'mesh')));
    }

    public function room(): int
    {
        return 24 * self::WIDTH * $this->content['poses'];
    }

    public function movement(): Movement
    {
        return Movement::fromArray((array) json_decode($this->content['movement'], true, flags: JSON_THROW_ON_ERROR));
    }

    /** Where the frames lie that are known while the rest is worked out. */
    public static function begun(string $key): string
    {
        return storage_path("downloads/$key.frames");
    }

    public function answer(Closure $progress, string $path): string
    {
        // Two projects may ask the same at once: each run writes a file of its own, and the newest is the one that can be read meanwhile.
        $own = "$path.frames";
        $begun = self::begun($this->key());
        $frames = fopen($own, 'wb') ?: throw new RuntimeException('The frames could not be kept; check that the data folder has room.');
        @unlink($begun);
        @link($own, $begun);
        try {
            $movement = $this->movement();
            $poses = $movement->poses($this->actors(static fn (float $share) => $progress(0.1 * $share)), static function (int $frame, Poses $poses) use ($frames, $progress, $movement): void {
                fwrite($frames, self::packed($poses, $frame));
                $progress(0.1 + 0.85 * ($frame + 1) / $movement->frames);
            });
            $header = json_encode([
                'fps' => $movement->fps, 'frames' => $movement->frames, 'pieces' => array_column($this->content['pieces'], 'name'), 'layers' => $movement->inTime($poses),
            ], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
            $header .= str_repeat(' ', (8 - (strlen($header) + 4) % 8) % 8);
            fflush($frames);
            $file = fopen($path, 'wb');
            $known = fopen($own, 'rb');
            if ($file === false || $known === false || fwrite($file, pack('V', strlen($header)).$header) === false || stream_copy_to_stream($known, $file) !== self::WIDTH * 8 * $this->content['poses'] || ! fclose($file)) {
                throw new RuntimeException('The movement could not be written to its end; check that the data folder has room.');
            }
            fclose($known);
        } finally {
            fclose($frames);
            @unlink($own);
            @unlink($begun);
        }

        return 'movement.poses';
    }

    private static function packed(Poses $poses, int $frame): string
    {
        $bytes = '';
        foreach ($poses->actors as $n => $_) {
            $bytes .= pack('e*', ...$poses->at($n, $frame));
        }

        return $bytes;
    }

    /**
     * @param  Closure(float): void  $progress
     * @return list<Actor> with their shapes when a layer goes by them
     */
    private function actors(Closure $progress): array
    {
        $actors = [];
        $store = new MeshStore;
        foreach ($this->content['pieces'] as $n => ['name' => $name, 'mesh' => $hash]) {
            $mesh = $store->get(StoredMesh::query()->findOrFail($hash));
            $actors[] = new Actor($name, Volume::measure($mesh)->centroid, $this->content['by_shape'] ? $mesh : null);
            $progress(($n + 1) / count($this->content['pieces']));
        }

        return $actors;
    }

    /**
     * The poses from a kept answer; worked out when there is none any more.
     *
     * @param  Closure(float): void  $progress
     */
    public function poses(Closure $progress): Poses
    {
        $movement = $this->movement();
        $actors = $this->actors(static fn (float $share) => $progress(0.1 * $share));

        return $this->known($actors) ?? $movement->poses($actors, static function (int $frame) use ($progress, $movement): void {
            $progress(0.1 + 0.9 * ($frame + 1) / $movement->frames);
        });
    }

    /**
     * The poses from a kept answer; null when there is none.
     *
     * @param  list<Actor>  $actors  the pieces, in their order
     */
    public function known(array $actors): ?Poses
    {
        $movement = $this->movement();
        $answer = app(Answers::class)->kept($this->key());
        $stream = $answer === null ? null : Storage::disk('answers')->readStream($answer->file);
        if (! is_resource($stream)) {
            return null;
        }
        try {
            /** @var array{1: int} $length */
            $length = unpack('V', (string) stream_get_contents($stream, 4));
            fseek($stream, 4 + $length[1]);
            $poses = new Poses($actors, $movement->frames, $movement->fps);
            foreach (range(0, $movement->frames - 1) as $frame) {
                $numbers = array_values(unpack('e*', (string) stream_get_contents($stream, 8 * self::WIDTH * count($poses->actors))) ?: []);
                foreach ($poses->actors as $n => $_) {
                    [$x, $y, $z, $qx, $qy, $qz, $qw, $scale] = array_slice($numbers, self::WIDTH * $n, self::WIDTH);
                    $poses->put($n, $frame, [$x, $y, $z], [$qx, $qy, $qz, $qw]);
                    $poses->scales[$n][$frame] = $scale;
                }
            }
        } finally {
            fclose($stream);
        }

        return $poses;
    }
}
