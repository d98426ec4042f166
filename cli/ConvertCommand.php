<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Format\MeshFile;
use Isotome\Operation\Palette;
use RuntimeException;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('convert', 'Reads a mesh and writes it in the format of the output\'s name')]
final class ConvertCommand extends MeshCommand
{
    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED, 'A mesh: stl, obj, ply, off, 3mf or glb')
            ->addArgument('output', InputArgument::REQUIRED, 'The file to write: stl, obj, ply, off, 3mf or glb')
            ->addOption('units', null, InputOption::VALUE_REQUIRED, 'Unit of a file that carries none: mm, cm, m or in', 'mm');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $path = $this->text($input, 'output');
        $format = MeshFile::known(MeshFile::ending($path), basename($path));
        $read = $this->mesh($input, $this->units($input));
        $this->sayLeftOut($read, $format, $output);
        if ($read->parts !== [] && in_array($format, ['obj', '3mf', 'glb'], true)) {
            $pieces = [];
            foreach ($read->parts as $name => $mesh) {
                $pieces[$name] = ['mesh' => $mesh, 'colour' => Palette::colour(count($pieces))];
            }
            foreach (MeshFile::writeAll($pieces, $path) as $name => $written) {
                $output->writeln(sprintf('%s: %s, %d triangles, %d vertices', basename($path), $name, $written->triangleCount(), $written->vertexCount()), OutputInterface::OUTPUT_RAW);
            }

            return 0;
        }
        $written = MeshFile::write($read->mesh, $path, pathinfo($path, PATHINFO_FILENAME), Palette::colour(0));
        if ($written->isEmpty()) {
            throw new RuntimeException('The mesh '.basename($this->text($input, 'input')).' is thinner than the numbers of the file can say; nothing was written.');
        }
        $output->writeln(sprintf('%s: %d triangles, %d vertices', basename($path), $written->triangleCount(), $written->vertexCount()), OutputInterface::OUTPUT_RAW);

        return 0;
    }
}
