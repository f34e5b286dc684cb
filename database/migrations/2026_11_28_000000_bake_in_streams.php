<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use YardBreak\Core\Shot\Upgrade;

return new class extends Migration
{
    /** Documents get values in time. Bakes made before are gone, for their frames say nothing of what they hold; kept edits speak of places that are no longer there. */
    public function up(): void
    {
        foreach (DB::table('shots')->get(['id', 'document']) as $row) {
            $document = json_decode($row->document, false, 64);
            if ($document instanceof stdClass && ($document->version ?? null) === 2) {
                DB::table('shots')->where('id', $row->id)->update(['document' => json_encode(Upgrade::of($document), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION)]);
                DB::table('edits')->where('shot_id', $row->id)->delete();
            }
        }
        DB::table('hand_offs')->delete();
        DB::table('bakes')->delete();
        Schema::table('bakes', function (Blueprint $table): void {
            $table->dropColumn('parts');
            $table->text('counts')->default('[]');
            $table->text('shards')->default('{}');
            $table->text('anchored')->default('{}');
            $table->unsignedInteger('kept')->default(0);
            $table->string('wanted_at', 32)->default('');
        });
        DB::statement("create unique index one_open_bake_a_shot on bakes (shot_id) where state in ('queued', 'running')");
    }
};
