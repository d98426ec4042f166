<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Isotome\Mesh\Blocks;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('mesh_blocks', function (Blueprint $table): void {
            // What a block adds to volume and vector area (Blocks::sums).
            foreach (['sv', 'sx', 'sy', 'sz'] as $sum) {
                $table->double($sum)->default(0);
            }
        });
        Schema::table('meshes', function (Blueprint $table): void {
            $table->unsignedBigInteger('bytes')->default(0);
        });
        foreach (DB::table('meshes')->get() as $mesh) {
            $centre = [($mesh->x0 + $mesh->x1) / 2, ($mesh->y0 + $mesh->y1) / 2, ($mesh->z0 + $mesh->z1) / 2];
            $bytes = 0;
            foreach (DB::table('mesh_blocks')->where('mesh_hash', $mesh->hash)->pluck('id') as $id) {
                $payload = DB::table('mesh_blocks')->where('id', $id)->value('payload');
                $payload = is_resource($payload) ? (string) stream_get_contents($payload) : (string) $payload;
                DB::table('mesh_blocks')->where('id', $id)->update(array_combine(['sv', 'sx', 'sy', 'sz'], Blocks::sums($payload, $centre)));
                $bytes += strlen($payload);
            }
            DB::table('meshes')->where('hash', $mesh->hash)->update(['bytes' => $bytes]);
        }
        Schema::create('printers', function (Blueprint $table): void {
            $table->id();
            $table->string('name', 80);
            $table->double('x');
            $table->double('y');
            $table->double('z');
            $table->boolean('own')->default(false);
        });
        // Generic working spaces (common practice: a desktop printer has about 200 mm on a side).
        foreach ([['Standard bed', 200, 200, 200], ['Small bed', 120, 120, 120], ['Large bed', 300, 300, 400], ['Tall bed', 220, 220, 320]] as [$name, $x, $y, $z]) {
            DB::table('printers')->insert(['name' => $name, 'x' => $x, 'y' => $y, 'z' => $z, 'own' => false]);
        }
        Schema::table('projects', function (Blueprint $table): void {
            $table->foreignId('printer_id')->nullable()->constrained()->nullOnDelete();
            $table->softDeletes();
        });
        DB::table('projects')->update(['printer_id' => 1]);
        Schema::table('pieces', function (Blueprint $table): void {
            // A mended piece keeps its name beside the one it was made from.
            $table->dropUnique(['project_id', 'name']);
            $table->index(['project_id', 'name']);
            $table->string('title', 120)->nullable();
        });
        Schema::create('history', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('project_id')->constrained()->cascadeOnDelete();
            $table->boolean('redo')->default(false);
            $table->string('what', 160);
            $table->json('state');
            $table->timestamp('created_at')->nullable();
            $table->index(['project_id', 'redo', 'id']);
        });
        Schema::create('history_meshes', function (Blueprint $table): void {
            $table->foreignId('history_id')->constrained('history')->cascadeOnDelete();
            $table->char('mesh_hash', 64);
            $table->foreign('mesh_hash')->references('hash')->on('meshes')->restrictOnDelete();
            $table->primary(['history_id', 'mesh_hash']);
            $table->index('mesh_hash');
        });
        Schema::create('checks', function (Blueprint $table): void {
            $table->char('mesh_hash', 64)->primary();
            $table->json('report');
            $table->timestamp('created_at')->nullable();
            $table->foreign('mesh_hash')->references('hash')->on('meshes')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        foreach (['checks', 'history_meshes', 'history'] as $table) {
            Schema::dropIfExists($table);
        }
        Schema::table('pieces', function (Blueprint $table): void {
            $table->dropIndex(['project_id', 'name']);
            $table->unique(['project_id', 'name']);
            $table->dropColumn('title');
        });
        Schema::table('projects', function (Blueprint $table): void {
            $table->dropConstrainedForeignId('printer_id');
            $table->dropSoftDeletes();
        });
        Schema::dropIfExists('printers');
        Schema::table('meshes', fn (Blueprint $table) => $table->dropColumn('bytes'));
        Schema::table('mesh_blocks', fn (Blueprint $table) => $table->dropColumn(['sv', 'sx', 'sy', 'sz']));
    }
};
