<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** What a shot looked like after an edit, and as it began. */
    public function up(): void
    {
        Schema::table('edits', static fn (Blueprint $table) => $table->binary('picture')->nullable());
        Schema::table('shots', static fn (Blueprint $table) => $table->binary('begun_picture')->nullable());
    }
};
