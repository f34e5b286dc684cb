<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\WriteHandOff;
use App\Models\Bake;
use App\Models\HandOff;
use App\Storage\YardFiles;
use App\Yard\Mending;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Bake\HandOff as Writer;
use YardBreak\Core\Problem;

final class HandOffController
{
    /** What was handed off of a bake, and what each format leaves out of it. */
    public function index(Bake $bake): JsonResponse
    {
        $leaves = array_map(static fn (string $format): array => Writer::leftOut($bake->spec(), $format), array_combine(Writer::FORMATS, Writer::FORMATS));

        return response()->json(['sent' => $bake->handOffs()->latest('id')->get()->map(self::view(...)), 'leaves' => $leaves]);
    }

    public function store(Request $request, Bake $bake): JsonResponse
    {
        $format = $request->input('format');
        $format = is_string($format) ? $format : '';
        if (! in_array($format, Writer::FORMATS, true)) {
            throw Problem::inValue('format', 'A bake cannot be written as "'.mb_substr($format, 0, 20).'".', 'Choose one of: '.implode(', ', Writer::FORMATS).'.');
        }
        if ($bake->frames_done === 0) {
            throw Problem::inValue('bake', 'There is nothing baked yet.', 'Bake the shot first.');
        }
        if (Mending::of($bake)) {
            throw Problem::damaged($bake->mended);
        }
        $handOff = $bake->handOffs()->create(['format' => $format, 'state' => 'queued', 'frames' => $bake->frames_done, 'share' => 0.0]);
        WriteHandOff::dispatch($handOff->id);

        return response()->json(self::view($handOff), 201);
    }

    public function show(HandOff $handOff): JsonResponse
    {
        return response()->json(self::view($handOff));
    }

    public function file(HandOff $handOff): BinaryFileResponse
    {
        abort_if($handOff->file === null, 404);

        return response()->download(YardFiles::path('hand-offs/'.$handOff->id.'/'.$handOff->file), $handOff->file);
    }

    /** @return array<string, mixed> */
    private static function view(HandOff $h): array
    {
        return ['id' => $h->id, 'format' => $h->format, 'state' => $h->state, 'share' => round((float) $h->share, 3), 'file' => $h->file, 'bytes' => $h->bytes, 'problem' => $h->problem, 'at' => $h->created_at->toIso8601String()];
    }
}
