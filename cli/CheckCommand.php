<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Check\Report;
use Isotome\Exception\BadCommand;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('check', 'Measures a mesh and finds its faults')]
final class CheckCommand extends MeshCommand
{
    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED, 'A mesh: stl, obj, ply, off, 3mf or glb')
            ->addOption('units', null, InputOption::VALUE_REQUIRED, 'Unit of a file that carries none: mm, cm, m or in', 'mm')
            ->addOption('fast', null, InputOption::VALUE_NONE, 'Do not look for faces that cross others or lie inside')
            ->addOption('near', null, InputOption::VALUE_REQUIRED, 'Count vertices within so many mm of each other that are not joined')
            ->addOption('places', null, InputOption::VALUE_NONE, 'With --json: also cavities, handles, rims, and where the faults are')
            ->addOption('json', null, InputOption::VALUE_NONE, 'One JSON document on standard output');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $units = $this->units($input);
        $near = $this->option($input, 'near');
        if ($near !== null && (! is_numeric($near) || (float) $near <= 0)) {
            throw new BadCommand("--near is \"$near\"; give a distance in mm, more than 0.");
        }
        $read = $this->mesh($input, $units);
        $file = basename($this->text($input, 'input'));
        $report = Report::of($read->mesh, $read->collapsed, $input->getOption('fast') !== true, $near === null ? null : (float) $near);
        if ($input->getOption('json') === true) {
            $document = ['file' => $file, 'units' => $units->value, ...$report->toArray()];
            // Without crossing and inner faces nobody can say.
            $input->getOption('fast') === true ?: $document['solid'] = $report->isSound();
            $this->json($output, $input->getOption('places') === true ? [...$document, 'notes' => $report->notes(), 'places' => $report->places()] : $document);
        } else {
            $output->writeln($report->sentences($file), OutputInterface::OUTPUT_RAW);
        }

        return $report->isSound() ? 0 : 1;
    }
}
