<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Printer;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Isotome\Exception\BadRecipe;

/** Working spaces to choose from: generic ones, and a person's own. */
final class PrinterController
{
    public function index(): JsonResponse
    {
        return response()->json(Printer::query()->orderBy('own')->orderBy('id')->get());
    }

    public function store(Request $request): JsonResponse
    {
        $asked = self::asked($request);
        if (Printer::query()->count() >= 200) {
            throw new BadRecipe('There are 200 printers already; remove one that is not used.');
        }

        return response()->json(Printer::query()->create([...$asked, 'own' => true])->refresh(), 201);
    }

    public function update(Request $request, Printer $printer): JsonResponse
    {
        if (! $printer->own) {
            throw new BadRecipe('This printer comes with Isotome and stays as it is; add your own with other numbers.');
        }
        $printer->fill(self::asked($request))->save();

        return response()->json($printer);
    }

    /** @return array<string, mixed> */
    private static function asked(Request $request): array
    {
        $side = ['required', 'numeric', 'between:1,100000'];
        $sides = 'The working space needs three sides of 1 to 100,000 mm; type them.';
        $asked = $request->validate([
            'name' => ['required', 'string', 'max:80', 'regex:/[\p{L}\p{N}]/u'], 'x' => $side, 'y' => $side, 'z' => $side, 'round' => ['sometimes', 'boolean'],
            'nozzle' => ['sometimes', 'numeric', 'between:0.05,10'], 'layer' => ['sometimes', 'numeric', 'between:0.01,10'], 'gap' => ['sometimes', 'numeric', 'between:0,10'], 'margin' => ['sometimes', 'numeric', 'between:0,1000'],
        ], [
            'name' => 'The printer needs a name of 1 to 80 characters; type one.', 'x' => $sides, 'y' => $sides, 'z' => $sides, 'round' => 'Say with true or false whether the bed is round.',
            'nozzle' => 'The nozzle is 0.05 to 10 mm wide; type its width.', 'layer' => 'Layers are 0.01 to 10 mm high; type their height.', 'gap' => 'The fit gap is 0 to 10 mm; type it again.', 'margin' => 'The margin of the bed is 0 to 1,000 mm; type it again.',
        ]);
        foreach (['x', 'y', 'z', 'nozzle', 'layer', 'gap', 'margin'] as $length) {
            if (isset($asked[$length])) {
                $asked[$length] = (float) $asked[$length];
            }
        }
        if (($asked['round'] ?? false) && $asked['x'] !== $asked['y']) {
            throw new BadRecipe('A round bed is as deep as it is wide; type its diameter for both.');
        }
        if (($asked['layer'] ?? 0.2) > ($asked['nozzle'] ?? 0.4)) {
            throw new BadRecipe('Layers are no higher than the nozzle is wide; type a smaller height.');
        }
        if (2 * ($asked['margin'] ?? 2.0) > min($asked['x'], $asked['y']) - 1) {
            throw new BadRecipe('This margin leaves nothing of the bed; type less than half its width.');
        }

        return $asked;
    }

    public function destroy(Printer $printer): Response
    {
        if (! $printer->own) {
            throw new BadRecipe('This printer comes with Isotome and stays; only your own can be removed.');
        }
        $printer->delete();

        return response()->noContent();
    }
}
