<?php

declare(strict_types=1);

namespace App\Answers;

use App\Models\Piece;
use App\Models\Printer;
use App\Plates\Layout;
use Closure;
use Illuminate\Support\Collection;
use Isotome\Plate\Crowding;

/** Which pieces on plates overlap, are nearer to each other than the spacing, or reach beyond the bed. */
final readonly class HowCrowded extends AboutLayout
{
    /** Triangles up to which it is answered while a piece is being dragged. */
    private const SHORT = 150_000;

    /** @param  Collection<int, Piece>  $living  with their meshes */
    public static function of(Layout $layout, Collection $living, Printer $printer, float $margin, float $spacing): self
    {
        return new self([...self::about($layout, $printer, $margin, $spacing), 'triangles' => self::triangles($layout, $living)]);
    }

    public function doing(): string
    {
        return 'looking for pieces that overlap';
    }

    public function isShort(): bool
    {
        return $this->content['triangles'] <= self::SHORT;
    }

    public function answer(Closure $progress, string $path): ?string
    {
        $profile = $this->profile();
        $meshes = $this->load();
        $told = [];
        foreach ($this->content['plates'] as $n => $plate) {
            $progress($n / count($this->content['plates']));
            $crowding = Crowding::of(array_map(static fn (array $one): array => [$meshes[$one['mesh']], $one['pose']], $plate['pieces']), $profile->space, $profile->margin, $profile->spacing);
            $told[] = [
                'near' => array_map(static fn (array $one): array => ['pieces' => [$one[0], $one[1]], 'mm' => $one[2], 'at' => $one[3]], $crowding->near),
                'beyond' => array_map(static fn (array $one): array => ['piece' => $one[0], 'mm' => $one[1]], $crowding->beyond),
                'boxes' => $crowding->boxes,
            ];
        }
        file_put_contents($path, json_encode(['plates' => $told], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));

        return null;
    }
}
