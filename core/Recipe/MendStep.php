<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Mend\Mend;
use Isotome\Mend\SingleMend;
use Isotome\Mesh\Mesh;

/** Mends the pieces it takes, by the whole sequence (Mend) or by one mend only (SingleMend); they keep their names. */
final readonly class MendStep implements Step
{
    use TakesPieces;

    /**
     * @param  list<string>  $of
     * @param  string|null  $only  one of SingleMend::KINDS; null for the whole sequence
     * @param  list<int>|null  $rims  rims to close, by their place in the check; null for all
     * @param  float|null  $joinMm  distance for joining vertices
     */
    public function __construct(
        private array $of,
        public ?string $only = null,
        public ?array $rims = null,
        public ?float $joinMm = null,
    ) {
    }

    public function does(): string
    {
        return 'mend';
    }

    /** @return array{mesh: Mesh, did: array<string, int>} the same mesh when there was nothing to do */
    public function on(Mesh $mesh, int $tag): array
    {
        if ($this->only !== null) {
            $single = SingleMend::of($mesh, $this->only, $tag, $this->rims, $this->joinMm);

            return ['mesh' => $single['changed'] > 0 ? $single['mesh'] : $mesh, 'did' => [$this->only => $single['changed']]];
        }
        $mend = Mend::of($mesh, $tag);

        return ['mesh' => $mend->changed ? $mend->mesh : $mesh, 'did' => $mend->did];
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'do' => 'mend',
            ...($this->of === ['*'] ? [] : ['of' => $this->of]),
            ...($this->only === null ? [] : ['only' => $this->only]),
            ...($this->rims === null ? [] : ['rims' => $this->rims]),
            ...($this->joinMm === null ? [] : ['join_mm' => $this->joinMm]),
        ];
    }
}
