<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Disk\Room;
use App\Models\Mesh as StoredMesh;
use App\Models\Run;

/**
 * Stores meshes while a run is still working them out, held for it so that nobody sweeps them away: in small transactions, several small
 * meshes to one, a large one in several. What is left for the run's own transaction is rows.
 */
final class StoreAhead
{
    /** Bytes of blocks that are stored in one transaction. */
    private const BYTES = 2_000_000;

    /** @var list<PreparedMesh> */
    private array $waiting = [];

    private int $bytes = 0;

    public function __construct(private readonly Run $run, private readonly MeshStore $store = new MeshStore)
    {
    }

    /** The mesh as it will be stored; it is after flush. */
    public function put(PreparedMesh $mesh): StoredMesh
    {
        $this->waiting[] = $mesh;
        $this->bytes += $mesh->bytes();
        $stored = $mesh->stored();
        if ($this->bytes >= self::BYTES || count($this->waiting) >= 100) {
            $this->flush();
        }

        return $stored;
    }

    public function flush(): void
    {
        app(Room::class)->demand(2 * $this->bytes);
        $this->store->putHeld($this->waiting, $this->run->id, $this->run->id.'-'.$this->run->lease, self::BYTES);
        $this->waiting = [];
        $this->bytes = 0;
    }
}
