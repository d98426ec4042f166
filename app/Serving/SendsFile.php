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
        $sender = $request->server->get('ISOTOME_SENDS');
        // A name without letters of ASCII still needs one for old receivers.
        $plain = trim((string) preg_replace('/[^\w.-]+/', '-', (string) iconv('UTF-8', 'ASCII//TRANSLIT//IGNORE', $name)), '-');
        $disposition = HeaderUtils::makeDisposition(HeaderUtils::DISPOSITION_ATTACHMENT, $name, $plain === '' || $plain[0] === '.' ? 'isotome'.strrchr($name, '.') : $plain);
        $headers = ['Content-Type' => $type, 'Content-Disposition' => $disposition];
        if (is_string($sender) && $sender !== '') {
            return new Response('', 200, [...$headers, 'X-Accel-Redirect' => $sender.rawurlencode(basename($path))]);
        }

        return (new BinaryFileResponse($path, 200, $headers))->deleteFileAfterSend();
    }
}
