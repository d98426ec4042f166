<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mirror\Band;
use Isotome\Mirror\Gives;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\MirrorOutcome;
use Isotome\Mirror\MirrorSettings;
use Isotome\Schema\Schema;

/** Mirrors pieces over one to three planes (Isotome\Mirror\Mirror). */
final class MirrorStep extends MirroringStep
{
    private MirrorSettings $mirror;

    public static function form(): array
    {
        return ['do' => ['mirror'], 'copies' => false];
    }

    public static function schema(): array
    {
        $plane = Schema::object(['through' => Schema::place('A place on it'), 'facing' => Schema::triple('Its facing')], ['through', 'facing'], 'write {"through": [x, y, z], "facing": [x, y, z]}');

        return ['title' => 'A mirror over one to three planes', ...Schema::object([
            'do' => Schema::word('mirror'),
            'planes' => Schema::list('The planes, one after the other', $plane, 1, 3, 'give one to three, [{"through": [x, y, z], "facing": [x, y, z]}]'),
            'of' => Schema::of(),
            'keep' => Schema::choice('The side of each plane that is kept', ['ahead', 'behind'], 'behind'),
            'cut' => Schema::yesNo('The other side is cut off first; else the whole is mirrored', true),
            'catch' => Schema::length(Schema::amount('Vertices this near to the plane are taken onto it', 0.0, 'the distance within which vertices are taken onto the plane, 0 or more')),
            'gives' => Schema::oneOf('One body, both halves as pieces of their own, or the reflection alone', Gives::class, 'one'),
            'band' => Schema::oneOf('What joins rims that do not meet', Band::class, 'none'),
            'smooth' => Schema::amount('Kinks along the seam below so many degrees are smoothed', 0.0, 'the kink in degrees below which the seam is smoothed, 0 to 180', 180.0),
        ], ['do', 'planes'])];
    }

    protected function accept(string $at): void
    {
        /** @var array{planes: list<array{through: array{float, float, float}, facing: array{float, float, float}}>, keep: string, cut: bool, catch: float, gives: string, band: string, smooth: float} $settings */
        $settings = $this->settings;
        $planes = [];
        foreach ($settings['planes'] as $i => $plane) {
            try {
                $planes[] = Plane::through($plane['through'], $plane['facing']);
            } catch (BadBlade $refusal) {
                throw new BadRecipe("$at.planes[$i]: ".$refusal->getMessage());
            }
        }
        $this->mirror = new MirrorSettings(
            $planes, $settings['keep'] === 'ahead', $settings['cut'], $settings['catch'], Gives::from($settings['gives']), Band::from($settings['band']), $settings['smooth'],
        );
    }

    public function settings(): MirrorSettings
    {
        return $this->mirror;
    }

    public function images(array $pieces): array
    {
        $images = [];
        foreach ($this->mirror->planes as $plane) {
            $reflection = $plane->reflection();
            // Over each plane goes what the ones before it gave.
            $images = [...$images, $reflection, ...array_map(static fn (array $image): array => Affine::then($image, $reflection), $images)];
        }

        return $images;
    }

    public function mirror(Mesh $mesh, int $tag): MirrorOutcome
    {
        return Mirror::of($mesh, $this->mirror, $tag);
    }

    public function closes(): bool
    {
        return true;
    }
}
