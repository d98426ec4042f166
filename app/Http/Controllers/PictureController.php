<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Meshes\Pictures;
use App\Models\Mesh;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Isotome\Exception\BadCommand;

/** Small pictures of meshes for the shelf: drawn by the first browser that needs one, and kept for all. */
final class PictureController
{
    public function show(Mesh $mesh, string $colour, string $theme): Response
    {
        $png = Pictures::get($mesh->hash, $colour, $theme);

        return $png === null ? response()->noContent() : response($png, 200, ['Content-Type' => 'image/png', 'Cache-Control' => 'private, max-age=31536000, immutable', 'X-Content-Type-Options' => 'nosniff']);
    }

    public function store(Request $request, Mesh $mesh, string $colour, string $theme): Response
    {
        if (! Pictures::put($mesh->hash, $colour, $theme, (string) $request->getContent())) {
            throw new BadCommand('This is no picture of the size that the shelf shows; reload the page to draw it again.');
        }

        return response()->noContent();
    }
}
