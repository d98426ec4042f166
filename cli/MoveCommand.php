<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Exception\BadCommand;
use Isotome\Exception\BadRecipe;
use Isotome\Mesh\Volume;
use Isotome\Motion\Actor;
use Isotome\Motion\Movement;
use Isotome\Operation\MovementFiles;
use Isotome\Operation\Palette;
use Isotome\Operation\Piece;
use JsonException;
use RuntimeException;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('move', 'Runs a recipe and writes its pieces with a movement as an animated GLB')]
final class MoveCommand extends RecipeCommand
{
    private const LARGEST_BYTES = 4_000_000;

    protected function configure(): void
    {
        $this->addArgument('recipe', InputArgument::REQUIRED, 'A recipe, JSON')
            ->addArgument('input', InputArgument::REQUIRED | InputArgument::IS_ARRAY, 'A mesh, or several: stl, obj, ply, off, 3mf or glb')
            ->addOption('movement', null, InputOption::VALUE_REQUIRED, 'The movement, JSON')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'The file, .glb')
            ->addOption('frames', null, InputOption::VALUE_REQUIRED, 'Frames, in place of those of the movement')
            ->addOption('fps', null, InputOption::VALUE_REQUIRED, 'Frames a second, in place of those of the movement')
            ->addOption('poses', null, InputOption::VALUE_REQUIRED, 'A file for the poses of every piece at every frame, JSON')
            ->addOption('json', null, InputOption::VALUE_NONE, 'One JSON document on standard output');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $out = $this->option($input, 'out') ?? '';
        if (strtolower(pathinfo($out, PATHINFO_EXTENSION)) !== 'glb' || is_dir($out)) {
            throw new BadCommand('--out is '.($out === '' ? 'missing' : "\"$out\"").'; name a file that ends in .glb.');
        }
        $movement = $this->movement($input);
        $recipe = $this->recipe($this->text($input, 'recipe'));
        [$runner, , $triangles] = $this->stock($this->paths($input), $recipe->units, 'glb', $output);
        foreach ($recipe->steps as $step) {
            $runner->run($step);
        }
        $pieces = $runner->pieces();
        $poses = $movement->poses(array_values(array_map(static fn (Piece $piece): Actor => new Actor($piece->name, Volume::measure($piece->mesh)->centroid, $piece->mesh), $pieces)));
        $files = array_map(static fn (Piece $piece, int $n): array => ['name' => $piece->name, 'mesh' => $piece->mesh, 'colour' => Palette::colour($n)], array_values($pieces), array_keys(array_values($pieces)));
        $told = [];
        self::written($out, static function (string $path) use ($files, $poses, &$told): void {
            $told = MovementFiles::animated($files, $poses, $path);
        });
        $table = $this->option($input, 'poses');
        if ($table !== null) {
            self::written($table, static fn (string $path) => MovementFiles::json($poses, $path));
        }
        if ($input->getOption('json') === true) {
            $this->json($output, ['file' => basename($out), 'triangles' => $triangles, 'fps' => $movement->fps, 'frames' => $movement->frames, 'pieces' => $told]);
        } else {
            $output->writeln(sprintf('%s  %d %s, %d frames at %d a second', basename($out), count($pieces), count($pieces) === 1 ? 'piece' : 'pieces', $movement->frames, $movement->fps), OutputInterface::OUTPUT_RAW);
        }

        return 0;
    }

    private function movement(InputInterface $input): Movement
    {
        $path = $this->option($input, 'movement') ?? throw new BadCommand('--movement is missing; name the file with the movement.');
        $json = is_file($path) ? @file_get_contents($path, false, null, 0, self::LARGEST_BYTES + 1) : false;
        if ($json === false || strlen($json) > self::LARGEST_BYTES) {
            throw new BadCommand('The movement '.basename($path).($json === false ? ' cannot be opened; check its name and that it may be read.' : ' is longer than 4 MB; give fewer layers.'));
        }
        try {
            $given = json_decode($json, true, 32, JSON_THROW_ON_ERROR);
        } catch (JsonException) {
            throw new BadRecipe('The movement is no JSON; check it for a missing comma or bracket.');
        }
        if (! is_array($given)) {
            throw new BadRecipe('The movement is no object; write {"isotome_movement": 1, "layers": […]}.');
        }

        return Movement::fromArray($given, $this->count($input, 'frames'), $this->count($input, 'fps'));
    }

    private function count(InputInterface $input, string $option): ?int
    {
        $given = $this->option($input, $option);
        if ($given !== null && preg_match('/^\d{1,6}$/', $given) !== 1) {
            throw new BadCommand("--$option is \"$given\"; give a whole number.");
        }

        return $given === null ? null : (int) $given;
    }

    /** What fails leaves no half of a file. */
    private static function written(string $path, \Closure $write): void
    {
        $partial = dirname($path).'/.'.getmypid().'-'.basename($path);
        try {
            $write($partial);
            if (! @rename($partial, $path)) {
                throw new RuntimeException('The file '.basename($path).' cannot be written; check its folder.');
            }
        } finally {
            @unlink($partial);
        }
    }
}
