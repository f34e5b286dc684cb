<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** What is set on one bench, kept to be laid on other props. */
    public function up(): void
    {
        Schema::create('presets', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->string('bench', 16);
            $table->string('name', 60);
            $table->unsignedInteger('version');
            $table->longText('prop');
            $table->timestamps();
        });
    }
};
