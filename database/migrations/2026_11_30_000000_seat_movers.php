<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;
use YardBreak\Core\Shot\Upgrade;

return new class extends Migration
{
    /** What is set for rigid bodies, and for the ground, moves to a place of its own; kept edits of those speak of places that are no longer there. */
    public function up(): void
    {
        foreach (DB::table('shots')->get(['id', 'document']) as $row) {
            $document = json_decode($row->document, false, 64);
            if ($document instanceof stdClass && ($document->version ?? null) === 4) {
                DB::table('shots')->where('id', $row->id)->update(['document' => json_encode(Upgrade::of($document), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION)]);
                foreach (['held', 'velocity', 'spin', 'ground'] as $word) {
                    DB::table('edits')->where('shot_id', $row->id)->where(fn ($q) => $q->where('patch', 'like', "%$word%")->orWhere('inverse', 'like', "%$word%"))->delete();
                }
            }
        }
    }
};
