<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** Made at the first start before it was written down one by one. */
    private const DEMO = ['Museum sign', 'Clay jar', 'Half wheel bracket', 'Cistern', 'Flour crock', 'Sluice beam', 'Millstone', 'Heron'];

    public function up(): void
    {
        Schema::table('runs', function (Blueprint $table): void {
            $table->string('job', 120)->nullable();
            $table->string('job_id', 40)->nullable();
            $table->unsignedInteger('lease')->default(0);
            $table->unsignedInteger('starts')->default(0);
            $table->index('status');
        });
        Schema::table('meshes', function (Blueprint $table): void {
            // Who is storing it: large ones take several transactions. Null when all of it is there.
            $table->string('storer', 60)->nullable();
        });
        Schema::create('mesh_holds', function (Blueprint $table): void {
            // Stored for work that is not committed yet.
            $table->foreignUlid('run_id')->constrained()->cascadeOnDelete();
            $table->char('mesh_hash', 64);
            $table->foreign('mesh_hash')->references('hash')->on('meshes')->restrictOnDelete();
            $table->primary(['run_id', 'mesh_hash']);
            $table->index('mesh_hash');
        });
        // Without these, deleting a row looks through all rows that could refer to it.
        Schema::table('pieces', function (Blueprint $table): void {
            $table->index('parent_id');
            $table->index('made_by');
            $table->index('spent_by');
            $table->index('mesh_hash');
        });
        Schema::create('demo_made', function (Blueprint $table): void {
            $table->string('name', 120)->primary();
        });
        if (DB::table('projects')->exists() || is_file(storage_path('demo-made'))) {
            DB::table('demo_made')->insert(array_map(static fn (string $name): array => ['name' => $name], self::DEMO));
        }
        // Of a version whose jobs cannot be found again.
        DB::table('runs')->whereIn('status', ['waiting', 'running'])->update(['status' => 'failed', 'phase' => 'failed', 'message' => 'Isotome was brought up to date while this waited; nothing was changed, do it again.']);
        DB::table('jobs')->delete();
    }

    public function down(): void
    {
        Schema::dropIfExists('demo_made');
        Schema::table('pieces', function (Blueprint $table): void {
            foreach (['parent_id', 'made_by', 'spent_by', 'mesh_hash'] as $column) {
                $table->dropIndex([$column]);
            }
        });
        Schema::dropIfExists('mesh_holds');
        Schema::table('meshes', fn (Blueprint $table) => $table->dropColumn('storer'));
        Schema::table('runs', function (Blueprint $table): void {
            $table->dropIndex(['status']);
            $table->dropColumn(['job', 'job_id', 'lease', 'starts']);
        });
    }
};
