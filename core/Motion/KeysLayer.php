<?php

declare(strict_types=1);

namespace Isotome\Motion;

use Isotome\Exception\BadRecipe;
use Isotome\Schema\Schema;

/** Poses set by hand at some frames, and what lies between. Several pieces move as one group: about a place, or the middle of them. */
final class KeysLayer extends MovementLayer
{
    private const STEP = 'step';

    public static function schema(): array
    {
        return self::form('keys', 'Keys', [
            'through' => Schema::placeOr('centre', 'Place about which the group is turned and scaled, or centre for the middle of it'),
            'keys' => Schema::list('Poses by frame', Schema::object([
                'frame' => Schema::whole('Frame', 0, self::MOST_FRAMES, 0, 'give a frame, a whole number from 0'),
                'shift' => Schema::triple('Shift, in millimetres', [0.0, 0.0, 0.0]), 'about' => Schema::triple('Axis of the turn', [0.0, 0.0, 1.0]),
                'degrees' => Schema::number('Degrees of the turn', 0.0, 'give an angle in degrees', -36000.0, null, 36000.0), 'scale' => Schema::number('Scale', 1.0, 'give a number above 0', null, 0.0, 1000.0),
            ], ['frame']), 1, 1000, 'give a list of keys, [{"frame": 0, …}, …]'),
            'ease' => Schema::choice('What lies between two keys: step stays until the next one', [...array_column(Ease::cases(), 'value'), self::STEP], Ease::Smooth->value),
        ], ['keys']);
    }

    protected function act(Poses $poses, array $pieces): void
    {
        $keys = $this->keys();
        $through = $this->settings['through'] ?? 'centre';
        /** @var array{float, float, float} $place */
        $place = is_array($through) ? $through : self::middle($poses, $pieces);
        for ($frame = 0; $frame < $poses->frames; $frame++) {
            [$shift, $turn, $scale] = $this->at($keys, $frame);
            foreach ($pieces as $n) {
                $centre = $poses->actors[$n]->centre;
                $from = [$centre[0] - $place[0], $centre[1] - $place[1], $centre[2] - $place[2]];
                $to = Quaternion::turned($turn, $from);
                $poses->add($n, $frame, [$shift[0] + $scale * $to[0] - $from[0], $shift[1] + $scale * $to[1] - $from[1], $shift[2] + $scale * $to[2] - $from[2]], $turn, $scale);
            }
        }
    }

    /** @return non-empty-list<array{frame: int, shift: array{float, float, float}, about: array{float, float, float}, degrees: float, scale: float}> in their order */
    private function keys(): array
    {
        /** @var non-empty-list<array{frame: int, shift: array{float, float, float}, about: array{float, float, float}, degrees: float, scale: float}> $keys */
        $keys = $this->settings['keys'];
        usort($keys, static fn (array $a, array $b): int => $a['frame'] <=> $b['frame']);
        foreach ($keys as $n => $key) {
            if ($n > 0 && $keys[$n - 1]['frame'] === $key['frame']) {
                throw new BadRecipe("Two keys of a layer are at frame {$key['frame']}; leave one of them out.");
            }
        }

        return $keys;
    }

    public function starts(Poses $poses, array $pieces): array
    {
        return array_fill_keys($pieces, (float) $this->keys()[0]['frame']);
    }

    protected function curve(Poses $poses, array $pieces): array
    {
        $frames = array_column($this->keys(), 'frame');
        $ease = $this->settings['ease'] === self::STEP ? null : $this->ease();

        // From key to key by equal parts.
        return $this->shares($poses, static function (int $frame) use ($frames, $ease): float {
            $done = 0.0;
            for ($n = 1, $count = count($frames); $n < $count; $n++) {
                $t = ($frame - $frames[$n - 1]) / ($frames[$n] - $frames[$n - 1]);
                $done += ($ease === null ? floor(min(1.0, max(0.0, $t))) : $ease->at($t)) / ($count - 1);
            }

            return $done;
        });
    }

    /**
     * @param  non-empty-list<array{frame: int, shift: array{float, float, float}, about: array{float, float, float}, degrees: float, scale: float}>  $keys  in their order
     * @return array{array{float, float, float}, array{float, float, float, float}, float}
     */
    private function at(array $keys, int $frame): array
    {
        $before = $after = $keys[0];
        foreach ($keys as $key) {
            $after = $key;
            if ($key['frame'] > $frame) {
                break;
            }
            $before = $key;
        }
        $long = $after['frame'] - $before['frame'];
        $t = $long > 0 ? ($frame - $before['frame']) / $long : 0.0;
        $share = $this->settings['ease'] === self::STEP ? 0.0 : $this->ease()->at((float) max(0.0, $t));
        $a = Quaternion::about($before['about'], $before['degrees']);
        // About one axis it turns as far as is said, more than once around too.
        $turn = $before['about'] === $after['about'] ? Quaternion::about($before['about'], $before['degrees'] + $share * ($after['degrees'] - $before['degrees'])) : Quaternion::between($a, Quaternion::about($after['about'], $after['degrees']), $share);
        $shift = [];
        foreach ([0, 1, 2] as $k) {
            $shift[] = $before['shift'][$k] + $share * ($after['shift'][$k] - $before['shift'][$k]);
        }

        return [$shift, $turn, $before['scale'] + $share * ($after['scale'] - $before['scale'])];
    }
}
