<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Answers\HowItMoves;
use App\Models\Piece;
use App\Models\Project;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Motion\Movement;

/** A movement of a project's pieces, and what is asked of it. */
final class MovementRequest extends FormRequest
{
    /** Characters that are kept. */
    private const LONGEST = 2_000_000;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'movement' => ['required', 'array'], 'version' => ['sometimes', 'integer:strict', 'min:0'], 'as' => ['sometimes', 'in:glb,json,csv,still.glb,still.obj'], 'frame' => ['sometimes', 'integer:strict', 'min:0'],
            // Of a step that is edited: those that it took.
            'pieces' => ['sometimes', 'nullable', new ListOfNumbers(10_000, 'These are no pieces that could move; open the project again.')],
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            'movement' => 'This is no movement; write {"isotome_movement": 1, "layers": […]}.', 'version' => 'Say which movement was seen by its number.', 'frame' => 'The frame is no whole number from 0; choose one on the rail.',
            'as' => 'A movement is taken out as glb, json or csv, and one frame of it as still.glb or still.obj; choose one of them.',
        ];
    }

    /** @return array<mixed> as it was given, but sound */
    public function movement(): array
    {
        /** @var array<mixed> $given */
        $given = $this->validated('movement');
        Movement::fromArray($given);
        if (strlen(json_encode($given, JSON_THROW_ON_ERROR)) > self::LONGEST) {
            throw new BadRecipe('The movement is longer than 2 MB; give fewer layers, or fewer keys.');
        }

        return $given;
    }

    public function question(): HowItMoves
    {
        /** @var Project $project */
        $project = $this->route('project');
        $ids = $this->validated('pieces');
        $query = $project->pieces()->with('mesh');
        /** @var Collection<int, Piece> $pieces */
        $pieces = (is_array($ids) ? $query->whereIn('id', $ids) : $query->whereNull('spent_by'))->get();

        return HowItMoves::of($pieces, $this->movement());
    }
}
