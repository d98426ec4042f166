<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('meshes', function (Blueprint $table): void {
            // As a person would name it; null for nothing.
            $table->text('carries')->nullable();
        });
        // Materials, texture coordinates, colours and normals of a mesh, in pieces of bytes.
        Schema::create('mesh_skins', function (Blueprint $table): void {
            $table->id();
            $table->char('mesh_hash', 64)->index();
            $table->binary('payload');
            $table->foreign('mesh_hash')->references('hash')->on('meshes')->cascadeOnDelete();
        });
        // The pictures that these use: many meshes share one.
        Schema::create('skin_pictures', function (Blueprint $table): void {
            $table->char('hash', 64)->primary();
            $table->binary('payload');
        });
        Schema::create('mesh_pictures', function (Blueprint $table): void {
            $table->char('mesh_hash', 64);
            $table->char('picture_hash', 64)->index();
            $table->primary(['mesh_hash', 'picture_hash']);
            $table->foreign('mesh_hash')->references('hash')->on('meshes')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        foreach (['mesh_pictures', 'skin_pictures', 'mesh_skins'] as $table) {
            Schema::dropIfExists($table);
        }
        Schema::table('meshes', fn (Blueprint $table) => $table->dropColumn('carries'));
    }
};
