<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // Whether a mesh goes into a printer's space in any turn. Written while a step is worked out, before its meshes are: so it names them and does not refer to them.
        Schema::create('fits', function (Blueprint $table): void {
            $table->char('mesh_hash', 64);
            // Its three sides in mm.
            $table->string('space', 80);
            $table->boolean('fits');
            // The largest excess with the best turn that was found.
            $table->double('over_mm');
            // That turn: its axis, as long as its angle in radians.
            $table->json('vector');
            $table->timestamp('made_at')->index();
            $table->primary(['mesh_hash', 'space']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('fits');
    }
};
