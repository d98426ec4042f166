<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\Keep;
use Isotome\Cut\Seal;
use Isotome\Geometry\Plane;
use Isotome\Operation\Piece;
use Isotome\Operation\VolumeAfter;

/** What a flat blade and series of them have in common. */
abstract class BladeStep extends CuttingStep
{
    abstract public function blade(): FlatBlade;

    public function closes(): bool
    {
        return $this->blade()->seal !== Seal::Open && $this->blade()->keep !== Keep::Outline;
    }

    public function volume(): VolumeAfter
    {
        return match (true) {
            $this->blade()->keep !== Keep::Both => VolumeAfter::Other,
            $this->blade()->kerf > 0.0 => VolumeAfter::LessKerf,
            default => VolumeAfter::Same,
        };
    }

    public function refusal(array $pieces, string $at): string
    {
        return self::missed($pieces, $this->blade()->plane, 'blade', $at);
    }

    /** @param  non-empty-list<Piece>  $pieces */
    public static function missed(array $pieces, Plane $plane, string $from, string $at): string
    {
        $low = INF;
        $high = -INF;
        foreach ($pieces as $piece) {
            $xyz = $piece->mesh->xyz;
            for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
                $d = $plane->nx * $xyz[$i] + $plane->ny * $xyz[$i + 1] + $plane->nz * $xyz[$i + 2] - $plane->offset;
                $low = min($low, $d);
                $high = max($high, $d);
            }
        }
        $names = count($pieces) === 1 ? $pieces[0]->name.' lies' : 'the '.count($pieces).' pieces it takes lie';

        return sprintf('The blade of %s cuts nothing: %s from %.3f to %.3f mm along its facing, counted from the %s; move it in between.', $at, $names, $low, $high, $from);
    }
}
