<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Check\Report;
use Isotome\Exception\BadCommand;
use Isotome\Format\MeshFile;
use Isotome\Mend\Mend;
use Isotome\Mesh\EdgeCheck;
use RuntimeException;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('mend', 'Makes a mesh solid when it can, and says what it did')]
final class MendCommand extends MeshCommand
{
    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED, 'A mesh: stl, obj, ply, off, 3mf or glb')
            ->addArgument('output', InputArgument::REQUIRED, 'The file to write')
            ->addOption('json', null, InputOption::VALUE_NONE, 'One JSON document on standard output');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $from = $this->text($input, 'input');
        $path = $this->text($input, 'output');
        $format = MeshFile::known(MeshFile::ending($path), basename($path));
        if ($format === MeshFile::ending($from) && realpath($from) !== false && realpath($from) === realpath($path)) {
            throw new BadCommand('The output is the input itself; name another file, so that the original stays.');
        }
        $read = $this->mesh($input);
        $mend = Mend::of($read->mesh);
        if (! $mend->changed && $format === MeshFile::ending($from)) {
            // Nothing to mend: the file itself, byte for byte.
            if (! @copy($from, $path)) {
                throw new RuntimeException("The file $path cannot be written; check that its folder exists and has room.");
            }
            $written = $read->mesh;
        } else {
            $written = MeshFile::write($mend->mesh, $path, pathinfo($path, PATHINFO_FILENAME));
        }
        $watertight = EdgeCheck::of($written)->isWatertight();
        $before = ['open_edges' => $mend->before->openEdges, 'nonmanifold_edges' => $mend->before->nonmanifoldEdges, 'flipped_edges' => $mend->before->flippedEdges];
        $after = ['open_edges' => $mend->after->openEdges, 'nonmanifold_edges' => $mend->after->nonmanifoldEdges, 'flipped_edges' => $mend->after->flippedEdges];
        if ($input->getOption('json') === true) {
            $before['solid'] = Report::of($read->mesh, $read->collapsed)->isSound();
            $after['solid'] = Report::of($written)->isSound();
            $this->json($output, [
                'file' => basename($from), 'output' => basename($path), 'changed' => $mend->changed, 'did' => $mend->did, 'before' => $before, 'after' => $after,
                'triangles' => $written->triangleCount(), 'vertices' => $written->vertexCount(), 'watertight' => $watertight, 'left' => $mend->left(),
            ]);
        } else {
            $did = array_filter($mend->did);
            $output->writeln($did === [] ? 'nothing mended' : implode(', ', array_map(static fn (string $what, int $n): string => str_replace('_', ' ', $what).' '.$n, array_keys($did), $did)), OutputInterface::OUTPUT_RAW);
            $output->writeln([basename($path).': '.$written->triangleCount().' triangles, '.($watertight ? 'watertight' : 'not watertight'), ...$mend->left()], OutputInterface::OUTPUT_RAW);
        }

        return $watertight ? 0 : 1;
    }
}
