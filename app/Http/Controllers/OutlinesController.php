<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Isotome\Drawn\SvgOutlines;
use Isotome\Exception\UnreadableMesh;

/** Outlines of an SVG file, to be laid across the view. Nothing is kept. */
final class OutlinesController
{
    public function __invoke(Request $request): JsonResponse
    {
        if ((int) $request->header('Content-Length', '0') > SvgOutlines::MOST_BYTES) {
            throw new UnreadableMesh('The drawing has more than '.(SvgOutlines::MOST_BYTES / 1e6).' MB; leave out what is not to be cut.');
        }
        $drawing = SvgOutlines::read((string) $request->getContent());

        return response()->json(['lines' => $drawing->lines, 'size' => $drawing->size]);
    }
}
