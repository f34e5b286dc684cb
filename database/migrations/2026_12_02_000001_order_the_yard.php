<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** Shots lie in folders and bear tags, which are no part of their documents; it is known when one was last opened. */
    public function up(): void
    {
        Schema::table('shots', static function (Blueprint $table): void {
            $table->string('folder', 60)->default('');
            $table->string('tags', 400)->default('[]');
            $table->string('opened_at')->nullable();
        });
    }
};
