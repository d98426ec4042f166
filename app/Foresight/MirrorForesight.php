<?php

declare(strict_types=1);

namespace App\Foresight;

use App\Answers\HowWide;
use App\Answers\Question;
use App\Meshes\MeshStore;
use App\Meshes\RimsOfMesh;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Mirror\Gives;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\SeamForecast;
use Isotome\Mirror\SeamGap;
use Isotome\Operation\Kind\CopiesStep;
use Isotome\Operation\Kind\MirrorStep;
use Isotome\Operation\Names;
use Isotome\Operation\Step;

/** Of a mirror: what is lost, how far rims are off the plane, the kink of the seam. Of copies: how much of a turn a piece takes. */
final class MirrorForesight implements Foresight
{
    public function __construct(private readonly MeshStore $store, private readonly RimsOfMesh $rimsOf)
    {
    }

    public function foresee(Step $step, Collection $pieces, bool $tried): array|Question
    {
        if ($step instanceof CopiesStep) {
            ['through' => $through, 'axis' => $axis] = $step->copies();

            return HowWide::of($pieces, $through, $axis);
        }
        if (! $step instanceof MirrorStep) {
            throw new BadRecipe('There is no mirror to show; set it first.');
        }
        $settings = $step->settings();
        $refusal = null;
        $crosses = false;
        $apart = INF;
        $gap = $weld = 0.0;
        $rims = $seamed = 0;
        $kink = $mean = 0.0;
        $unjoined = [];
        foreach ($pieces as $piece) {
            foreach ($settings->planes as $n => $plane) {
                [$low, $high] = $this->store->along($piece->mesh, $plane);
                $low -= $plane->offset;
                $high -= $plane->offset;
                if ($n === 0) {
                    $crosses = $crosses || ($low < -$settings->catch - 1e-9 && $high > $settings->catch + 1e-9);
                    $apart = min($apart, 2 * max(0.0, $low, -$high));
                }
                if (Mirror::isLost($low, $high, $settings)) {
                    $refusal ??= sprintf('Nothing of %s is on the kept side: it lies from %.1f to %.1f mm ahead of the plane. Keep the other side, or move the plane.', $piece->title ?? Names::title($piece->name), $low, $high);
                }
                if (! $piece->mesh->watertight) {
                    $seam = SeamGap::ofRims($this->rimsOf->of($piece->mesh), $piece->mesh->diagonal(), $plane);
                    $gap = max($gap, $seam->largest);
                    $weld = max($weld, $seam->weld());
                    $rims += $seam->rims;
                    array_push($unjoined, ...$seam->unjoined($settings->catch));
                }
                // The whole is mirrored on whichever side it is.
                if ($settings->gives === Gives::One && ($settings->cuts || $low >= -$settings->catch || $high <= $settings->catch)) {
                    $seam = SeamForecast::of($this->store->touching($piece->mesh, $plane, $settings->catch), $plane, $settings->cuts ? $settings->keepsAhead : $high > -$low, $settings->catch);
                    $seamed += $seam->edges;
                    $kink = max($kink, $seam->kink);
                    $mean = max($mean, $seam->meanKink);
                }
            }
        }

        return [
            'refusal' => $refusal, 'crosses' => $crosses, 'apart' => is_finite($apart) ? $apart : 0.0, 'rims' => $rims, 'gap' => $gap, 'weld' => $weld,
            'kink' => $seamed > 0 ? $kink : null, 'mean_kink' => $seamed > 0 ? $mean : null, 'unjoined' => $unjoined, 'span' => null,
        ];
    }
}
