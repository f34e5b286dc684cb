<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Edit;
use App\Models\Shot;
use Illuminate\Support\Facades\DB;
use Swaggest\JsonDiff\JsonDiff;
use YardBreak\Core\Problem;

/** Changes a shot by JSON Patch (RFC 6902), remembering the way back. A change either holds wholly or not at all. */
final class ShotEditor
{
    /**
     * @param  array<mixed>  $steps  of a JSON Patch
     *
     * @throws Problem where the result would be no valid shot
     * @throws Conflict where the shot has moved on since that revision
     */
    public function edit(string $id, int $revision, array $steps, string $label): Shot
    {
        return DB::transaction(function () use ($id, $revision, $steps, $label): Shot {
            $shot = $this->current($id, $revision);
            $before = Patch::plain($shot->decoded());
            $patch = new Patch($steps);
            $after = $patch->on($before);
            // The revision says what it leads back from; nothing else need be tested.
            $inverse = array_values(array_filter((new JsonDiff($after, $before))->getPatch()->jsonSerialize(), static fn (object $o): bool => $o->op !== 'test'));
            if ($inverse === []) {
                return $shot;
            }
            $shot->edits()->where('undone', true)->delete();
            $shot->edits()->create(['label' => $label, 'patch' => $patch->kept(), 'inverse' => json_encode($inverse)]);

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
            $after = (new Patch((array) json_decode($back ? $edit->inverse : $edit->patch)))->on($shot->decoded());
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

    private function keep(Shot $shot, \stdClass $document): Shot
    {
        $shot->update([
            'document' => json_encode($document, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE),
            'name' => $document->name,
            'revision' => $shot->revision + 1,
        ]);

        return $shot;
    }
}
