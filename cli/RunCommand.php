<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Exception\BadCommand;
use Isotome\Format\InsideLook;
use Isotome\Format\MeshFile;
use Isotome\Format\Stuff;
use Isotome\Operation\Manifest;
use Isotome\Operation\Names;
use Isotome\Operation\Runner;
use Isotome\Operation\StepRecord;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Helper\ProgressBar;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('run', 'Runs a recipe on one mesh or several and writes the pieces and manifest.json')]
final class RunCommand extends RecipeCommand
{
    protected function configure(): void
    {
        $this->addArgument('recipe', InputArgument::REQUIRED, 'A recipe, JSON')
            ->addArgument('input', InputArgument::REQUIRED | InputArgument::IS_ARRAY, 'A mesh, or several: stl, obj, ply, off, 3mf or glb')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the pieces; it is made when missing')
            ->addOption('as', null, InputOption::VALUE_REQUIRED, 'Format of the pieces: stl, obj, ply, off, 3mf or glb', 'stl')
            ->addOption('together', null, InputOption::VALUE_NONE, 'One file with an object for every piece: obj, 3mf or glb')
            ->addOption('density', null, InputOption::VALUE_REQUIRED, 'g/cm³: mass and moments of every piece in the manifest')
            ->addOption('inside', null, InputOption::VALUE_REQUIRED, 'Look of inside faces in glb and obj: '.implode(', ', array_keys(Stuff::WIDTHS)).', a colour such as #c9b79c, or a picture (png, jpg, webp)')
            ->addOption('inside-mm', null, InputOption::VALUE_REQUIRED, 'Millimetres that its picture takes across')
            ->addOption('inside-turn', null, InputOption::VALUE_REQUIRED, 'Degrees by which its picture is turned')
            ->addOption('json', null, InputOption::VALUE_NONE, 'The manifest on standard output as well');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $out = $this->option($input, 'out') ?? '';
        if (trim($out) === '') {
            throw new BadCommand('--out is missing; name the folder for the pieces.');
        }
        $as = $this->option($input, 'as') ?? '';
        if (! in_array($as, MeshFile::FORMATS, true)) {
            throw new BadCommand("--as is \"$as\"; choose one of ".implode(', ', MeshFile::FORMATS).'.');
        }
        $isTogether = $input->getOption('together') === true;
        if ($isTogether && ! in_array($as, ['obj', '3mf', 'glb'], true)) {
            throw new BadCommand("--together goes with --as obj, 3mf or glb; a file of $as holds one piece.");
        }
        $density = $this->option($input, 'density');
        if ($density !== null && (! is_numeric($density) || (float) $density <= 0.0 || (float) $density > 100.0)) {
            throw new BadCommand("--density is $density; give grams per cubic centimetre, such as 1.8.");
        }
        $inside = $this->inside($input);
        $recipe = $this->recipe($this->text($input, 'recipe'));
        if (file_exists($out) && ! is_dir($out)) {
            throw new BadCommand("--out names $out, which is a file; name a folder.");
        }
        [$runner, $file, $triangles] = $this->stock($this->paths($input), $recipe->units, $as, $output);
        $terminal = $output instanceof ConsoleOutputInterface && stream_isatty(STDERR) ? new ProgressBar($output->getErrorOutput(), 100 * count($recipe->steps)) : null;
        foreach ($recipe->steps as $n => $step) {
            $runner->run($step, $terminal === null ? null : static function (float $share) use ($terminal, $n): void {
                $terminal->setProgress(100 * $n + (int) (100 * $share));
            });
        }
        $terminal?->finish();
        $document = $this->write($out, $recipe->toArray(), $file, $triangles, $runner, $as, $isTogether, $density === null ? null : (float) $density, $inside);

        return $this->say($input, $output, $document, $runner->records());
    }

    private function inside(InputInterface $input): ?InsideLook
    {
        $look = $this->option($input, 'inside');
        $numbers = [];
        foreach (['inside-mm', 'inside-turn'] as $option) {
            $given = $this->option($input, $option);
            if ($given !== null && (! is_numeric($given) || ! is_finite((float) $given))) {
                throw new BadCommand("--$option is $given; give a number.");
            }
            if ($given !== null && ($look === null || str_starts_with($look, '#'))) {
                throw new BadCommand("--$option goes with --inside and a picture.");
            }
            $numbers[] = $given === null ? null : (float) $given;
        }
        [$width, $turn] = $numbers;
        if ($look === null || isset(Stuff::WIDTHS[$look])) {
            return $look === null ? null : Stuff::look($look, $width, $turn ?? 0.0);
        }
        if (str_starts_with($look, '#')) {
            return InsideLook::colour($look);
        }
        $bytes = is_file($look) ? @file_get_contents($look, false, null, 0, InsideLook::LARGEST_PICTURE + 1) : false;
        if ($bytes === false) {
            throw new BadCommand('--inside names '.mb_strimwidth(basename($look), 0, 60, '…').', which is no picture that can be opened; choose one of '.implode(', ', array_keys(Stuff::WIDTHS)).', a colour such as #c9b79c, or a file.');
        }

        return InsideLook::picture($bytes, pathinfo($look, PATHINFO_FILENAME), $width ?? 50.0, $turn ?? 0.0);
    }

    /**
     * @param  array<string, mixed>  $recipe
     * @return array<string, mixed>
     */
    private function write(string $out, array $recipe, string $file, int $triangles, Runner $runner, string $as, bool $isTogether, ?float $density, ?InsideLook $inside): array
    {
        return WholeFolder::write($out, static function (string $folder) use ($recipe, $file, $triangles, $runner, $as, $isTogether, $density, $inside): array {
            $steps = array_map(static fn (StepRecord $record): array => $record->toArray(), $runner->records());
            $from = ['file' => $file, 'triangles' => $triangles];

            return $isTogether
                ? Manifest::writeTogether($folder, $recipe, $from, $runner->pieces(), $steps, Names::file(pathinfo($file, PATHINFO_FILENAME)).".$as", $density, $inside)
                : Manifest::write($folder, $recipe, $from, $runner->pieces(), $steps, $as, $density, $inside);
        });
    }

    /**
     * @param  array<string, mixed>  $document
     * @param  list<StepRecord>  $records
     */
    private function say(InputInterface $input, OutputInterface $output, array $document, array $records): int
    {
        /** @var list<array{name: string, file: string, triangles: int, volume_mm3: float, watertight: bool}> $pieces */
        $pieces = $document['pieces'];
        $leaky = count(array_filter($pieces, static fn (array $piece): bool => ! $piece['watertight']));
        if ($input->getOption('json') === true) {
            $this->json($output, $document);
        } else {
            foreach ($pieces as $piece) {
                $output->writeln(sprintf('%s  %d triangles, %.3f mm³, %s', $piece['file'], $piece['triangles'], $piece['volume_mm3'], $piece['watertight'] ? 'watertight' : 'not watertight'), OutputInterface::OUTPUT_RAW);
            }
            foreach ($records as $n => $record) {
                foreach ($record->report->unclosed as $path) {
                    $output->writeln(sprintf('step %d: an outline of %s could not be closed, %.3f mm long, from (%.3f, %.3f, %.3f) to (%.3f, %.3f, %.3f)', $n + 1, $path['piece'], $path['length_mm'], ...[...$path['from'], ...$path['to']]), OutputInterface::OUTPUT_RAW);
                }
            }
            $output->writeln(sprintf('%d pieces, %s', count($pieces), $leaky === 0 ? 'all watertight' : "$leaky not watertight"), OutputInterface::OUTPUT_RAW);
        }

        return $leaky === 0 ? 0 : 1;
    }
}
