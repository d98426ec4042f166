<?php

declare(strict_types=1);

namespace App\Serving;

use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\HeaderUtils;

/**
 * Sends a file that was made for one request. The web server does it where it can, so that no process of PHP waits for a slow receiver;
 * the file is removed by App\Disk\Spool soon after, when the server has long had it open.
 */
final class SendsFile
{
    /** @param  string  $path  in the folder of downloads */
    public static function as(string $path, string $name, string $type, Request $request): Response|BinaryFileResponse
    {
        // A name without letters of ASCII still needs one for old receivers.
        $plain = trim((string) preg_replace('/[^\w.-]+/', '-', (string) iconv('UTF-8', 'ASCII//TRANSLIT//IGNORE', $name)), '-');
        $disposition = HeaderUtils::makeDisposition(HeaderUtils::DISPOSITION_ATTACHMENT, $name, $plain === '' || $plain[0] === '.' ? 'isotome'.strrchr($name, '.') : $plain);
        $headers = ['Content-Type' => $type, 'Content-Disposition' => $disposition];
        $response = new Response('', 200, $headers);
        if (self::hands($request, '/sent/', $path, $response)) {
            return $response;
        }

        return (new BinaryFileResponse($path, 200, $headers))->deleteFileAfterSend();
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
