<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Edit;
use App\Models\Shot;
use Illuminate\Support\Facades\DB;
use Swaggest\JsonDiff\Exception as PatchException;
use Swaggest\JsonDiff\JsonDiff;
use Swaggest\JsonDiff\JsonPatch;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotSpec;

/** Changes a shot by JSON Patch (RFC 6902), remembering the way back. A change either holds wholly or not at all. */
final class ShotEditor
{
    /**
     * @param  array<mixed>  $patch
     *
     * @throws Problem where the result would be no valid shot
     * @throws Conflict where the shot has moved on since that revision
     */
    public function edit(string $id, int $revision, array $patch, string $label): Shot
    {
        return DB::transaction(function () use ($id, $revision, $patch, $label): Shot {
            $shot = $this->current($id, $revision);
            $before = $shot->decoded();
            $after = $this->patched($before, $patch);
            $inverse = (new JsonDiff($after, $before))->getPatch()->jsonSerialize();
            if ($inverse === []) {
                return $shot;
            }
            $shot->edits()->where('undone', true)->delete();
            $shot->edits()->create(['label' => $label, 'patch' => json_encode($patch), 'inverse' => json_encode($inverse)]);

            return $this->keep($shot, $after);
        });
    }

    /** @throws Conflict */
    public function undo(string $id, int $revision): Shot
    {
        return $this->step($id, $revision, true);
    }

    /** @throws Conflict */
    public function redo(string $id, int $revision): Shot
    {
        return $this->step($id, $revision, false);
    }

    private function step(string $id, int $revision, bool $back): Shot
    {
        return DB::transaction(function () use ($id, $revision, $back): Shot {
            $shot = $this->current($id, $revision);
            $edit = $back ? $this->lastDone($shot) : $this->firstUndone($shot);
            if ($edit === null) {
                return $shot;
            }
            $after = $this->patched($shot->decoded(), (array) json_decode($back ? $edit->inverse : $edit->patch));
            $edit->update(['undone' => $back]);

            return $this->keep($shot, $after);
        });
    }

    public function lastDone(Shot $shot): ?Edit
    {
        return $shot->edits()->where('undone', false)->latest('id')->first();
    }

    public function firstUndone(Shot $shot): ?Edit
    {
        return $shot->edits()->where('undone', true)->oldest('id')->first();
    }

    private function current(string $id, int $revision): Shot
    {
        $shot = Shot::query()->findOrFail($id);
        if ($shot->revision !== $revision) {
            throw new Conflict($shot);
        }

        return $shot;
    }

    /** @param  array<mixed>  $patch */
    private function patched(\stdClass $document, array $patch): \stdClass
    {
        $copy = json_decode((string) json_encode($document, JSON_PRESERVE_ZERO_FRACTION));
        try {
            JsonPatch::import($patch)->apply($copy);
        } catch (PatchException $e) {
            throw Problem::inValue('', 'This change does not fit the shot: '.$e->getMessage(), 'Reload the page.');
        }
        if (! $copy instanceof \stdClass) {
            throw Problem::inValue('', 'This change would leave no shot.', 'Reload the page.');
        }
        ShotSpec::fromObject($copy);

        return $copy;
    }

    private function keep(Shot $shot, \stdClass $document): Shot
    {
        $shot->update([
            'document' => json_encode($document, JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE),
            'name' => $document->name,
            'revision' => $shot->revision + 1,
        ]);

        return $shot;
    }
}
