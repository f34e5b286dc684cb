<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('shots', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->string('name');
            $table->longText('document');
            $table->unsignedInteger('revision')->default(0);
            $table->timestamps();
            $table->softDeletes();
        });
        Schema::create('edits', function (Blueprint $table): void {
            $table->id();
            $table->foreignUlid('shot_id')->constrained()->cascadeOnDelete();
            $table->string('label');
            $table->longText('patch');
            $table->longText('inverse');
            $table->boolean('undone')->default(false);
            $table->timestamps();
            $table->index(['shot_id', 'undone']);
        });
        Schema::create('assets', function (Blueprint $table): void {
            $table->string('hash', 64)->primary();
            $table->string('name');
            $table->unsignedBigInteger('bytes');
            $table->timestamps();
        });
        Schema::create('bakes', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('shot_id')->constrained()->cascadeOnDelete();
            $table->longText('document');
            $table->longText('parts');
            $table->string('fingerprint', 64);
            $table->string('state', 12);
            $table->unsignedInteger('attempt')->default(0);
            $table->unsignedInteger('first');
            $table->unsignedInteger('last');
            $table->unsignedInteger('frames_done')->default(0);
            $table->unsignedInteger('pieces')->default(0);
            $table->float('seconds')->default(0);
            $table->string('note')->default('');
            $table->text('problem')->nullable();
            $table->timestamps();
            $table->index(['shot_id', 'created_at']);
        });
        Schema::create('hand_offs', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('bake_id')->constrained()->cascadeOnDelete();
            $table->string('format', 8);
            $table->string('state', 12);
            $table->string('file')->nullable();
            $table->unsignedBigInteger('bytes')->default(0);
            $table->text('problem')->nullable();
            $table->timestamps();
        });
        Schema::create('jobs', function (Blueprint $table): void {
            $table->id();
            $table->string('queue')->index();
            $table->longText('payload');
            $table->unsignedTinyInteger('attempts');
            $table->unsignedInteger('reserved_at')->nullable();
            $table->unsignedInteger('available_at');
            $table->unsignedInteger('created_at');
        });
        Schema::create('failed_jobs', function (Blueprint $table): void {
            $table->id();
            $table->string('uuid')->unique();
            $table->text('connection');
            $table->text('queue');
            $table->longText('payload');
            $table->longText('exception');
            $table->timestamp('failed_at')->useCurrent();
        });
    }

    public function down(): void
    {
        foreach (['failed_jobs', 'jobs', 'hand_offs', 'bakes', 'assets', 'edits', 'shots'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
