<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Yard\Materials;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** What things of a material begin as. */
final class MaterialController
{
    public function store(Request $request): JsonResponse
    {
        $given = $request->validate(['shot' => 'required|string', 'prop' => 'required|string']);
        Materials::keep(Shot::query()->findOrFail($given['shot']), $given['prop']);

        return response()->json(Materials::all());
    }

    public function destroy(string $name): JsonResponse
    {
        Materials::forget($name);

        return response()->json(Materials::all());
    }
}
