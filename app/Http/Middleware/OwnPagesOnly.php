<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Http\SecurityHeaders;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Other web pages in the same browser may not reach the application: requests must name this machine (or a configured
 * name) as their host, and whatever changes something must come from the application's own page.
 */
final class OwnPagesOnly
{
    /** @param  Closure(Request): Response  $next */
    public function handle(Request $request, Closure $next): Response
    {
        $hosts = ['localhost', '127.0.0.1', '[::1]', ...(array) config('isotome.hosts')];
        if (! in_array($request->getHost(), $hosts, true)) {
            return response()->json(['message' => 'Isotome does not answer under this name; open it as http://127.0.0.1 or set ISOTOME_HOSTS.'], 403);
        }
        // Work that is only read costs as much as work that changes something, so all of it is for the application's own page; the page
        // itself may be reached from a link anywhere.
        $isFromElsewhere = in_array($request->headers->get('Sec-Fetch-Site'), ['cross-site', 'same-site'], true);
        $origin = $request->headers->get('Origin');
        $isForeign = ! $request->isMethodSafe() && $origin !== null && $origin !== $request->getSchemeAndHttpHost();
        if ($isForeign || ($isFromElsewhere && ($request->is('api/*') || ! $request->isMethodSafe()))) {
            return response()->json(['message' => 'This request came from another page and was not carried out; use Isotome\'s own page.'], 403);
        }
        $response = $next($request);
        foreach (SecurityHeaders::all() as $name => $value) {
            $response->headers->set($name, $value);
        }

        return $response;
    }
}
