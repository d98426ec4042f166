<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadCommand;
use Isotome\Exception\BadRecipe;
use Isotome\Format\Paint;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Applied;
use Isotome\Operation\Done;
use Isotome\Operation\Given;
use Isotome\Operation\Report;
use Isotome\Operation\Step;
use Isotome\Operation\VolumeAfter;
use Isotome\Operation\Work;
use Isotome\Schema\Schema;

/** Gives a material that pieces came with another colour or picture (Isotome\Format\Paint). Pieces without it stay as they are. */
final class PaintStep extends Step
{
    public static function form(): array
    {
        return ['do' => ['paint']];
    }

    public static function group(): string
    {
        return 'paint';
    }

    public static function schema(): array
    {
        return ['title' => 'Another look for a material', ...Schema::object([
            'do' => Schema::word('paint'), 'of' => Schema::of(),
            'material' => Schema::text('Name of the material, as the pieces list it', 1, 400, 'give the name of a material'),
            'colour' => Schema::text('Its colour, #rrggbb; a picture that it has goes', 7, 7, 'write it as #rrggbb, such as #c9b79c'),
            'picture' => Schema::text('A picture instead: stone, oak, clay or plaster, or data:image/png;base64,… of a PNG, JPEG or WebP of at most '.intdiv(Paint::LARGEST, 1000).' KB. It lies on the texture coordinates of the faces', 3, Paint::LARGEST_TEXT, 'give stone, oak, clay or plaster, or data:image/png;base64,… of at most '.intdiv(Paint::LARGEST, 1000).' KB'),
            'times' => Schema::number('How often the picture lies side by side where the coordinates go from 0 to 1', 1.0, 'give a number from 0.01 to 1000', 0.01, null, 1000.0),
        ], ['do', 'material'])];
    }

    protected function accept(string $at): void
    {
        if (isset($this->settings['colour']) === isset($this->settings['picture'])) {
            throw new BadRecipe("$at gives ".(isset($this->settings['colour']) ? 'both a colour and a picture' : 'neither a colour nor a picture').'; give one of them.');
        }
        try {
            $this->paint();
        } catch (BadCommand $refusal) {
            throw new BadRecipe("$at.".(isset($this->settings['colour']) ? 'colour' : 'picture').': '.$refusal->getMessage());
        }
    }

    public function apply(array $pieces, Work $work): Applied
    {
        $paint = $this->paint();
        $took = $gave = [];
        foreach ($pieces as $n => $piece) {
            $mesh = $piece->mesh;
            try {
                $skin = $mesh->skin === null ? null : $paint->on($mesh->skin, $this->material());
            } catch (BadCommand $refusal) {
                throw new BadRecipe("{$piece->name}: ".$refusal->getMessage());
            }
            if ($skin !== null) {
                $took[] = $piece->name;
                $gave[] = Given::inPlace($piece, Mesh::of($mesh->xyz, $mesh->corners, $mesh->tags, $skin));
            }
            $work->report(($n + 1) / count($pieces));
        }

        return new Applied($took, $gave, new Report);
    }

    public function givesLooks(): bool
    {
        return true;
    }

    public function closes(): bool
    {
        return true;
    }

    public function refusal(array $pieces, string $at): string
    {
        $names = [];
        foreach ($pieces as $piece) {
            foreach (array_keys($piece->mesh->skin->looks->materials ?? []) as $n) {
                $names[$piece->mesh->skin?->looks->name($n) ?? ''] = true;
            }
        }

        return "$at.material is \"{$this->material()}\", and no face of the pieces it takes has it; ".($names === [] ? 'they came without materials.' : 'choose one of '.implode(', ', array_slice(array_keys($names), 0, 20)).'.');
    }

    public function volume(): VolumeAfter
    {
        return VolumeAfter::Same;
    }

    public function what(): string
    {
        return 'the paint';
    }

    public function doing(): string
    {
        return 'painting';
    }

    public function said(Done $done): string
    {
        $count = count($done->made);

        return 'Painted '.$this->material().' on '.($count === 1 ? '1 piece' : "$count pieces").'.';
    }

    public function passesTitleOn(): bool
    {
        return true;
    }

    private function material(): string
    {
        /** @var string */
        return $this->settings['material'];
    }

    private function paint(): Paint
    {
        /** @var array{colour?: string, picture?: string, times: float} $settings */
        $settings = $this->settings;

        return isset($settings['colour']) ? Paint::colour($settings['colour']) : Paint::picture($settings['picture'] ?? '', $settings['times']);
    }
}
