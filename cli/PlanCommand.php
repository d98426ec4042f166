<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Exception\BadCommand;
use Isotome\Format\ReadMesh;
use Isotome\Mesh\Mesh;
use Isotome\Operation\PlannedCuts;
use Isotome\Plan\Plans;
use Isotome\Plan\Terms;
use Isotome\Plan\Wishes;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Helper\ProgressBar;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('plan', 'Proposes sets of flat cuts after which every piece fits a printer')]
final class PlanCommand extends MeshCommand
{
    protected function configure(): void
    {
        $this->addArgument('input', InputArgument::REQUIRED, 'A mesh: stl, obj, ply, off, 3mf or glb')
            ->addOption('bed', null, InputOption::VALUE_REQUIRED, 'X,Y,Z of the printer\'s space, mm')
            ->addOption('round', null, InputOption::VALUE_NONE, 'The bed is round: X and Y are its diameter')
            ->addOption('margin', null, InputOption::VALUE_REQUIRED, 'Left free at every side of the bed, mm', '0')
            ->addOption('gap', null, InputOption::VALUE_REQUIRED, 'Removed by every cut, mm', '0')
            ->addOption('peg', null, InputOption::VALUE_REQUIRED, 'Diameter of pegs that should find room in every cut face, mm', '6')
            ->addOption('whole', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'X,Y,Z,R of a place, a ball, that no cut may go through')
            ->addOption('alternatives', null, InputOption::VALUE_REQUIRED, 'How many, at most '.Wishes::MOST_ALTERNATIVES, '4')
            ->addOption('json', null, InputOption::VALUE_NONE, 'One JSON document on standard output');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $wishes = Wishes::of(
            $this->bed($input), $this->length($input, 'margin', 0.0), $this->length($input, 'gap', 0.0), $this->whole($input, 'alternatives', 1, Wishes::MOST_ALTERNATIVES),
            $this->length($input, 'peg', 6.0), $this->places($input),
        );
        $read = $this->mesh($input);
        $parts = self::parts($read, pathinfo($this->text($input, 'input'), PATHINFO_FILENAME));
        foreach ($parts as $name => $mesh) {
            $this->demandClosed($name, $mesh);
        }
        $terminal = $output instanceof ConsoleOutputInterface && stream_isatty(STDERR) ? new ProgressBar($output->getErrorOutput(), 100 * count($parts)) : null;
        $plans = [];
        foreach ($parts as $name => $mesh) {
            $n = count($plans);
            $plans[$name] = Plans::of($mesh, $wishes, $terminal === null ? null : static function (float $share) use ($terminal, $n): void {
                $terminal->setProgress((int) (100 * ($n + $share)));
            });
        }
        $terminal?->finish();
        $document = ['lower_bound' => array_sum(array_map(static fn (Plans $of): int => $of->least, $plans)), 'alternatives' => self::alternatives($plans, $wishes)];
        if ($input->getOption('json') === true) {
            $this->json($output, $document);
        } else {
            $output->writeln($document['lower_bound'] === 1 ? 'At least 1 piece is needed.' : "At least {$document['lower_bound']} pieces are needed.");
            foreach ($document['alternatives'] as $n => $alternative) {
                $terms = array_filter($alternative['terms'], static fn (float $cost): bool => abs($cost) >= 0.005);
                $output->writeln(sprintf('%d: %d %s, %d %s, cost %.2f (%s)', $n + 1, $alternative['pieces'], $alternative['pieces'] === 1 ? 'piece' : 'pieces', $alternative['cuts'], $alternative['cuts'] === 1 ? 'cut' : 'cuts', $alternative['cost'],
                    implode(', ', array_map(static fn (string $term, float $cost): string => sprintf('%s %.2f', $term, $cost), array_keys($terms), $terms))), OutputInterface::OUTPUT_RAW);
            }
        }

        return 0;
    }

    /**
     * What a recipe would name, see RunCommand.
     *
     * @return non-empty-array<string, Mesh>
     */
    private static function parts(ReadMesh $read, string $name): array
    {
        $parts = [];
        foreach ($read->parts as $part => $mesh) {
            $parts[(string) $part] = $mesh;
        }

        return $parts === [] ? [$name => $read->mesh] : $parts;
    }

    /**
     * The first alternatives of all parts together, then the second; a part with fewer goes on with its first.
     *
     * @param  array<string, Plans>  $plans
     * @return list<array{pieces: int, cuts: int, cost: float, terms: array<string, float>, fits: list<array<string, mixed>>, recipe: array{isotome_recipe: int, units: string, steps: list<array<string, mixed>>}}>
     */
    private static function alternatives(array $plans, Wishes $wishes): array
    {
        $alternatives = [];
        for ($n = 0, $most = max(1, ...array_map(static fn (Plans $of): int => count($of->alternatives), array_values($plans))); $n < $most; $n++) {
            $terms = new Terms;
            $fits = $steps = [];
            foreach ($plans as $stock => $of) {
                $alternative = $of->alternatives[$n] ?? $of->alternatives[0];
                $terms = $terms->plus($alternative->terms);
                array_push($fits, ...PlannedCuts::pieces($alternative, $stock));
                array_push($steps, ...PlannedCuts::steps($alternative, $stock, $wishes->gap));
            }
            $cuts = count($steps);
            // A recipe has one step at least: what fits without a cut is turned so that it does.
            $steps = $steps === [] ? [['do' => 'turn', 'of' => [$fits[0]['name']], 'about' => $fits[0]['turn']['axis'], 'degrees' => $fits[0]['turn']['degrees']]] : $steps;
            $alternatives[] = ['pieces' => count($fits), 'cuts' => $cuts, 'cost' => $terms->total(), 'terms' => $terms->toArray(), 'fits' => $fits, 'recipe' => ['isotome_recipe' => 1, 'units' => 'mm', 'steps' => $steps]];
        }

        return $alternatives;
    }

    /** @return list<array{float, float, float, float}> */
    private function places(InputInterface $input): array
    {
        $places = [];
        $given = $input->getOption('whole');
        foreach (is_array($given) ? $given : [] as $place) {
            $parts = explode(',', is_string($place) ? $place : '');
            if (count($parts) !== 4 || array_filter($parts, static fn (string $part): bool => ! is_numeric(trim($part))) !== [] || (float) $parts[3] <= 0.0) {
                throw new BadCommand('--whole is "'.(is_string($place) ? $place : '').'"; give the middle and the radius of a ball, such as --whole 0,0,120,15.');
            }
            $places[] = [(float) $parts[0], (float) $parts[1], (float) $parts[2], (float) $parts[3]];
        }

        return $places;
    }
}
