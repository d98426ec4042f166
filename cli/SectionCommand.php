<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Cut\Section;
use Isotome\Cut\SectionDrawing;
use Isotome\Exception\BadBlade;
use Isotome\Format\Files;
use Isotome\Geometry\Plane;
use Isotome\Measure\NarrowestWidth;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('section', 'Measures the section of a mesh with a flat blade')]
final class SectionCommand extends MeshCommand
{
    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED, 'A mesh: stl, obj, ply, off, 3mf or glb')
            ->addOption('through', null, InputOption::VALUE_REQUIRED, 'X,Y,Z of a point of the blade, mm')
            ->addOption('facing', null, InputOption::VALUE_REQUIRED, 'X,Y,Z of the blade\'s direction')
            ->addOption('svg', null, InputOption::VALUE_REQUIRED, 'Write the section as SVG, true to scale')
            ->addOption('dxf', null, InputOption::VALUE_REQUIRED, 'Write the section as DXF, true to scale')
            ->addOption('json', null, InputOption::VALUE_NONE, 'One JSON document on standard output');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $plane = Plane::through($this->vector($input, 'through'), $this->vector($input, 'facing'));
        $section = Section::of($this->mesh($input)->mesh, $plane);
        if ($section->isEmpty()) {
            throw new BadBlade('The blade misses '.basename($this->text($input, 'input')).'; move it to where the mesh is (isotome check says where).');
        }
        foreach (['svg', 'dxf'] as $format) {
            $path = $this->option($input, $format);
            if ($path !== null) {
                Files::write($path, [$format === 'svg' ? SectionDrawing::svg($section) : SectionDrawing::dxf($section)]);
            }
        }
        $narrowest = NarrowestWidth::of($section->outlines);
        if ($input->getOption('json') === true) {
            $this->json($output, [
                'area_mm2' => $section->area, 'perimeter_mm' => $section->perimeter,
                'outlines' => count($section->outlines), 'narrowest_mm' => $narrowest,
            ]);
        } else {
            $output->writeln(sprintf('area %.6f mm², perimeter %.6f mm, %d outlines%s', $section->area, $section->perimeter, count($section->outlines), $narrowest === null ? '' : sprintf(', narrowest width %.6f mm', $narrowest)), OutputInterface::OUTPUT_RAW);
            if ($section->lines !== []) {
                $output->writeln(count($section->lines).' lines of the section stay open: the mesh has open edges there', OutputInterface::OUTPUT_RAW);
            }
        }

        return $section->lines === [] ? 0 : 1;
    }
}
