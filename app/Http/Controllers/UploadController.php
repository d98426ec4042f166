<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\ReceivedBody;
use App\Http\Refusals;
use App\Meshes\ReadAside;
use App\Models\Upload;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Isotome\Exception\UnreadableMesh;
use Isotome\Format\MeshFile;
use Throwable;

/** A file on its way in: the request's body is the file, its name is in the address. */
final class UploadController
{
    /** Reads a file and says what is in it, in the file's own numbers; it becomes a project when it is accepted. */
    public function store(Request $request, ReadAside $reader): JsonResponse
    {
        $name = $request->query('file');
        $name = is_string($name) ? mb_substr(basename(str_replace('\\', '/', $name)), 0, 255) : '';
        if ($name === '') {
            throw new UnreadableMesh('No file arrived; choose a mesh file and bring it in again.');
        }
        MeshFile::readable(MeshFile::ending($name), $name);
        set_time_limit(600);
        $upload = Upload::query()->make(['file' => $name, 'report' => []]);
        $upload->id = $upload->newUniqueId();
        $path = $upload->path();
        @mkdir(dirname($path), 0700, true);
        try {
            $size = ReceivedBody::into($path, $request);
            if ($size === 0) {
                throw new UnreadableMesh("The file $name is empty; export the mesh again.");
            }
            if ($size > (int) config('isotome.largest_upload')) {
                $upload->unlink();

                return response()->json(['message' => Refusals::tooLarge()], 413);
            }
            $upload->report = $reader->report($path, $name, $upload->readPath());
            $upload->save();
        } catch (Throwable $error) {
            $upload->unlink();
            throw $error;
        }

        return response()->json(['id' => $upload->id, 'file' => $upload->file, 'report' => $upload->report], 201);
    }

    public function destroy(Upload $upload): Response
    {
        $upload->remove();

        return response()->noContent();
    }
}
