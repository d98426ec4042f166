<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\Answers;
use App\Answers\HowItMoves;
use App\Answers\MovementTakenOut;
use App\Http\Requests\MovementRequest;
use App\Http\Told;
use App\Models\Project;
use App\Models\Run;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadRecipe;
use Symfony\Component\HttpFoundation\Response;

/** How the pieces of a project move: kept, worked out, and taken out as files. */
final class MovementController
{
    /** Bytes of frames that are sent at a time. */
    private const AT_ONCE = 16_000_000;

    public function kept(Project $project): JsonResponse
    {
        $row = DB::table('movements')->where('project_id', $project->id)->first();
        /** @var object{version: int, movement: string}|null $row */

        return response()->json($row === null ? ['version' => 0, 'movement' => null] : ['version' => $row->version, 'movement' => json_decode($row->movement, flags: JSON_THROW_ON_ERROR)]);
    }

    /** Keeps it, unless somebody else has changed it meanwhile. */
    public function keep(MovementRequest $request, Project $project): JsonResponse
    {
        $movement = json_encode($request->movement(), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
        $version = DB::transaction(static function () use ($project, $request, $movement): int {
            $now = (int) DB::table('movements')->where('project_id', $project->id)->value('version');
            if ($now !== ($request->validated('version') ?? $now)) {
                throw new BadRecipe('Somebody else has changed the movement meanwhile; it is shown as it is now.');
            }
            DB::table('movements')->updateOrInsert(['project_id' => $project->id], ['version' => $now + 1, 'movement' => $movement]);

            return $now + 1;
        });

        return response()->json(['version' => $version]);
    }

    /** Where the pieces are at every frame. */
    public function poses(MovementRequest $request, Project $project, Answers $answers): Response
    {
        return Told::of($answers->ask($project, $request->question()));
    }

    public function files(MovementRequest $request, Project $project, Answers $answers): Response
    {
        return Told::of($answers->ask($project, MovementTakenOut::of($project, $request->question(), $request->validated('as') ?? 'glb', $request->validated('frame') ?? 0)));
    }

    /** The frames that are known while a run works them out, from a byte on; none when it has not begun, or is over. */
    public function frames(Request $request, Run $run): Response
    {
        $from = max(0, $request->integer('from'));
        $file = $run->question === null ? false : @fopen(HowItMoves::begun($run->question), 'rb');
        $bytes = '';
        if ($file !== false) {
            fseek($file, $from);
            $bytes = (string) stream_get_contents($file, self::AT_ONCE);
            fclose($file);
        }

        return new Response($bytes, 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'no-store']);
    }
}
