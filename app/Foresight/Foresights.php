<?php

declare(strict_types=1);

namespace App\Foresight;

use Illuminate\Contracts\Container\Container;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Step;

/** The list of all foresights, by the group of the kinds of step. */
final class Foresights
{
    private const ALL = [
        'drawn' => DrawnForesight::class,
        'cells' => CellsForesight::class,
        'mirror' => MirrorForesight::class,
        'mend' => MendForesight::class,
        'thicken' => MendForesight::class,
        'place' => PlaceForesight::class,
        'combine' => CombineForesight::class,
        'join' => JoinForesight::class,
    ];

    public function __construct(private readonly Container $container)
    {
    }

    /** @throws BadRecipe when nothing is foreseen of its kind */
    public function of(Step $step): Foresight
    {
        $class = self::ALL[$step::group()] ?? throw new BadRecipe("Nothing is foreseen of {$step->what()} here; ask for its section instead.");

        return $this->container->make($class);
    }
}
