<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Step;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/**
 * A step of the lineage. Long lists and texts of its settings (faces, points, pictures) are only begun, and it is told how long they are; they are fetched
 * whole when the step is edited.
 *
 * @mixin Step
 */
final class StepResource extends JsonResource
{
    /** Elements up to which a list is sent. */
    private const MOST = 40;

    /** Bytes up to which a text is sent. */
    private const LONGEST = 2000;

    private const BEGINNING = 30;

    public bool $isWhole = false;

    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $long = [];

        return [
            'id' => $this->id, 'number' => $this->number, 'settings' => $this->isWhole ? $this->settings : self::begun($this->settings, '', $long), 'long' => (object) $long, 'report' => $this->report,
        ];
    }

    /**
     * @param  array<mixed>  $settings
     * @param  array<string, int>  $long  length of each list or text that is only begun, by its place in the settings
     * @return array<mixed>
     */
    private static function begun(array $settings, string $at, array &$long): array
    {
        if (array_is_list($settings) && count($settings) > self::MOST) {
            $long[$at] = count($settings);
            $settings = array_slice($settings, 0, self::MOST);
        }
        foreach ($settings as $key => $value) {
            $place = $at === '' ? (string) $key : "$at.$key";
            if (is_array($value)) {
                $settings[$key] = self::begun($value, $place, $long);
            } elseif (is_string($value) && strlen($value) > self::LONGEST) {
                $long[$place] = strlen($value);
                $settings[$key] = mb_substr($value, 0, self::BEGINNING);
            }
        }

        return $settings;
    }
}
