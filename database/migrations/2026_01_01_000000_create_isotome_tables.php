<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('meshes', function (Blueprint $table): void {
            $table->char('hash', 64)->primary();
            $table->unsignedInteger('triangles');
            $table->unsignedInteger('vertices');
            $table->unsignedInteger('shells');
            $table->boolean('watertight');
            $table->json('faults');
            foreach (['volume', 'area', 'x0', 'x1', 'y0', 'y1', 'z0', 'z1', 'cx', 'cy', 'cz'] as $measure) {
                $table->double($measure);
            }
            $table->timestamp('created_at')->nullable();
        });
        Schema::create('mesh_blocks', function (Blueprint $table): void {
            $table->id();
            $table->char('mesh_hash', 64);
            foreach (['x0', 'x1', 'y0', 'y1', 'z0', 'z1'] as $side) {
                $table->double($side);
            }
            $table->binary('payload');
            $table->foreign('mesh_hash')->references('hash')->on('meshes')->cascadeOnDelete();
            // Answers "which blocks does the plane touch" without reading a payload.
            $table->index(['mesh_hash', 'x0', 'x1', 'y0', 'y1', 'z0', 'z1', 'id'], 'mesh_blocks_boxes');
        });
        Schema::create('projects', function (Blueprint $table): void {
            $table->id();
            $table->string('name', 120);
            $table->string('file', 255);
            $table->string('units', 4);
            $table->text('note')->default('');
            $table->timestamps();
        });
        Schema::create('steps', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('number');
            $table->json('settings');
            $table->json('report');
            $table->timestamps();
            $table->unique(['project_id', 'number']);
        });
        Schema::create('pieces', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->foreignId('parent_id')->nullable()->constrained('pieces')->cascadeOnDelete();
            $table->foreignId('made_by')->nullable()->constrained('steps')->cascadeOnDelete();
            $table->foreignId('spent_by')->nullable()->constrained('steps')->nullOnDelete();
            $table->string('name', 255);
            $table->char('mesh_hash', 64);
            $table->char('colour', 7);
            $table->unsignedInteger('place');
            $table->timestamps();
            $table->unique(['project_id', 'name']);
            $table->foreign('mesh_hash')->references('hash')->on('meshes')->restrictOnDelete();
        });
        Schema::create('runs', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 16);
            $table->json('settings');
            $table->string('status', 16);
            $table->string('phase', 120);
            $table->float('progress');
            $table->text('message')->nullable();
            $table->boolean('cancel_asked')->default(false);
            $table->timestamps();
            $table->index(['project_id', 'status']);
        });
        Schema::create('uploads', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->string('file', 255);
            $table->json('report');
            $table->timestamps();
        });
        Schema::create('jobs', function (Blueprint $table): void {
            $table->id();
            $table->string('queue')->index();
            $table->longText('payload');
            $table->unsignedTinyInteger('attempts');
            $table->unsignedInteger('reserved_at')->nullable();
            $table->unsignedInteger('available_at');
            $table->unsignedInteger('created_at');
        });
    }

    public function down(): void
    {
        foreach (['jobs', 'uploads', 'runs', 'pieces', 'steps', 'projects', 'mesh_blocks', 'meshes'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
