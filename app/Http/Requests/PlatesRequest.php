<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Answers\InLayers;
use App\Models\Piece;
use App\Models\Printer;
use App\Models\Project;
use App\Plates\Layout;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;

/** Plates of the project's printer, and what is asked of them. */
final class PlatesRequest extends FormRequest
{
    private const COPIES = 'How many copies there shall be of a piece is told by its number and a count from 1 to 1,000; type it again.';

    /** @var Collection<int, Piece>|null */
    private ?Collection $living = null;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'margin' => ['required', 'numeric'], 'spacing' => ['required', 'numeric'], 'turned' => ['sometimes', 'boolean'], 'step' => ['sometimes', 'numeric', 'in:0,15,30,45,90,180'], 'as' => ['sometimes', 'nullable', 'in:3mf,stl'], 'supported' => ['sometimes', 'boolean'],
            'pieces' => ['sometimes', 'nullable', new ListOfNumbers(10_000, 'The picked pieces are not a list of pieces; pick them again.')], 'copies' => ['sometimes', 'array', 'max:1000'], 'plates' => ['sometimes', 'array', 'max:'.Layout::MOST_PLATES],
            'title' => ['sometimes', 'string', 'max:200'], 'times' => ['sometimes', 'integer:strict', 'between:1,100000'], 'version' => ['sometimes', 'integer:strict', 'min:0'],
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        $lengths = 'The margin and the spacing are not two ordinary numbers; type them again.';

        return [
            'margin' => $lengths, 'spacing' => $lengths, 'turned' => 'Say with true or false whether pieces may be turned.', 'step' => 'Pieces are turned freely, 0, or by 15, 30, 45, 90 or 180 degrees; choose one of these.', 'as' => 'Plates are written as 3mf or stl; choose one of them.',
            'supported' => 'Say with true or false whether there are supports.', 'copies' => self::COPIES, 'plates' => 'This is no list of plates with what lies on them; pack the pieces again.',
            'title' => 'What the plate is called is a text of up to 200 characters; type it again.', 'times' => 'The simulated printer is 1 to 100,000 times as fast as a printer; choose how fast.',
            'version' => 'Say which plates were seen by their number.',
        ];
    }

    public function printer(): Printer
    {
        return $this->project()->printer ?? throw new BadRecipe('The project has no printer; choose one beside its name, then put pieces on its plates.');
    }

    public function margin(): float
    {
        return (float) $this->validated('margin');
    }

    public function spacing(): float
    {
        return (float) $this->validated('spacing');
    }

    /** @return Collection<int, Piece> all that live, with their meshes */
    public function living(): Collection
    {
        return $this->living ??= $this->project()->pieces()->with('mesh')->whereNull('spent_by')->get();
    }

    /** @return Collection<int, Piece> that are asked about */
    public function pieces(): Collection
    {
        $some = $this->validated('pieces');

        return $some === null ? $this->living() : $this->living()->whereIn('id', $some)->values();
    }

    /** @return array<string, int> how many there shall be, by the name of a piece */
    public function copies(): array
    {
        $names = $this->living()->pluck('name', 'id')->all();
        $copies = [];
        foreach ($this->validated('copies') ?? [] as $one) {
            if (! is_array($one) || ! is_int($one['piece'] ?? null) || ! is_int($one['count'] ?? null) || $one['count'] < 1 || $one['count'] > Layout::MOST_PIECES) {
                throw new BadRecipe(self::COPIES);
            }
            if (isset($names[$one['piece']])) {
                $copies[$names[$one['piece']]] = $one['count'];
            }
        }

        return $copies;
    }

    public function layout(): Layout
    {
        return Layout::read($this->validated('plates') ?? [], $this->living());
    }

    public function isSupported(): bool
    {
        return (bool) ($this->validated('supported') ?? false);
    }

    public function inLayers(): InLayers
    {
        return InLayers::of($this->layout(), $this->printer(), $this->margin(), $this->spacing(), $this->isSupported());
    }

    public function title(): string
    {
        return $this->validated('title') ?? 'Plate';
    }

    public function times(): int
    {
        return $this->validated('times') ?? 600;
    }

    private function project(): Project
    {
        /** @var Project */
        return $this->route('project');
    }
}
