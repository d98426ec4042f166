<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Check\Report;
use Isotome\Exception\BadCommand;
use Isotome\Format\Units;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('check', 'Measures a mesh and counts its faults')]
final class CheckCommand extends MeshCommand
{
    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED, 'An STL file')
            ->addOption('units', null, InputOption::VALUE_REQUIRED, 'Unit of the file: mm, cm, m or in', 'mm')
            ->addOption('json', null, InputOption::VALUE_NONE, 'One JSON document on standard output');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $given = $this->option($input, 'units') ?? '';
        $units = Units::tryFrom($given) ?? throw new BadCommand("--units is \"$given\"; choose mm, cm, m or in.");
        $read = $this->mesh($input, $units);
        $report = Report::of($read->mesh, $read->collapsed);
        $file = basename($this->text($input, 'input'));
        $document = ['file' => $file, 'units' => $units->value, ...$report->toArray()];
        if ($input->getOption('json') === true) {
            $this->json($output, $document);
        } else {
            $output->writeln($report->sentences($file), OutputInterface::OUTPUT_RAW);
        }

        return $report->isSound() ? 0 : 1;
    }
}
