<?php

declare(strict_types=1);

namespace App\Http;

/**
 * What browsers may do with the application's answers. The one source: for what PHP answers, and for the files that the web server sends.
 * Sources: W3C Content Security Policy Level 3; W3C Fetch Metadata; OWASP Secure Headers Project.
 */
final class SecurityHeaders
{
    /** No inline script or style, nothing foreign, no page around it. */
    public const POLICY = "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data: blob:; connect-src 'self'; worker-src 'self'; "
        ."form-action 'none'; base-uri 'none'; frame-ancestors 'none'";

    /** @return array<string, string> */
    public static function all(): array
    {
        return [
            'Content-Security-Policy' => self::POLICY,
            'X-Content-Type-Options' => 'nosniff',
            'X-Frame-Options' => 'DENY',
            'Referrer-Policy' => 'no-referrer',
            'Cross-Origin-Opener-Policy' => 'same-origin',
            'Cross-Origin-Resource-Policy' => 'same-origin',
        ];
    }
}
