<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Refusals;
use App\Models\Upload;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Carbon;
use Isotome\Check\Report;
use Isotome\Exception\UnreadableMesh;
use Isotome\Format\MeshFile;

final class UploadController
{
    /** Reads a file and says what is in it, in the file's own numbers; it becomes a project when it is accepted. */
    public function store(Request $request): JsonResponse
    {
        $file = $request->file('file');
        if (is_array($file) || $file === null || in_array($file->getError(), [UPLOAD_ERR_INI_SIZE, UPLOAD_ERR_FORM_SIZE], true)) {
            $large = $file instanceof \Illuminate\Http\UploadedFile;

            return response()->json(['message' => $large ? Refusals::tooLarge() : 'No file arrived; choose a mesh file and bring it in again.'], $large ? 413 : 422);
        }
        if (! $file->isValid()) {
            throw new UnreadableMesh('The file did not arrive completely; bring it in again.');
        }
        if ($file->getSize() > (int) config('isotome.largest_upload')) {
            return response()->json(['message' => Refusals::tooLarge()], 413);
        }
        $name = mb_substr(basename(str_replace('\\', '/', $file->getClientOriginalName())), 0, 255);
        MeshFile::known(MeshFile::ending($name), $name);
        set_time_limit(600);
        $this->sweep();
        $upload = Upload::query()->make(['file' => $name, 'report' => []]);
        $upload->id = $upload->newUniqueId();
        $path = $upload->path();
        @mkdir(dirname($path), 0700, true);
        $file->move(dirname($path), basename($path));
        try {
            $read = MeshFile::read($path);
            $upload->report = ['format' => $read->format, 'collapsed' => $read->collapsed, 'parts' => count($read->parts), 'states_unit' => in_array(MeshFile::ending($name), ['3mf', 'glb'], true), ...Report::of($read->mesh, $read->collapsed, false)->toArray()];
            $upload->save();
        } catch (UnreadableMesh $refusal) {
            @unlink($path);
            throw new UnreadableMesh(str_replace(basename($path), $name, $refusal->getMessage()));
        } catch (\Throwable $error) {
            @unlink($path);
            throw $error;
        }

        return response()->json(['id' => $upload->id, 'file' => $upload->file, 'report' => $upload->report], 201);
    }

    public function destroy(Upload $upload): Response
    {
        @unlink($upload->path());
        $upload->delete();

        return response()->noContent();
    }

    private function sweep(): void
    {
        foreach (Upload::query()->where('created_at', '<', Carbon::now()->subHours((int) config('isotome.upload_hours')))->get() as $old) {
            $this->destroy($old);
        }
    }
}
