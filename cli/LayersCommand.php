<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Exception\BadCommand;
use Isotome\Plate\Islands;
use Isotome\Plate\Layers;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('layers', 'Area, outlines and islands of every layer of a closed body, as it stands')]
final class LayersCommand extends MeshCommand
{
    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED, 'A mesh: stl, obj, ply, off, 3mf or glb')
            ->addOption('layer', null, InputOption::VALUE_REQUIRED, 'Height of a layer, mm')
            ->addOption('json', null, InputOption::VALUE_NONE, 'One JSON document on standard output');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $given = $this->option($input, 'layer');
        if ($given === null || ! is_numeric($given) || (float) $given <= 0.0 || is_infinite((float) $given)) {
            throw new BadCommand('--layer is '.($given === null ? 'missing' : "\"$given\"").'; give the height of a layer in mm, such as --layer 0.2.');
        }
        $layers = Layers::of($this->mesh($input)->mesh, (float) $given);
        $rows = [];
        $below = null;
        $volume = 0.0;
        $hanging = 0;
        foreach ($layers->each() as $layer) {
            // The lowest layer lies on the bed.
            $islands = $below === null ? [] : Islands::of($layer, $below);
            $rows[] = [
                'at_mm' => $layer->height, 'area_mm2' => $layer->area(), 'outlines' => count($layer->outlines),
                'islands' => array_map(static fn (array $island): array => ['at_mm' => [$island[0], $island[1]], 'area_mm2' => $island[2]], $islands),
            ];
            $volume += $layer->area() * $layers->height;
            $hanging += count($islands);
            $below = $layer;
        }
        if ($input->getOption('json') === true) {
            $this->json($output, ['layer_mm' => $layers->height, 'bottom_mm' => $layers->bottom, 'volume_mm3' => $volume, 'islands' => $hanging, 'layers' => $rows]);
        } else {
            foreach ($rows as $row) {
                $output->writeln(sprintf('%.3f mm  %.3f mm²  %d %s%s', $row['at_mm'], $row['area_mm2'], $row['outlines'], $row['outlines'] === 1 ? 'outline' : 'outlines', $row['islands'] === [] ? '' : sprintf('  %d in the air', count($row['islands']))), OutputInterface::OUTPUT_RAW);
            }
        }

        return 0;
    }
}
