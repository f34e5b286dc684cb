<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** A shot may be baked in variants, which are not its own bake; what came of a bake is kept with it. */
    public function up(): void
    {
        Schema::table('bakes', static function (Blueprint $table): void {
            $table->boolean('own')->default(true);
            $table->text('outcome')->nullable();
        });
        DB::statement('drop index one_open_bake_a_shot');
        DB::statement("create unique index one_open_bake_a_shot on bakes (shot_id) where own = 1 and state in ('queued', 'running')");
        Schema::create('trials', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('shot_id')->constrained()->cascadeOnDelete();
            $table->string('name');
            $table->longText('document');
            $table->text('axes');
            $table->timestamps();
        });
        Schema::create('variants', static function (Blueprint $table): void {
            $table->id();
            $table->foreignUlid('trial_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('number');
            $table->string('words', 400);
            $table->longText('patch');
            $table->foreignUlid('bake_id')->nullable()->constrained()->nullOnDelete();
            $table->text('problem')->nullable();
            $table->string('seen_at')->nullable();
            $table->unique(['trial_id', 'number']);
            $table->index('bake_id');
        });
    }
};
