<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Exception\BadCommand;
use Isotome\Format\Units;
use Isotome\Mesh\Mesh;
use Isotome\Operation\PlateFiles;
use Isotome\Plan\Wishes;
use Isotome\Plate\Plates;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('plates', 'Lays pieces down and packs them on as few plates as are found')]
final class PlatesCommand extends MeshCommand
{
    private const MOST_PIECES = 1000;

    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED | InputArgument::IS_ARRAY, 'Pieces: stl, obj, ply, off, 3mf or glb')
            ->addOption('bed', null, InputOption::VALUE_REQUIRED, 'X,Y,Z of the printer\'s space, mm')
            ->addOption('round', null, InputOption::VALUE_NONE, 'The bed is round: X and Y are its diameter')
            ->addOption('margin', null, InputOption::VALUE_REQUIRED, 'Left free at every side of the bed, mm', '0')
            ->addOption('spacing', null, InputOption::VALUE_REQUIRED, 'Between any two pieces, as seen from above, mm', '2')
            ->addOption('copies', null, InputOption::VALUE_REQUIRED, 'Of every piece', '1')
            ->addOption('no-turn', null, InputOption::VALUE_NONE, 'Pieces are not turned about the upright')
            ->addOption('turn-step', null, InputOption::VALUE_REQUIRED, 'Pieces are turned about the upright by multiples of so many degrees only', '0')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the plates; it is made when missing')
            ->addOption('as', null, InputOption::VALUE_REQUIRED, 'Format of the plates: 3mf (an object a piece) or stl', '3mf')
            ->addOption('json', null, InputOption::VALUE_NONE, 'plates.json on standard output as well');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $out = $this->option($input, 'out') ?? '';
        if (trim($out) === '') {
            throw new BadCommand('--out is missing; name the folder for the plates.');
        }
        $as = $this->option($input, 'as') ?? '';
        if (! in_array($as, ['3mf', 'stl'], true)) {
            throw new BadCommand("--as is \"$as\"; choose 3mf or stl.");
        }
        if (file_exists($out) && ! is_dir($out)) {
            throw new BadCommand("--out names $out, which is a file; name a folder.");
        }
        $margin = $this->length($input, 'margin', 0.0);
        $space = Wishes::of($this->bed($input), $margin)->space;
        $spacing = $this->length($input, 'spacing', 2.0);
        if ($spacing < 0.0 || $spacing > max($space->x, $space->y)) {
            throw new BadCommand("--spacing is \"$spacing\"; give 0 mm or more, and less than the bed.");
        }
        $step = $this->length($input, 'turn-step', 0.0);
        if ($step !== 0.0 && ($step < 1.0 || $step > 180.0)) {
            throw new BadCommand("--turn-step is \"$step\"; give 1 to 180 degrees, or leave it out.");
        }
        $pieces = $this->pieces($input, $as, $output);
        $plates = Plates::of($pieces, $space, $spacing, $input->getOption('no-turn') !== true, $step);
        $document = WholeFolder::write($out, static fn (string $folder): array => PlateFiles::write($folder, PlateFiles::packed($plates, array_map(strval(...), array_keys($pieces)), $margin), $pieces, [], $as, $space, $margin, $spacing));
        $leaky = 0;
        foreach ($document['plates'] as $plate) {
            $leaky += count(array_filter($plate['pieces'], static fn (array $piece): bool => ! $piece['watertight']));
            if ($input->getOption('json') !== true) {
                $output->writeln(sprintf('%s  %d %s', $plate['file'], count($plate['pieces']), count($plate['pieces']) === 1 ? 'piece' : 'pieces'), OutputInterface::OUTPUT_RAW);
            }
        }
        if ($input->getOption('json') === true) {
            $this->json($output, $document);
        }

        return $leaky === 0 ? 0 : 1;
    }

    /** @return non-empty-array<string, Mesh> by name, copies too */
    private function pieces(InputInterface $input, string $as, OutputInterface $output): array
    {
        $given = $this->option($input, 'copies') ?? '';
        $copies = preg_match('/^\d{1,9}$/', $given) === 1 ? (int) $given : 0;
        if ($copies < 1) {
            throw new BadCommand("--copies is \"$given\"; give a whole number from 1.");
        }
        $read = [];
        foreach ($this->paths($input) as $path) {
            $mesh = $this->read($path, Units::Millimetres);
            $this->sayLeftOut($mesh, $as, $output);
            foreach ($mesh->parts === [] ? [pathinfo($path, PATHINFO_FILENAME) => $mesh->mesh] : $mesh->parts as $name => $part) {
                for ($n = 2, $free = (string) $name; isset($read[$free]); $n++) {
                    $free = "$name-$n";
                }
                $read[$free] = $part;
            }
        }
        if ($copies * count($read) > self::MOST_PIECES) {
            throw new BadCommand(number_format($copies * count($read)).' pieces are too many for one go; pack at most '.number_format(self::MOST_PIECES).'.');
        }
        foreach ($read as $name => $mesh) {
            $this->demandClosed($name, $mesh);
        }
        $pieces = [];
        for ($n = 1; $n <= $copies; $n++) {
            foreach ($read as $name => $mesh) {
                $pieces[$copies === 1 ? $name : "$name copy $n"] = $mesh;
            }
        }

        return $pieces;
    }
}
