<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Closure;
use Isotome\Exception\BadRecipe;
use Isotome\Mend\SingleMend;
use Isotome\Mesh\Mesh;
use Isotome\Schema\Schema;

/** One mend alone (Isotome\Mend\SingleMend). */
final class SingleMendStep extends MendingStep
{
    private const MOST_RIMS = 100_000;

    public static function form(): array
    {
        return ['do' => ['mend'], 'only' => true];
    }

    public static function schema(): array
    {
        return ['title' => 'One mend alone', ...Schema::object([
            'do' => Schema::word('mend'), 'of' => Schema::names(), 'only' => Schema::choice('Which one', SingleMend::KINDS),
            'rims' => Schema::numbersOf('rim', 'For close: these rims only, by their place in the check', self::MOST_RIMS),
            'join_mm' => Schema::amount('For join: the distance in millimetres', null, 'the distance within which vertices are joined, 0 or more'),
        ], ['do', 'only'])];
    }

    protected function accept(string $at): void
    {
        if (isset($this->settings['rims']) && $this->settings['only'] !== 'close') {
            throw new BadRecipe("$at.rims stands without \"only\": \"close\"; rims are named for closing only.");
        }
        if (isset($this->settings['join_mm']) && $this->settings['only'] !== 'join') {
            throw new BadRecipe("$at.join_mm stands without \"only\": \"join\"; the distance is for joining only.");
        }
    }

    public function on(Mesh $mesh, int $tag, ?Closure $progress = null): array
    {
        /** @var array{only: string, rims?: list<int>, join_mm?: float} $settings */
        $settings = $this->settings;
        $single = SingleMend::of($mesh, $settings['only'], $tag, $settings['rims'] ?? null, $settings['join_mm'] ?? null, $progress);

        return ['mesh' => $single['changed'] > 0 ? $single['mesh'] : $mesh, 'did' => [$settings['only'] => $single['changed']]];
    }

    public function nothing(): string
    {
        return 'There was nothing to mend of this kind; the pieces are as they were.';
    }
}
