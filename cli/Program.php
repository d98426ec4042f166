<?php

declare(strict_types=1);

namespace Cli;

use Isotome\Exception\BadCommand;
use Isotome\Exception\Refusal;
use RuntimeException;
use Symfony\Component\Console\Application;
use Symfony\Component\Console\Exception\ExceptionInterface;
use Symfony\Component\Console\Input\ArgvInput;
use Symfony\Component\Console\Output\ConsoleOutput;
use Throwable;

/** Starts a command and turns every refusal into one line on standard error and exit code 2. */
final class Program
{
    private const VECTORS = ['--through', '--facing', '--bed', '--whole'];

    /** @param  list<string>  $argv */
    public static function main(array $argv): int
    {
        $program = new Application('isotome', '1');
        $program->setCatchExceptions(false);
        $program->setAutoExit(false);
        $program->addCommands([new CheckCommand, new ConvertCommand, new LayersCommand, new MendCommand, new MoveCommand, new PlanCommand, new PlatesCommand, new ProfileCommand, new RunCommand, new SectionCommand, new UniteCommand]);
        $output = new ConsoleOutput;
        try {
            $input = new ArgvInput(self::joined($argv));
            $name = $input->getFirstArgument();
            if ($name !== null && ! $program->has($name)) {
                return self::refuse($output, 'There is no command '.mb_strimwidth($name, 0, 60, '…').'; use check, mend, run, move, unite, section, profile, layers, plan, plates or convert, or see isotome help.');
            }

            return $program->run($input, $output);
        } catch (ExceptionInterface $wrong) {
            return self::refuse($output, rtrim($wrong->getMessage(), '. ').'; see isotome help.');
        } catch (Refusal|RuntimeException $wrong) {
            return self::refuse($output, $wrong->getMessage());
        } catch (Throwable $error) {
            return self::refuse($output, 'an error of the program, '.$error->getMessage().'; please report it with the input.');
        }
    }

    /** One line, whatever was typed: what would break it, or tell the terminal something, becomes a space. */
    private static function refuse(ConsoleOutput $output, string $sentence): int
    {
        $line = (string) preg_replace('/[\s\p{Cc}\p{Cf}]+/u', ' ', mb_scrub($sentence));
        $output->getErrorOutput()->writeln("isotome: $line", ConsoleOutput::OUTPUT_RAW);

        return 2;
    }

    /**
     * A vector may begin with a minus sign, which would be taken for an option: its two words become one.
     *
     * @param  list<string>  $argv
     * @return list<string>
     *
     * @throws BadCommand
     */
    private static function joined(array $argv): array
    {
        $joined = [];
        for ($i = 0, $count = count($argv); $i < $count; $i++) {
            if ($argv[$i] === '-') {
                throw new BadCommand('A dash alone is not known; name a file.');
            }
            $joined[] = in_array($argv[$i], self::VECTORS, true) && isset($argv[$i + 1]) ? $argv[$i].'='.$argv[++$i] : $argv[$i];
        }

        return $joined;
    }
}
