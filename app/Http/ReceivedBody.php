<?php

declare(strict_types=1);

namespace App\Http;

use App\Disk\DiskFull;
use Illuminate\Http\Request;
use Isotome\Exception\UnreadableMesh;

/** A request whose body is a file. */
final class ReceivedBody
{
    /**
     * Puts the file where it is wanted.
     *
     * @return int bytes; more than the largest upload when it is larger
     */
    public static function into(string $path, Request $request): int
    {
        // The web server has put the body into a file of the data folder already: it only changes its name.
        $spooled = $request->server->get('ISOTOME_BODY_FILE');
        if (is_string($spooled) && $spooled !== '') {
            $real = realpath($spooled);
            if ($real === false || ! str_starts_with($real, realpath(storage_path('spool')).'/') || ! @rename($real, $path)) {
                throw new UnreadableMesh('The file did not arrive completely; bring it in again.');
            }
            @chmod($path, 0600);

            return (int) filesize($path);
        }
        $in = $request->getContent(true);
        $out = @fopen($path, 'wb');
        $size = $out === false ? false : stream_copy_to_stream($in, $out, (int) config('isotome.largest_upload') + 1);
        if ($out === false || $size === false || ! fclose($out)) {
            throw DiskFull::missing((int) $request->headers->get('Content-Length', '0'));
        }

        return (int) $size;
    }
}
