<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Exception\BadCommand;
use Isotome\Format\MeshFile;
use Isotome\Format\Units;
use Isotome\Mesh\Carry;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mark;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Together;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use Isotome\Solid\FileProof;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('unite', 'Makes one solid of meshes that overlap, or of one that crosses itself')]
final class UniteCommand extends MeshCommand
{
    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED | InputArgument::IS_ARRAY, 'Meshes, and last the file to write: stl, obj, ply, off, 3mf or glb')
            ->addOption('units', null, InputOption::VALUE_REQUIRED, 'Unit of files that name none: mm, cm, m or in', 'mm')
            ->addOption('json', null, InputOption::VALUE_NONE, 'One JSON document on standard output');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $paths = $this->paths($input);
        $path = array_pop($paths);
        if ($paths === []) {
            throw new BadCommand('The output is missing; name one mesh or several, and last the file to write.');
        }
        $format = MeshFile::known(MeshFile::ending($path), basename($path));
        foreach ($paths as $from) {
            if (realpath($from) !== false && realpath($from) === realpath($path)) {
                throw new BadCommand('The output is one of the inputs; name another file, so that the original stays.');
            }
        }
        $meshes = $this->closed($paths, $this->units($input), $format, $output);
        $marked = [];
        $base = 0;
        foreach ($meshes as $mesh) {
            $marked[] = Mark::of($mesh, $base);
            $base += $mesh->triangleCount();
        }
        $solids = array_map(static fn (Mesh $solid): Mesh => FileProof::of($solid), array_column(Combined::unite($marked), 0));
        $fine = array_sum(array_map(FileProof::crossing(...), $solids));
        $bodies = Carry::overAll($meshes, $solids);
        if ($bodies === []) {
            throw new BadCommand('The meshes enclose nothing: they are turned inside out; mend them first.');
        }
        $written = MeshFile::write(Together::dressed($bodies), $path, pathinfo($path, PATHINFO_FILENAME));
        $edges = EdgeCheck::of($written);
        $document = [
            'files' => array_map(basename(...), $paths), 'output' => basename($path), 'meshes' => count($meshes), 'bodies' => count($bodies), 'triangles' => $written->triangleCount(),
            'vertices' => $written->vertexCount(), 'volume_mm3' => Volume::measure($written)->volume, 'watertight' => $edges->isWatertight(),
        ];
        if ($input->getOption('json') === true) {
            $this->json($output, $document);
        } else {
            $output->writeln(sprintf('%s: %s, %d %s, %d triangles, %.3f mm³, %s', $document['output'], $document['meshes'] === 1 ? '1 mesh' : "{$document['meshes']} meshes", $document['bodies'], $document['bodies'] === 1 ? 'body' : 'bodies',
                $document['triangles'], $document['volume_mm3'], $document['watertight'] ? 'watertight' : 'not watertight'), OutputInterface::OUTPUT_RAW);
            if ($fine > 0) {
                $output->writeln(FileProof::sentence($fine), OutputInterface::OUTPUT_RAW);
            }
        }

        return $edges->isWatertight() ? 0 : 1;
    }

    /**
     * @param  non-empty-list<string>  $paths
     * @return non-empty-list<Mesh> every part for itself
     */
    private function closed(array $paths, Units $units, string $as, OutputInterface $output): array
    {
        $meshes = [];
        foreach ($paths as $path) {
            $read = $this->read($path, $units);
            $this->sayLeftOut($read, $as, $output);
            foreach ($read->parts === [] ? [basename($path) => $read->mesh] : $read->parts as $name => $mesh) {
                $this->demandClosed((string) $name, $mesh);
                $meshes[] = $mesh;
            }
        }

        return $meshes;
    }
}
