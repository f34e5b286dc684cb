<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('hand_offs', function (Blueprint $table): void {
            $table->unsignedInteger('frames')->default(0);
            $table->float('share')->default(0);
        });
    }

    public function down(): void
    {
        Schema::table('hand_offs', function (Blueprint $table): void {
            $table->dropColumn(['frames', 'share']);
        });
    }
};
