<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Measure\Profile;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('profile', 'Area and number of outlines of many parallel sections')]
final class ProfileCommand extends MeshCommand
{
    private const MOST = 100_000;

    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED, 'A mesh: stl, obj, ply, off, 3mf or glb')
            ->addOption('facing', null, InputOption::VALUE_REQUIRED, 'X,Y,Z of the direction')
            ->addOption('samples', null, InputOption::VALUE_REQUIRED, 'Number of sections', '100')
            ->addOption('json', null, InputOption::VALUE_NONE, 'One JSON document on standard output');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $facing = $this->vector($input, 'facing');
        $samples = $this->whole($input, 'samples', 1, self::MOST);
        $profile = Profile::sampled($this->mesh($input)->mesh, $facing, $samples);
        if ($input->getOption('json') === true) {
            $this->json($output, ['facing' => $facing, 'positions_mm' => $profile->positions, 'areas_mm2' => $profile->areas, 'outlines' => $profile->outlines]);
        } else {
            foreach ($profile->positions as $n => $position) {
                $output->writeln(sprintf('%.3f mm  %.3f mm²  %d outlines', $position, $profile->areas[$n], $profile->outlines[$n]), OutputInterface::OUTPUT_RAW);
            }
        }

        return 0;
    }
}
