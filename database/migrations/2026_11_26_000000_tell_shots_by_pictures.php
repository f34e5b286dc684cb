<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('bakes', static fn (Blueprint $t) => $t->integer('telling')->nullable());
        Schema::table('shots', static fn (Blueprint $t) => $t->string('picture_of')->nullable());
    }

    public function down(): void
    {
        Schema::table('bakes', static fn (Blueprint $t) => $t->dropColumn('telling'));
        Schema::table('shots', static fn (Blueprint $t) => $t->dropColumn('picture_of'));
    }
};
