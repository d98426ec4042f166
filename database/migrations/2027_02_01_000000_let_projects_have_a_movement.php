<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('movements', function (Blueprint $table): void {
            $table->foreignId('project_id')->primary()->constrained()->cascadeOnDelete();
            // Whoever changes it says which one was seen.
            $table->unsignedInteger('version');
            $table->json('movement');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('movements');
    }
};
