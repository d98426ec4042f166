<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Closure;
use Isotome\Cells\CellsBlade;
use Isotome\Cells\Chop;
use Isotome\Cells\Shatter;
use Isotome\Cells\ShatterSettings;
use Isotome\Cut\Outcome;
use Isotome\Mesh\Mesh;

/** A cut with a cells blade: shards, blocks, rings, or chopped pieces. */
final readonly class CellsStep implements Step
{
    use TakesPieces;

    /**
     * @param  CellsBlade|null  $blade  null for a chop
     * @param  list<string>  $of
     * @param  array<string, mixed>  $bladeAs  the blade as a recipe writes it, in millimetres
     */
    public function __construct(
        public ?CellsBlade $blade,
        public ShatterSettings $settings,
        private array $of,
        public array $bladeAs,
    ) {
    }

    public function does(): string
    {
        return 'cut';
    }

    /** @param  Closure(float): void|null  $progress */
    public function cut(Mesh $mesh, int $tag, ?Closure $progress = null): ?Outcome
    {
        if ($this->blade !== null) {
            return Shatter::of($mesh, $this->blade, $this->settings, $tag, $progress);
        }
        /** @var array{rounds: int, along: list<array{float, float, float}>, shift: float, tilt: float, seed: int} $chop */
        $chop = $this->bladeAs;

        return Chop::of($mesh, $chop['rounds'], $chop['along'], $chop['shift'], $chop['tilt'], $chop['seed'], $this->settings, $tag, $progress);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $settings = $this->settings;

        return [
            'do' => 'cut',
            'blade' => $this->bladeAs,
            'of' => $this->of,
            'kerf' => $settings->kerf,
            'seal' => $settings->seal->value,
            ...($settings->edge !== null ? ['edge_mm' => $settings->edge] : []),
            'smallest' => $settings->smallest,
            'apart' => $settings->apart,
            'wall_mm' => $settings->wall,
        ];
    }
}
