<?php

declare(strict_types=1);

namespace App\Meshes;

use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Str;
use Isotome\Exception\UnreadableMesh;
use Isotome\Format\MeshFile;
use RuntimeException;
use Symfony\Component\Process\Exception\ProcessSignaledException;
use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\PhpExecutableFinder;
use Symfony\Component\Process\Process;

/**
 * Reads a file that somebody sent in a process of its own, which is ended from outside when it takes more time or memory than an honest
 * file of its size: neither the XML reader nor a loop can be trusted to hear of a limit.
 */
final class ReadAside
{
    /** Seconds, and seconds for each MB of the file. */
    private const SECONDS = 15;

    private const SECONDS_A_MB = 1;

    /** Bytes of memory, and for each byte of the file. */
    private const MEMORY = 400_000_000;

    private const MEMORY_A_BYTE = 16;

    /** Times what is packed takes unpacked, at most, when it is a mesh as text. */
    private const PACKED = 8;

    /**
     * @param  int  $seconds  for any file
     * @param  int  $aMegabyte  and for each MB of it
     */
    public function __construct(private readonly int $seconds = self::SECONDS, private readonly int $aMegabyte = self::SECONDS_A_MB)
    {
    }

    /**
     * @param  string  $name  as the person knows the file
     * @param  string  $put  where the meshes of a large file are put aside for the work that comes next; nowhere when empty
     * @return array<string, mixed> what is in it
     *
     * @throws UnreadableMesh
     */
    public function report(string $path, string $name, string $put = ''): array
    {
        $bytes = (int) filesize($path);
        $seconds = $this->seconds + $this->aMegabyte * intdiv($bytes, 1_000_000);
        $memory = min(ini_parse_quantity((string) config('isotome.memory')), self::MEMORY + self::MEMORY_A_BYTE * $bytes * (MeshFile::ending($name) === 'zip' ? self::PACKED : 1));
        $php = (new PhpExecutableFinder)->find() ?: 'php';
        // What a process that is ended leaves there goes with the folder.
        $aside = storage_path('spool/'.Str::ulid());
        @mkdir($aside, 0700, true);
        // The system ends it even when this process is gone.
        $process = new Process([
            'timeout', '--signal=KILL', (string) $seconds, $php, '-d', "memory_limit=$memory", '-d', 'display_errors=stderr', '-d', 'log_errors=0', '-d', 'opcache.enable_cli=1',
            '-d', 'opcache.jit=1105', '-d', 'opcache.jit_buffer_size=64M', '-d', 'opcache.file_update_protection=0', base_path('cli/read.php'), $path, $name, $put,
        ], storage_path(), ['TMPDIR' => $aside], null, $seconds + 5.0);
        try {
            $process->run();
        } catch (ProcessSignaledException|ProcessTimedOutException) {
            throw new UnreadableMesh("The file $name takes more than $seconds s to read, as no ordinary file of its size does; export it again or reduce the mesh.");
        } finally {
            (new Filesystem)->deleteDirectory($aside);
        }
        $said = json_decode($process->getOutput(), true);
        if (is_array($said) && is_array($said['report'] ?? null)) {
            /** @var array<string, mixed> */
            return $said['report'];
        }
        if (is_array($said) && is_string($said['refusal'] ?? null)) {
            throw new UnreadableMesh($said['refusal']);
        }
        if (str_contains($process->getErrorOutput(), 'Allowed memory size')) {
            throw new UnreadableMesh(sprintf('The file %s needs more than the %s MB of memory that a file of its size may take; reduce the mesh or divide it into several files.', $name, number_format($memory / 1e6)));
        }
        throw new RuntimeException('The reading of a file ended with code '.$process->getExitCode().': '.mb_strimwidth($process->getErrorOutput(), 0, 2000));
    }
}
