<?php

declare(strict_types=1);

namespace App\Http;

use App\Database\Trouble;
use App\Disk\DiskFull;
use App\Disk\Room;
use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Http\Exceptions\PostTooLargeException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use Isotome\Exception\Refusal;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;
use Throwable;

/** Every error of the interface answers with one sentence: what was wrong, where, what to do. */
final class Refusals
{
    public static function register(Exceptions $exceptions): void
    {
        $exceptions->dontReport([Refusal::class]);
        $exceptions->shouldRenderJsonWhen(static fn (Request $request): bool => $request->is('api/*'));
        $exceptions->render(static fn (Refusal $refusal): JsonResponse => self::answer($refusal->getMessage(), 422));
        // The first thing that is wrong; the next one is said when that is mended.
        $exceptions->render(static fn (ValidationException $wrong): JsonResponse => self::answer((string) $wrong->validator->errors()->first(), 422));
        $exceptions->render(static fn (PostTooLargeException $large): JsonResponse => self::answer(self::tooLarge(), 413));
        $exceptions->render(static function (NotFoundHttpException $missing, Request $request): ?JsonResponse {
            if (! $request->is('api/*')) {
                return null;
            }
            $sentence = $missing->getPrevious() instanceof ModelNotFoundException
                ? 'What was asked for is not here any more; go back to the shelf and open the project again.'
                : 'There is nothing at this address; go back to the shelf.';

            return self::answer($sentence, 404);
        });
        $exceptions->dontReport([DiskFull::class]);
        $exceptions->render(static function (Throwable $error, Request $request): ?JsonResponse {
            $full = app(Room::class)->refusal($error);

            return match (true) {
                $full !== null => self::answer($full->getMessage(), 507),
                Trouble::isBusy($error) => self::answer('The database was busy for too long, so nothing was changed; try again in a moment.', 503),
                default => null,
            };
        });
        $exceptions->render(static fn (Throwable $error, Request $request): ?JsonResponse => $request->is('api/*')
            && ! $error instanceof HttpExceptionInterface
            ? self::answer('Isotome itself failed at this; nothing was changed. Try again, and if it stays, report it with the log in the data folder.', 500) : null);
    }

    public static function tooLarge(): string
    {
        return sprintf('The file is larger than the limit of %d MB; reduce the mesh, or raise ISOTOME_LARGEST_UPLOAD and start Isotome again.', intdiv((int) config('isotome.largest_upload'), 1024 * 1024));
    }

    private static function answer(string $sentence, int $status): JsonResponse
    {
        return response()->json(['message' => mb_scrub($sentence)], $status);
    }
}
