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
        $side = ['required', 'numeric', 'between:1,100000'];
        $sides = 'The working space needs three sides of 1 to 100,000 mm; type them.';
        $asked = $request->validate(['name' => ['required', 'string', 'max:80', 'regex:/[\p{L}\p{N}]/u'], 'x' => $side, 'y' => $side, 'z' => $side], [
            'name' => 'The printer needs a name of 1 to 80 characters; type one.', 'x' => $sides, 'y' => $sides, 'z' => $sides,
        ]);
        if (Printer::query()->count() >= 200) {
            throw new BadRecipe('There are 200 printers already; remove one that is not used.');
        }

        return response()->json(Printer::query()->create([...$asked, 'own' => true]), 201);
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
