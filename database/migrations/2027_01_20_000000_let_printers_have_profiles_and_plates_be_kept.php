<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // Common practice: a nozzle of 0.4 mm, layers of half of it, a fit gap of 0.3 mm.
        Schema::table('printers', function (Blueprint $table): void {
            $table->boolean('round')->default(false);
            $table->double('nozzle')->default(0.4);
            $table->double('layer')->default(0.2);
            $table->double('gap')->default(0.3);
            $table->double('margin')->default(2);
        });
        DB::table('printers')->insert(['name' => 'Round bed', 'x' => 180, 'y' => 180, 'z' => 300, 'round' => true, 'own' => false]);
        // Plates as they were packed and moved by hand.
        Schema::create('layouts', function (Blueprint $table): void {
            $table->foreignId('project_id')->primary()->constrained()->cascadeOnDelete();
            // Whoever changes them says which ones were seen.
            $table->unsignedInteger('version');
            $table->json('settings');
            $table->json('plates');
        });
        // What the simulated printer was given. How far it has come follows from the times alone.
        Schema::create('prints', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->string('title', 200);
            $table->string('printer', 80);
            $table->double('seconds');
            $table->json('layers');
            $table->double('grams');
            // How many times as fast as it says it prints.
            $table->unsignedInteger('times');
            $table->double('asked_at');
            $table->double('stopped_at')->nullable();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('prints');
        Schema::dropIfExists('layouts');
        Schema::table('printers', function (Blueprint $table): void {
            $table->dropColumn(['round', 'nozzle', 'layer', 'gap', 'margin']);
        });
    }
};
