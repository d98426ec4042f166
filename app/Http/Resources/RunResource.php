<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Console\Work;
use App\Models\Run;
use App\Runs\ProcessLock;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Run */
final class RunResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->id, 'kind' => $this->kind, 'status' => $this->status, 'phase' => $this->phase,
            'progress' => $this->progress, 'message' => $this->message, 'over' => $this->isOver(), 'worker' => $this->isOver() || ProcessLock::anyHeld(Work::LOCKS[$this->lane()]),
        ];
    }
}
