<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Project;
use App\Models\Step;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Project */
final class ProjectResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $run = $this->runs->first();

        return [
            'id' => $this->id,
            'name' => $this->name,
            'file' => $this->file,
            'units' => $this->units,
            'note' => $this->note,
            'pieces' => PieceResource::collection($this->pieces),
            'steps' => $this->steps->map(static fn (Step $step): array => [
                'id' => $step->id, 'number' => $step->number, 'settings' => $step->settings, 'report' => $step->report,
            ]),
            'run' => $run === null ? null : RunResource::make($run),
        ];
    }
}
