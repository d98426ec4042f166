<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Exception\BadCommand;
use Isotome\Format\Companions;
use Isotome\Format\MeshFile;
use Isotome\Format\ReadMesh;
use Isotome\Format\Units;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** What the commands share: reading arguments and a mesh, and writing JSON. */
abstract class MeshCommand extends Command
{
    protected function text(InputInterface $input, string $argument): string
    {
        $value = $input->getArgument($argument);

        return is_string($value) ? $value : '';
    }

    protected function option(InputInterface $input, string $name): ?string
    {
        $value = $input->getOption($name);

        return is_string($value) ? $value : null;
    }

    protected function mesh(InputInterface $input, Units $units = Units::Millimetres): ReadMesh
    {
        return $this->read($this->text($input, 'input'), $units);
    }

    protected function read(string $path, Units $units): ReadMesh
    {
        return MeshFile::read($path, $units, null, Companions::beside($path));
    }

    /** @return non-empty-list<string> the files that are named as input */
    protected function paths(InputInterface $input): array
    {
        $given = $input->getArgument('input');
        $paths = array_values(array_filter(is_array($given) ? $given : [$given], is_string(...)));

        return $paths === [] ? throw new BadCommand('There is no mesh; name a file.') : $paths;
    }

    /** @throws BadCommand when a mesh is not watertight */
    protected function demandClosed(string $name, Mesh $mesh): void
    {
        $edges = EdgeCheck::of($mesh);
        if (! $edges->isWatertight()) {
            $count = max($edges->openEdges, $edges->nonmanifoldEdges, $edges->flippedEdges);
            throw new BadCommand(mb_strimwidth($name, 0, 60, '…')." is not watertight ($count edges); mend it first.");
        }
    }

    /** What a file holds besides and is not read, or what the other format does not keep, is said, but not among the results. */
    protected function sayLeftOut(ReadMesh $read, string $as, OutputInterface $output): void
    {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        foreach ($read->leftOut as $what) {
            $errors->writeln("left out: $what", OutputInterface::OUTPUT_RAW);
        }
        foreach (MeshFile::losesOf($read->mesh, $as) as $what) {
            $errors->writeln("left out: $what, which $as files do not keep", OutputInterface::OUTPUT_RAW);
        }
    }

    protected function units(InputInterface $input): Units
    {
        $given = $this->option($input, 'units') ?? 'mm';

        return Units::tryFrom($given) ?? throw new BadCommand("--units is \"$given\"; choose mm, cm, m or in.");
    }

    /** A length in mm that an option gives; the default where it is left out. */
    protected function length(InputInterface $input, string $name, float $default): float
    {
        $given = $this->option($input, $name);
        if ($given === null) {
            return $default;
        }
        if (! is_numeric($given) || ! is_finite((float) $given)) {
            throw new BadCommand("--$name is \"$given\"; give a number of millimetres.");
        }

        return (float) $given;
    }

    /** A whole number that an option gives, or by default. */
    protected function whole(InputInterface $input, string $name, int $least, int $most): int
    {
        $given = $this->option($input, $name) ?? '';
        $number = preg_match('/^\d{1,6}$/', $given) === 1 ? (int) $given : $least - 1;

        return $number >= $least && $number <= $most ? $number : throw new BadCommand("--$name is \"$given\"; give a whole number from $least to $most.");
    }

    /** @return array{float, float, float} */
    protected function vector(InputInterface $input, string $name): array
    {
        $given = $this->option($input, $name);
        $parts = explode(',', $given ?? '');
        if (count($parts) !== 3 || array_filter($parts, static fn (string $part): bool => ! is_numeric(trim($part))) !== []) {
            throw new BadCommand("--$name is ".($given === null ? 'missing' : "\"$given\"")."; give three numbers with commas between, such as --$name 0,0,120.");
        }

        return [(float) $parts[0], (float) $parts[1], (float) $parts[2]];
    }

    /** @return list<float> the sides of --bed, and with --round its diameter as a fourth number */
    protected function bed(InputInterface $input): array
    {
        $bed = $this->vector($input, 'bed');
        if ($input->getOption('round') !== true) {
            return $bed;
        }
        if ($bed[0] !== $bed[1]) {
            throw new BadCommand('--round is given, but the bed is not as deep as it is wide; give its diameter for both X and Y.');
        }

        return [...$bed, $bed[0]];
    }

    /** @param  array<string, mixed>  $document */
    protected function json(OutputInterface $output, array $document): void
    {
        $output->writeln(self::encoded($document), OutputInterface::OUTPUT_RAW);
    }

    /** @param  array<string, mixed>  $document */
    protected static function encoded(array $document): string
    {
        return json_encode($document, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);
    }
}
