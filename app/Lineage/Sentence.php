<?php

declare(strict_types=1);

namespace App\Lineage;

use App\Models\Project;
use Isotome\Fit\BuildSpace;
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
        $space = $project->printer?->space();

        return Words::of(array_map(static fn (WorkedStep $one): Done => new Done($one->step, self::told($one->took, null), self::told($one->made, $space), $one->record->report), $worked));
    }

    /**
     * @param  list<Draft>  $drafts  stored
     * @return list<Told>
     */
    private static function told(array $drafts, ?BuildSpace $space): array
    {
        $told = [];
        foreach ($drafts as $draft) {
            $mesh = $draft->row?->mesh;
            $fit = $mesh === null ? null : $space?->holds($mesh->size());
            $told[] = new Told($draft->name, $draft->title ?? Names::title($draft->name), $mesh?->watertight === true, $mesh->volume ?? 0.0, $fit === null || $fit['fits'] ? null : $fit['over_mm']);
        }

        return $told;
    }
}
