<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\ListOfTexts;
use App\Meshes\Geometry;
use App\Meshes\MeshStore;
use App\Models\Mesh;
use App\Serving\SendsFile;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Isotome\Exception\BadMesh;
use Isotome\Format\Picture;
use Isotome\Format\Stuff;

/** Meshes for the view: see Geometry. They never change, so the browser keeps what it asked for by itself for good. */
final class GeometryController
{
    /** Small meshes are answered together up to so many triangles. */
    private const MOST = 400_000;

    public function show(Request $request, Mesh $mesh, Geometry $geometry): Response
    {
        $response = response('', 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, max-age=31536000, immutable']);
        $rough = $request->boolean('rough');
        $response->setEtag($mesh->hash.($rough ? '-rough' : ''));

        if ($response->isNotModified($request)) {
            return $response;
        }
        $kept = $geometry->kept($mesh, $rough);
        if ($kept !== null && SendsFile::hands($request, '/kept/', $kept, $response)) {
            return $response;
        }

        return $response->setContent($rough ? $geometry->rough($mesh) : $geometry->bytes($mesh));
    }

    /** The colours that the mesh carries: three bytes a corner, in the order of its triangles. */
    public function colours(Mesh $mesh, Geometry $geometry): Response
    {
        return response($geometry->colours($mesh), 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, max-age=31536000, immutable']);
    }

    /** The pictures on the mesh: see Geometry::pictures. */
    public function pictures(Mesh $mesh, Geometry $geometry): Response
    {
        return response($geometry->pictures($mesh), 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, max-age=31536000, immutable']);
    }

    /** One picture that came with some mesh, as it came. */
    public function picture(string $picture, MeshStore $store): Response
    {
        try {
            $bytes = $store->picture($picture);
        } catch (BadMesh) {
            abort(404);
        }

        return response($bytes, 200, ['Content-Type' => Picture::kind($bytes), 'Cache-Control' => 'private, max-age=31536000, immutable', 'X-Content-Type-Options' => 'nosniff']);
    }

    /** Where the inside faces of a mesh lie, mm: see Geometry::insidePlaces. */
    public function inside(Mesh $mesh, Geometry $geometry): Response
    {
        return response($geometry->insidePlaces($mesh), 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, max-age=31536000, immutable']);
    }

    /** One of the pictures for the inside that are always there. */
    public function stuff(string $name): Response
    {
        abort_unless(isset(Stuff::WIDTHS[$name]), 404);

        return response(Stuff::png($name), 200, ['Content-Type' => 'image/png', 'Cache-Control' => 'private, max-age=86400', 'X-Content-Type-Options' => 'nosniff']);
    }

    /** Several meshes one after the other, each behind its length (u32, and u32 zero); fewer than asked when they are large. */
    public function several(Request $request, Geometry $geometry): Response
    {
        $asked = $request->validate(['meshes' => ['required', new ListOfTexts(500, '/^[0-9a-f]{64}$/', 'The meshes are not a list of at most 500; reload the page.')]], ['meshes' => 'The meshes are not a list of at most 500; reload the page.']);
        $known = Mesh::query()->whereIn('hash', $asked['meshes'])->get()->keyBy('hash');
        $bytes = '';
        $triangles = 0;
        foreach ($asked['meshes'] as $hash) {
            /** @var Mesh $mesh */
            $mesh = $known[$hash] ?? abort(404);
            $triangles += $mesh->triangles;
            if ($bytes !== '' && $triangles > self::MOST) {
                break;
            }
            $one = $geometry->bytes($mesh);
            $bytes .= pack('V2', strlen($one), 0).$one;
        }

        return response($bytes, 200, ['Content-Type' => 'application/octet-stream']);
    }
}
