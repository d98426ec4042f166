<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('runs', function (Blueprint $table): void {
            // The question that the run works out; null when it changes the project.
            $table->char('question', 64)->nullable();
        });
        Schema::create('answers', function (Blueprint $table): void {
            // Of the question's content.
            $table->char('question', 64)->primary();
            // Goes with the project that asked first.
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->string('file', 80);
            // What a file that is taken out is called; null for what is told.
            $table->string('name', 255)->nullable();
            $table->unsignedBigInteger('bytes');
            $table->timestamp('used_at')->index();
            $table->index('project_id');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('answers');
        Schema::table('runs', fn (Blueprint $table) => $table->dropColumn('question'));
    }
};
