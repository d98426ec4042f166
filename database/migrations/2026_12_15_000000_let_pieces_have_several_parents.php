<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** The first parent stays where it is, in parent_id; what can be undone from before has no others. */
    public function up(): void
    {
        Schema::table('pieces', fn (Blueprint $table) => $table->json('others')->nullable());
    }

    public function down(): void
    {
        Schema::table('pieces', fn (Blueprint $table) => $table->dropColumn('others'));
    }
};
