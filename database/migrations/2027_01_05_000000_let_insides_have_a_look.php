<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('projects', function (Blueprint $table): void {
            // How faces made by cutting look; null for a lighter colour of each piece's own.
            $table->text('inside')->nullable();
            // A picture of the person's own, which other projects may have as well.
            $table->char('inside_picture', 64)->nullable()->index();
        });
    }

    public function down(): void
    {
        Schema::table('projects', fn (Blueprint $table) => $table->dropIndex(['inside_picture']));
        Schema::table('projects', fn (Blueprint $table) => $table->dropColumn(['inside', 'inside_picture']));
    }
};
