<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Isotome\Exception\BadMesh;
use Isotome\Geometry\Affine;

/** What a mesh carries besides its shape: a material for every triangle; texture coordinates, colours and normals at every corner. */
final readonly class Skin
{
    /** Red, green, blue and alpha, linear, 0 to 1. */
    public const COLOUR = 'colour';

    /** Of length 1, or 0 where there is none. */
    public const NORMAL = 'normal';

    /** Followed by the number of the set: across and down, as glTF counts them. */
    public const TEXTURE = 'uv';

    /**
     * @param  string  $materials  a 32-bit number a triangle: the number of its material, counted from 1; 0 for none
     * @param  array<string, Layer>  $layers
     */
    public function __construct(public Looks $looks, public string $materials, public array $layers)
    {
    }

    /** @return int the material of a triangle, counted from 0; −1 for none */
    public function materialOf(int $triangle): int
    {
        /** @var array{1: int} $number */
        $number = unpack('V', $this->materials, 4 * $triangle);

        return $number[1] - 1;
    }

    /** @return list<string> what there is, as a person would name it */
    public function words(): array
    {
        $words = [];
        if (trim($this->materials, "\0") !== '') {
            $words[] = 'materials';
        }
        if ($this->looks->pictures !== []) {
            $words[] = 'pictures';
        }
        foreach ($this->layers as $name => $_) {
            $words[] = match ($name) {
                self::COLOUR => 'colours',
                self::NORMAL => 'normals',
                default => 'texture coordinates',
            };
        }

        return array_values(array_unique($words));
    }

    /**
     * The same on a mesh that was moved: normals turn with it.
     *
     * @param  list<float>  $map  12 numbers, see Affine
     */
    public function moved(array $map): self
    {
        $normals = $this->layers[self::NORMAL] ?? null;
        if ($normals === null || $normals->bytes === '') {
            return $this;
        }
        /** @var array<int, float> $numbers */
        $numbers = unpack('e*', $normals->bytes);
        $values = Affine::normals(array_values($numbers), $map);
        for ($i = 0, $count = count($values); $i < $count; $i += 3) {
            $length = sqrt($values[$i] ** 2 + $values[$i + 1] ** 2 + $values[$i + 2] ** 2);
            for ($k = $i; $k < $i + 3; $k++) {
                $values[$k] = $length > 0.0 ? $values[$k] / $length : 0.0;
            }
        }

        return new self($this->looks, $this->materials, [...$this->layers, self::NORMAL => Layer::of(3, array_values($values))]);
    }

    public function triangles(): int
    {
        return intdiv(strlen($this->materials), 4);
    }

    /**
     * Some of its triangles, in another order.
     *
     * @param  list<int>  $triangles
     */
    public function pick(array $triangles): self
    {
        $materials = '';
        $picked = array_fill_keys(array_keys($this->layers), '');
        $count = count($triangles);
        for ($n = 0; $n < $count; $n += $run) {
            // Neighbours are copied at once.
            $first = $triangles[$n];
            for ($run = 1; $n + $run < $count && $triangles[$n + $run] === $first + $run; $run++);
            $materials .= substr($this->materials, 4 * $first, 4 * $run);
            foreach ($this->layers as $name => $layer) {
                $picked[$name] .= substr($layer->bytes, $layer->stride() * $first, $layer->stride() * $run);
            }
        }
        $layers = [];
        foreach ($this->layers as $name => $layer) {
            $layers[$name] = new Layer($layer->width, $picked[$name]);
        }

        return new self($this->looks, $materials, $layers);
    }

    /** @throws BadMesh when it is not for so many triangles */
    public function fits(int $triangles): self
    {
        foreach ($this->layers as $name => $layer) {
            if (strlen($layer->bytes) !== $layer->stride() * $triangles) {
                throw new BadMesh("The mesh carries $name for another number of triangles than its $triangles; give three corners for each.");
            }
        }
        if (strlen($this->materials) !== 4 * $triangles) {
            throw new BadMesh("The mesh carries materials for another number of triangles than its $triangles; give one for each.");
        }

        return $this;
    }
}
