<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Exception\BadRecipe;
use Isotome\Join\Joints;
use Isotome\Mesh\Mesh;
use Isotome\Schema\Schema;

/**
 * Pieces move away from a place or an axis, the farthest by the whole distance and the others in proportion, or all alike; or neighbours part by that distance along the faces that they share, as nearly as that goes for all of them at once.
 */
final class SpreadLayer extends MovementLayer
{
    private const FACES = 'faces';

    public static function schema(): array
    {
        return self::form('spread', 'Spread', [
            'from' => Schema::placeOr('centre', 'Place from which pieces move away, centre for the middle of them, or faces for neighbours that part along the faces that they share', self::FACES),
            'reach_mm' => Schema::number('How far from each other faces may be that neighbours share, in millimetres', 1.0, 'give a distance above 0', null, 0.0, 1000.0),
            'along' => Schema::triple('Direction of an axis through that place: they move away from it, square to it'),
            'distance_mm' => Schema::number('How far the farthest piece moves, in millimetres', 50.0, 'give a distance in millimetres', -1e6, null, 1e6),
            'alike' => Schema::yesNo('Whether all pieces move equally far', false),
            ...self::span(25.0), 'ease' => Schema::oneOf('How it begins and ends', Ease::class, Ease::Smooth->value),
        ]);
    }

    protected function act(Poses $poses, array $pieces): void
    {
        [$start, $long, $ease] = [$this->number('start'), $this->number('length'), $this->ease()];
        foreach ($this->needsShapes() ? $this->parted($poses, $pieces) : $this->away($poses, $pieces) as $n => [$x, $y, $z]) {
            for ($frame = (int) floor($start); $frame < $poses->frames; $frame++) {
                $share = $ease->at(($frame - $start) / $long);
                $poses->add($n, $frame, [$x * $share, $y * $share, $z * $share]);
            }
        }
    }

    /**
     * @param  non-empty-list<int>  $pieces
     * @return array<int, array{float, float, float}> by piece, how far it moves in the end
     */
    private function parted(Poses $poses, array $pieces): array
    {
        $meshes = array_map(static fn (int $n): Mesh => $poses->actors[$n]->mesh ?? throw new BadRecipe("{$poses->actors[$n]->name} has no shape, so its neighbours are not known."), $pieces);
        $shared = [];
        foreach (Joints::of($meshes, Neighbours::pairs($meshes, $this->number('reach_mm')), $this->number('reach_mm')) as [$a, $b, $faces]) {
            foreach ($faces as $face) {
                $shared[] = [$a, $b, $face->axis, $face->area];
            }
        }

        return array_combine($pieces, Neighbours::parted(count($pieces), $shared, $this->number('distance_mm')));
    }

    /**
     * @param  non-empty-list<int>  $pieces
     * @return array<int, array{float, float, float}> by piece, how far it moves in the end
     */
    private function away(Poses $poses, array $pieces): array
    {
        $from = $this->settings['from'] ?? 'centre';
        /** @var array{float, float, float} $origin */
        $origin = is_array($from) ? $from : self::middle($poses, $pieces);
        $axis = isset($this->settings['along']) ? $this->three('along') : null;
        $length = $axis === null ? 0.0 : $axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2;
        $away = [];
        $most = 0.0;
        foreach ($pieces as $n) {
            $centre = $poses->actors[$n]->centre;
            $way = [$centre[0] - $origin[0], $centre[1] - $origin[1], $centre[2] - $origin[2]];
            if ($axis !== null) {
                $along = ($way[0] * $axis[0] + $way[1] * $axis[1] + $way[2] * $axis[2]) / $length;
                $way = [$way[0] - $along * $axis[0], $way[1] - $along * $axis[1], $way[2] - $along * $axis[2]];
            }
            $far = sqrt($way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2);
            $away[$n] = [$way, $far];
            $most = max($most, $far);
        }
        $distance = $this->number('distance_mm');
        $ways = [];
        foreach ($away as $n => [$way, $far]) {
            $by = $this->settings['alike'] === true ? ($far > 0.0 ? $distance / $far : 0.0) : ($most > 0.0 ? $distance / $most : 0.0);
            $ways[$n] = [$by * $way[0], $by * $way[1], $by * $way[2]];
        }

        return $ways;
    }

    public function needsShapes(): bool
    {
        return ($this->settings['from'] ?? null) === self::FACES;
    }
}
