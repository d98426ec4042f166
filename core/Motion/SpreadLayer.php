<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Schema\Schema;

/** Pieces move away from a place or an axis, the farthest by the whole distance and the others in proportion, or all alike. */
final class SpreadLayer extends MovementLayer
{
    public static function schema(): array
    {
        return self::form('spread', 'Spread', [
            'from' => Schema::placeOr('centre', 'Place from which pieces move away, or centre for the middle of them'),
            'along' => Schema::triple('Direction of an axis through that place: they move away from it, square to it'),
            'distance_mm' => Schema::number('How far the farthest piece moves, in millimetres', 50.0, 'give a distance in millimetres', -1e6, null, 1e6),
            'alike' => Schema::yesNo('Whether all pieces move equally far', false),
            ...self::span(25.0), 'ease' => Schema::oneOf('How it begins and ends', Ease::class, Ease::Smooth->value),
        ]);
    }

    protected function act(Poses $poses, array $pieces): void
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
        [$start, $long, $distance, $ease] = [$this->number('start'), $this->number('length'), $this->number('distance_mm'), $this->ease()];
        foreach ($away as $n => [$way, $far]) {
            $by = $this->settings['alike'] === true ? ($far > 0.0 ? $distance / $far : 0.0) : ($most > 0.0 ? $distance / $most : 0.0);
            for ($frame = (int) floor($start); $frame < $poses->frames; $frame++) {
                $share = $by * $ease->at(($frame - $start) / $long);
                $poses->add($n, $frame, [$way[0] * $share, $way[1] * $share, $way[2] * $share]);
            }
        }
    }
}
