<?php

declare(strict_types=1);

namespace App\Serving;

use App\Answers\Answer;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Storage;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\StreamedResponse;

/**
 * Sends files. The web server does it where it can, so that no process of PHP waits for a slow receiver.
 */
final class SendsFile
{
    /** A zip that is kept. */
    public static function kept(Answer $answer, Request $request): Response|StreamedResponse
    {
        $headers = ['Content-Type' => 'application/zip', 'Content-Disposition' => self::disposition((string) $answer->name), 'Cache-Control' => 'private, no-cache'];
        $response = new Response('', 200, $headers);
        // Only a disk of this machine can be sent by its web server.
        if (config('filesystems.disks.answers.driver') === 'local' && self::hands($request, '/answered/', $answer->file, $response)) {
            return $response;
        }

        return response()->stream(static function () use ($answer): void {
            $stream = Storage::disk('answers')->readStream($answer->file);
            if ($stream !== null) {
                fpassthru($stream);
                fclose($stream);
            }
        }, 200, [...$headers, 'Content-Length' => (string) $answer->bytes]);
    }

    private static function disposition(string $name): string
    {
        // A name without letters of ASCII still needs one for old receivers.
        $plain = trim((string) preg_replace('/[^\w.-]+/', '-', (string) iconv('UTF-8', 'ASCII//TRANSLIT//IGNORE', $name)), '-');

        return HeaderUtils::makeDisposition(HeaderUtils::DISPOSITION_ATTACHMENT, $name, $plain === '' || $plain[0] === '.' ? 'isotome'.strrchr($name, '.') : $plain);
    }

    /**
     * Leaves the sending of a file to the web server, if there is one that can.
     *
     * @param  string  $from  the internal address of the file's folder: see serving/nginx.conf
     */
    public static function hands(Request $request, string $from, string $path, Response $response): bool
    {
        if ($request->server->get('ISOTOME_SENDS') !== '1') {
            return false;
        }
        $response->headers->set('X-Accel-Redirect', $from.rawurlencode(basename($path)));

        return true;
    }
}
