<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** What a shot was after an edit may have a name. */
    public function up(): void
    {
        Schema::table('edits', static fn (Blueprint $table) => $table->string('name', 80)->default(''));
    }
};
