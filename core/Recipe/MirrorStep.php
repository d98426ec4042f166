<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Mesh\Mesh;
use Isotome\Mirror\Copies;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\MirrorOutcome;
use Isotome\Mirror\MirrorSettings;

/** Mirrors the pieces it takes over planes, or copies them about an axis. */
final readonly class MirrorStep implements Step
{
    use TakesPieces;

    /**
     * @param  MirrorSettings|null  $settings  null for copies
     * @param  array{through: array{float, float, float}, axis: array{float, float, float}, count: int, weld: float}|null  $copies
     * @param  list<string>  $of
     * @param  list<array{through: array{float, float, float}, facing: array{float, float, float}}>  $planesAs
     */
    public function __construct(
        public ?MirrorSettings $settings,
        public ?array $copies,
        private array $of,
        public array $planesAs = [],
    ) {
    }

    public function does(): string
    {
        return 'mirror';
    }

    public function mirror(Mesh $mesh, int $tag): MirrorOutcome
    {
        if ($this->settings !== null) {
            return Mirror::of($mesh, $this->settings, $tag);
        }
        $copies = $this->copies ?? ['through' => [0.0, 0.0, 0.0], 'axis' => [0.0, 0.0, 1.0], 'count' => 2, 'weld' => 0.0];

        return Copies::of($mesh, $copies['through'], $copies['axis'], $copies['count'], $copies['weld']);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        if ($this->settings === null) {
            $copies = $this->copies ?? [];

            return ['do' => 'mirror', 'copies' => array_diff_key($copies, ['weld' => 0]), 'of' => $this->of, 'catch' => $copies['weld'] ?? 0.0];
        }

        return [
            'do' => 'mirror',
            'planes' => $this->planesAs,
            'of' => $this->of,
            'keep' => $this->settings->keepsAhead ? 'ahead' : 'behind',
            'cut' => $this->settings->cuts,
            'catch' => $this->settings->catch,
            'gives' => $this->settings->gives->value,
            'band' => $this->settings->band->value,
            'smooth' => $this->settings->smooth,
        ];
    }
}
