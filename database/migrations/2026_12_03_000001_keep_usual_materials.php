<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** What things of a material begin as, where somebody said so. */
    public function up(): void
    {
        Schema::create('usual_materials', static function (Blueprint $table): void {
            $table->string('name', 40)->primary();
            $table->longText('material');
            $table->timestamps();
        });
    }
};
