<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** Bakes made before carry no checksums, so it cannot be told whether they hold. */
    public function up(): void
    {
        DB::table('hand_offs')->delete();
        DB::table('bakes')->delete();
        Schema::table('bakes', static fn (Blueprint $t) => $t->string('mended')->default(''));
    }

    public function down(): void
    {
        Schema::table('bakes', static fn (Blueprint $t) => $t->dropColumn('mended'));
    }
};
