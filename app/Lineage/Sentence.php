<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Meshes\Fits;
use App\Models\Mesh;
use App\Models\Project;
use Isotome\Operation\Done;
use Isotome\Operation\Names;
use Isotome\Operation\Told;
use Isotome\Operation\Words;

/** What was done, in one line: the core's words for it, told of the pieces as they are stored. */
final class Sentence
{
    /** @param  non-empty-list<WorkedStep>  $worked */
    public static function of(array $worked, Project $project): string
    {
        $meshes = array_filter(array_map(static fn (Draft $draft): ?Mesh => $draft->row?->mesh, array_merge(...array_map(static fn (WorkedStep $one): array => $one->made, $worked))));
        $fits = new Fits($project->printer?->space(), $meshes);

        return Words::of(array_map(static fn (WorkedStep $one): Done => new Done($one->step, self::told($one->took, null), self::told($one->made, $fits), $one->record->report), $worked));
    }

    /**
     * @param  list<Draft>  $drafts  stored
     * @return list<Told>
     */
    private static function told(array $drafts, ?Fits $fits): array
    {
        $told = [];
        foreach ($drafts as $draft) {
            $mesh = $draft->row?->mesh;
            $fit = $mesh === null ? null : $fits?->of($mesh);
            $told[] = new Told($draft->name, $draft->title ?? Names::title($draft->name), $mesh?->watertight === true, $mesh->volume ?? 0.0, $fit === null || $fit['fits'] ? null : $fit['over_mm']);
        }

        return $told;
    }
}
