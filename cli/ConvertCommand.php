<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Format\StlWriter;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('convert', 'Reads a mesh and writes it again (ASCII or binary STL to binary STL)')]
final class ConvertCommand extends MeshCommand
{
    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED, 'An STL file')
            ->addArgument('output', InputArgument::REQUIRED, 'The STL file to write');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $path = $this->text($input, 'output');
        $this->requireStl($path);
        $written = StlWriter::write($this->mesh($input)->mesh, $path);
        $output->writeln(sprintf('%s: %d triangles, %d vertices', basename($path), $written->triangleCount(), $written->vertexCount()), OutputInterface::OUTPUT_RAW);

        return 0;
    }
}
