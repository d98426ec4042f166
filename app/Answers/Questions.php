<?php

declare(strict_types=1);

namespace App\Answers;

use Isotome\Exception\BadRecipe;

/** The list of all questions, by the name under which a run keeps them. */
final class Questions
{
    /** @var array<string, class-string<Question>> */
    private const ALL = ['tried' => TriedOut::class, 'symmetry' => HowSymmetric::class, 'span' => HowWide::class, 'files' => TakenOut::class, 'overlaps' => Overlapping::class, 'stands' => HowItStands::class, 'plan' => HowToCut::class, 'fits' => WhetherTheyFit::class, 'joints' => AtCommonFaces::class, 'plates' => OnPlates::class, 'crowding' => HowCrowded::class, 'platefiles' => PlatesTakenOut::class, 'layers' => InLayers::class, 'sheet' => HowItGoesTogether::class, 'moves' => HowItMoves::class, 'movementfiles' => MovementTakenOut::class];

    /** @return array<string, mixed> for the settings of a run */
    public static function write(Question $question): array
    {
        return ['question' => array_search($question::class, self::ALL, true), 'content' => $question->content];
    }

    /** @param  array<string, mixed>  $settings */
    public static function read(array $settings): Question
    {
        $class = self::ALL[is_string($settings['question'] ?? null) ? $settings['question'] : ''] ?? null;
        if ($class === null || ! is_array($settings['content'] ?? null)) {
            throw new BadRecipe('This question was asked by another version of Isotome, which asks differently; ask it again.');
        }

        return new $class($settings['content']);
    }
}
