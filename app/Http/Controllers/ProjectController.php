<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Disk\Room;
use App\Http\ReceivedBody;
use App\Http\Requests\BroughtMeshes;
use App\Http\Requests\NewProject;
use App\Http\Resources\ProjectResource;
use App\Http\Resources\RunResource;
use App\Http\Resources\ShelfResource;
use App\Jobs\BringIn;
use App\Meshes\Insides;
use App\Meshes\Sweep;
use App\Models\Piece;
use App\Models\Project;
use App\Models\Run;
use App\Models\Step;
use App\Models\Upload;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Isotome\Format\InsideLook;
use Isotome\Operation\Names;

final class ProjectController
{
    /** Days for which a removed project can be taken back. */
    private const DAYS = 30;

    public function index(Request $request): JsonResponse
    {
        $projects = $request->boolean('removed') ? Project::onlyTrashed() : Project::query();

        return response()->json(ShelfResource::shelf($projects->with(['pieces.mesh', 'printer'])->orderByDesc('updated_at')->orderByDesc('id')->get()));
    }

    /** Accepts files that were brought in: the project is there at once, its stock as soon as the run is done. */
    public function store(NewProject $request, Room $room): JsonResponse
    {
        $uploads = self::accepted($request, $room);
        [$project, $run] = DB::transaction(function () use ($request, $uploads): array {
            $file = count($uploads) === 1 ? $uploads[0]->file : count($uploads).' files';
            $project = Project::query()->create(['name' => $request->name(), 'file' => $file, 'units' => $request->units()->value, 'note' => '', 'printer_id' => 1]);
            $run = Run::start($project, 'bring in', ['uploads' => array_column($uploads, 'id'), 'piece' => mb_strtolower(Names::file($request->name())), 'y_up' => $request->isYUp()], BringIn::class);

            return [$project, $run];
        });

        return response()->json(['id' => $project->id, 'run' => RunResource::make($run)], 202);
    }

    /** Further files into a project that is open: their pieces stand beside those that are there. */
    public function bringIn(BroughtMeshes $request, Project $project, Room $room): JsonResponse
    {
        $uploads = self::accepted($request, $room);
        $run = Run::start($project, 'bring in', ['uploads' => array_column($uploads, 'id'), 'piece' => mb_strtolower(Names::file(pathinfo($uploads[0]->file, PATHINFO_FILENAME))), 'y_up' => $request->isYUp()], BringIn::class);

        return RunResource::make($run)->response()->setStatusCode(202);
    }

    /**
     * @return non-empty-list<Upload> when there is room for them
     */
    private static function accepted(BroughtMeshes $request, Room $room): array
    {
        $uploads = $request->uploads();
        $room->demandForStep(array_sum(array_map(static fn (Upload $upload): int => (int) @filesize($upload->path()), $uploads)));

        return $uploads;
    }

    public function show(Project $project): ProjectResource
    {
        return ProjectResource::of($project);
    }

    /** Name, note, printer, and how the inside of the pieces looks. */
    public function update(Request $request, Project $project): ProjectResource
    {
        $asked = $request->validate([
            'name' => ['sometimes', 'string', 'max:120', 'regex:/[\p{L}\p{N}]/u'], 'note' => ['sometimes', 'nullable', 'string', 'max:2000'],
            'printer' => ['sometimes', 'nullable', 'integer:strict', 'exists:printers,id'], 'inside' => ['sometimes', 'nullable', 'array:look,colour,mm,turn'],
        ], [
            'name' => 'The project needs a name of 1 to 120 characters with at least one letter or digit; type one.', 'note' => 'The note is longer than 2,000 characters; shorten it.',
            'printer' => 'This printer is not there any more; choose another one.',
            'inside' => 'How the inside looks is not told by look, colour, mm and turn; choose one of the looks.',
        ]);
        if (array_key_exists('inside', $asked)) {
            $project->inside = $asked['inside'] === null ? null : Insides::chosen($project, $asked['inside']);
        }
        if (array_key_exists('printer', $asked)) {
            $project->printer_id = $asked['printer'];
        }
        $project->fill(['name' => trim($asked['name'] ?? $project->name), 'note' => array_key_exists('note', $asked) ? (string) $asked['note'] : $project->note])->save();

        return ProjectResource::of($project->refresh());
    }

    /** A picture of the person's own for the inside: the request's body is the file, its name is in the address. */
    public function insidePicture(Request $request, Project $project, Room $room): ProjectResource
    {
        $name = $request->query('name');
        $name = mb_substr(trim((string) preg_replace('/[^\w .-]+/u', '-', mb_scrub(pathinfo(is_string($name) ? $name : '', PATHINFO_FILENAME)))), 0, 80);
        $path = storage_path('spool/inside-'.Str::ulid());
        @mkdir(dirname($path), 0700, true);
        try {
            ReceivedBody::into($path, $request);
            $bytes = (string) file_get_contents($path, false, null, 0, InsideLook::LARGEST_PICTURE + 1);
        } finally {
            @unlink($path);
        }
        $room->demandForStep(strlen($bytes));
        Insides::own($project, $bytes, $name === '' ? 'own picture' : $name);

        return ProjectResource::of($project->refresh());
    }

    /** A second project with the same pieces and lineage; meshes are shared, so it takes hardly any room. */
    public function duplicate(Project $project): JsonResponse
    {
        $copy = DB::transaction(function () use ($project): Project {
            $copy = $project->replicate(['deleted_at']);
            $names = Project::query()->pluck('name')->all();
            for ($n = 2; in_array($copy->name, $names, true); $n++) {
                $copy->name = mb_substr($project->name, 0, 110).' '.$n;
            }
            $copy->save();
            $steps = $pieces = [];
            foreach ($project->steps()->get() as $step) {
                $new = Step::query()->create(['project_id' => $copy->id, 'number' => $step->number, 'settings' => $step->settings, 'report' => $step->report]);
                $steps[$step->id] = $new->id;
            }
            /** @var Piece $piece */
            foreach ($project->pieces()->reorder('id')->get() as $piece) {
                $new = $piece->replicate();
                $new->fill([
                    'project_id' => $copy->id, 'parent_id' => $piece->parent_id === null ? null : $pieces[$piece->parent_id],
                    'others' => $piece->others === null ? null : array_map(static fn (int $other): int => $pieces[$other], $piece->others),
                    'made_by' => $piece->made_by === null ? null : $steps[$piece->made_by], 'spent_by' => $piece->spent_by === null ? null : $steps[$piece->spent_by],
                ])->save();
                $pieces[$piece->id] = $new->id;
            }

            return $copy;
        });

        return response()->json(['id' => $copy->id], 201);
    }

    /** Off the shelf; it can be taken back for some weeks. On a full disk, too. */
    public function destroy(Project $project, Room $room): Response
    {
        $room->whateverItTakes(static function () use ($project): void {
            $project->delete();
            foreach (Project::onlyTrashed()->where('deleted_at', '<', Carbon::now()->subDays(self::DAYS))->get() as $old) {
                $old->erase();
            }
        });
        rescue(static fn () => (new Sweep)->some(1.0), report: false);

        return response()->noContent();
    }

    public function restore(int $project): Response
    {
        Project::onlyTrashed()->findOrFail($project)->restore();

        return response()->noContent();
    }

    /** For good: its meshes go with it, and their room goes back to the disk within a minute. */
    public function purge(int $project, Room $room): Response
    {
        $room->whateverItTakes(static function () use ($project): void {
            Project::onlyTrashed()->findOrFail($project)->erase();
        });
        $room->whateverItTakes(static fn () => (new Sweep)->some(3.0));

        return response()->noContent();
    }
}
