<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Project;
use Illuminate\Support\Facades\DB;
use Isotome\Exception\BadCommand;
use Isotome\Format\InsideLook;
use Isotome\Format\Stuff;

/**
 * How the inside of a project's pieces looks: nothing chosen, one colour, one of the pictures that are there (see Stuff), or a picture of the person's own, which is
 * kept by content beside those that came with meshes.
 *
 * @phpstan-type Chosen array{look: string, colour?: string, mm?: float, turn?: float, picture?: string, name?: string, pixels?: list<int>}
 */
final class Insides
{
    public const OWN = 'own';

    public const COLOUR = 'colour';

    /**
     * @param  array<mixed>  $asked
     * @return Chosen
     *
     * @throws BadCommand
     */
    public static function chosen(Project $project, array $asked): array
    {
        $look = is_string($asked['look'] ?? null) ? $asked['look'] : '';
        if ($look === self::COLOUR) {
            return ['look' => $look, 'colour' => (string) InsideLook::colour(is_string($asked['colour'] ?? null) ? $asked['colour'] : '')->colour];
        }
        $before = $project->inside ?? [];
        $own = $look === self::OWN ? $project->inside_picture : null;
        if ($look === self::OWN && $own === null) {
            throw new BadCommand('There is no picture of your own yet; choose a file first.');
        }
        $number = static function (string $key, float $else) use ($asked): float {
            $given = $asked[$key] ?? $else;

            return is_int($given) || is_float($given) ? (float) $given : NAN;
        };
        $chosen = ['look' => $look, 'mm' => $number('mm', $look === self::OWN ? 50.0 : Stuff::WIDTHS[$look] ?? 50.0), 'turn' => $number('turn', 0.0)];
        if ($own !== null) {
            $chosen += ['picture' => $own, 'name' => ($before['look'] ?? '') === self::OWN && isset($before['name']) ? $before['name'] : 'own picture'];
        }
        // Refused here rather than when files are taken out; and measured, so that nobody need open the picture for it.
        $look = self::look($chosen);

        return [...$chosen, 'pixels' => $look->pixels()];
    }

    /**
     * Keeps a picture of the person's own for the project, and chooses it.
     *
     * @throws BadCommand when it cannot be used
     */
    public static function own(Project $project, string $bytes, string $name): void
    {
        $pixels = InsideLook::picture($bytes, $name)->pixels();
        $hash = hash('sha256', $bytes);
        DB::transaction(static function () use ($project, $bytes, $hash, $name, $pixels): void {
            MeshStore::keepPicture($hash, $bytes);
            $project->forceFill(['inside_picture' => $hash, 'inside' => ['look' => self::OWN, 'mm' => 50.0, 'turn' => 0.0, 'picture' => $hash, 'name' => $name, 'pixels' => $pixels]])->save();
        });
    }

    /**
     * @param  Chosen|null  $chosen
     */
    public static function look(?array $chosen): InsideLook
    {
        return match (true) {
            $chosen === null => InsideLook::plain(),
            $chosen['look'] === self::COLOUR => InsideLook::colour($chosen['colour'] ?? ''),
            $chosen['look'] === self::OWN => InsideLook::picture((new MeshStore)->picture($chosen['picture'] ?? ''), $chosen['name'] ?? 'own picture', $chosen['mm'] ?? 50.0, $chosen['turn'] ?? 0.0),
            default => Stuff::look($chosen['look'], $chosen['mm'] ?? null, $chosen['turn'] ?? 0.0),
        };
    }

    /**
     * For the page: with where its picture is, and how millimetres become places on it.
     *
     * @param  Chosen|null  $chosen
     * @return array<string, mixed>|null
     */
    public static function shown(?array $chosen): ?array
    {
        if ($chosen === null || $chosen['look'] === self::COLOUR) {
            return $chosen;
        }

        return [
            'look' => $chosen['look'], 'mm' => $chosen['mm'] ?? 50.0, 'turn' => $chosen['turn'] ?? 0.0, ...(isset($chosen['name']) ? ['name' => $chosen['name']] : []),
            'picture' => $chosen['look'] === self::OWN ? 'pictures/'.($chosen['picture'] ?? '') : 'insides/'.$chosen['look'], 'scales' => InsideLook::scalesOf($chosen['mm'] ?? 50.0, $chosen['pixels'] ?? [1, 1]),
        ];
    }
}
