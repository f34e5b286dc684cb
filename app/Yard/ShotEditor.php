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
            $patch = (new Patch($steps))->followed($before);
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

    /** @throws Problem where what was sent is none */
    public static function revision(mixed $sent): int
    {
        return is_int($sent) ? $sent : throw Problem::inValue('revision', 'A change must name the revision it starts from.');
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

    /**
     * Goes to what a shot was right after an edit, forth or back, in one change.
     *
     * @param  int  $edit  0 for what it was before all of them
     *
     * @throws Conflict
     */
    public function goTo(string $id, int $revision, int $edit): Shot
    {
        return DB::transaction(function () use ($id, $revision, $edit): Shot {
            $shot = $this->current($id, $revision);
            if ($edit !== 0) {
                $shot->edits()->findOrFail($edit);
            }
            $document = $shot->decoded();
            $gone = 0;
            while (($last = $this->lastDone($shot)) !== null && $last->id > $edit) {
                $document = $this->taken($last, true, $document);
                $gone++;
            }
            while (($next = $this->firstUndone($shot)) !== null && $next->id <= $edit) {
                $document = $this->taken($next, false, $document);
                $gone++;
            }

            return $gone === 0 ? $shot : $this->keep($shot, $document);
        });
    }

    private function taken(Edit $edit, bool $back, \stdClass $document): \stdClass
    {
        $after = (new Patch((array) json_decode($back ? $edit->inverse : $edit->patch)))->on($document);
        $edit->update(['undone' => $back]);

        return $after;
    }

    private function step(string $id, int $revision, bool $back): Shot
    {
        return DB::transaction(function () use ($id, $revision, $back): Shot {
            $shot = $this->current($id, $revision);
            $edit = $back ? $this->lastDone($shot) : $this->firstUndone($shot);
            if ($edit === null) {
                return $shot;
            }

            return $this->keep($shot, $this->taken($edit, $back, $shot->decoded()));
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
