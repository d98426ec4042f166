<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Drawn\SvgOutlines;
use Isotome\Exception\BadCommand;
use Isotome\Format\Units;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use Symfony\Component\Console\Output\OutputInterface;

/** A command that runs a recipe on meshes. */
abstract class RecipeCommand extends MeshCommand
{
    /**
     * Every file is stock under its own name; a file of several parts gives one for each.
     *
     * @param  non-empty-list<string>  $paths
     * @return array{Runner, string, int} with the name of the first file, and the triangles of all
     */
    final protected function stock(array $paths, Units $units, string $as, OutputInterface $output): array
    {
        $stock = [];
        $triangles = 0;
        foreach ($paths as $path) {
            $read = $this->read($path, $units);
            $this->sayLeftOut($read, $as, $output);
            $triangles += $read->mesh->triangleCount();
            foreach ($read->parts === [] ? [pathinfo($path, PATHINFO_FILENAME) => $read->mesh] : $read->parts as $name => $mesh) {
                if (isset($stock[$name])) {
                    throw new BadCommand("Two inputs are called $name; rename one of the files, so that the recipe can tell them apart.");
                }
                $stock[$name] = $mesh;
            }
        }

        // The runner lets go of them when they are cut: then they are gone before the pieces are written.
        return [Runner::on((string) array_key_first($stock), reset($stock) ?: throw new BadCommand('There is no mesh; name a file.'), $stock), basename($paths[0]), $triangles];
    }

    final protected function recipe(string $path): Recipe
    {
        $json = is_file($path) ? file_get_contents($path, false, null, 0, Recipe::LARGEST_BYTES + 1) : false;
        if ($json === false) {
            throw new BadCommand('The recipe '.basename($path).' cannot be opened; check its name and that it may be read.');
        }

        return Recipe::fromJson($json, static function (string $name) use ($path): ?string {
            $file = dirname($path)."/$name";
            $bytes = is_file($file) ? @file_get_contents($file, false, null, 0, SvgOutlines::MOST_BYTES + 1) : false;

            return $bytes === false ? null : $bytes;
        });
    }
}
