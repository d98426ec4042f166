<?php

declare(strict_types=1);

namespace Tests\Support;

use Isotome\Check\Crossings;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Chance;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use Isotome\Solid\Locally;
use Isotome\Solid\Partition;
use Isotome\Solid\Survey;

/** Pairs of bodies in general and in unlucky position, and what must hold of uniting and subtracting them. */
final class SolidPairs
{
    private readonly Chance $chance;

    public function __construct(int $seed)
    {
        $this->chance = new Chance($seed);
    }

    /** @return array{Mesh, Mesh} */
    public function next(): array
    {
        $one = $this->body();

        // Now and then a body and itself, or itself moved by next to nothing.
        return match ($this->below(12)) {
            0 => [$one, $one],
            1 => [$one, Solids::moved($one, 0, 0, 0, 1.0, [1e-12, 0.0, -1e-12])],
            default => [$one, $this->body()],
        };
    }

    /** @return iterable<string, Mesh> the bodies that come of the next pairs */
    public function results(int $pairs): iterable
    {
        for ($n = 0; $n < $pairs; $n++) {
            [$one, $other] = $this->next();
            foreach (['united' => Combined::unite([$one, $other]), 'without' => Combined::subtract([$one, $other], 1), 'common' => Combined::common([$one, $other])] as $what => $bodies) {
                foreach ($bodies as $k => [$body]) {
                    yield "pair $n, $what, body $k" => $body;
                }
            }
        }
    }

    /** @return list<string> what does not hold */
    public static function faults(Mesh $one, Mesh $other): array
    {
        $rules = [
            'united' => static fn (array $w): bool => max($w) > 0, 'common' => static fn (array $w): bool => min($w) > 0, 'the first without the other' => static fn (array $w): bool => $w[0] > 0 && $w[1] <= 0,
        ];
        $volume = [];
        $faults = [];
        foreach ($rules as $name => $rule) {
            $mesh = Combined::solid([$one, $other], $rule);
            $volume[$name] = $mesh->isEmpty() ? 0.0 : Volume::measure($mesh)->volume;
            if (! $mesh->isEmpty() && (! EdgeCheck::of($mesh)->isWatertight() || $volume[$name] <= 0.0)) {
                $faults[] = "$name is no solid";
            }
            if (! $mesh->isEmpty() && Crossings::of(Places::joined($mesh))->pairs !== []) {
                $faults[] = "faces of $name cross";
            }
        }
        $alone = static fn (Mesh $mesh): float => Volume::measure(Combined::solid([$mesh], static fn (array $w): bool => $w[0] > 0))->volume;
        $all = $alone($one) + $alone($other);
        if (self::isSound($one) && self::isSound($other)) {
            array_push($faults, ...self::nearFaults($one, $other, $rules, $volume));
        }
        foreach ([
            'united and common are both together' => $volume['united'] + $volume['common'] - $all,
            'without and common are the first' => $volume['the first without the other'] + $volume['common'] - $alone($one),
            'the order does not matter' => $volume['united'] - self::volume(Combined::solid([$other, $one], $rules['united'])),
            'turning both by a quarter does not matter' => $volume['united'] - self::volume(Combined::solid([self::quarter($one), self::quarter($other)], $rules['united'])),
            'what the second divides fills the first' => self::divided($one, $other, $faults) - $alone($one),
        ] as $what => $error) {
            if (abs($error) > 1e-9 * $all) {
                $faults[] = "$what: wrong by $error of $all";
            }
        }

        return $faults;
    }

    private static function isSound(Mesh $mesh): bool
    {
        return EdgeCheck::of($mesh)->isWatertight() && Crossings::of(Places::joined($mesh))->pairs === [];
    }

    /**
     * The same by what is near alone, where that can be told.
     *
     * @param  array<string, callable(list<int>): bool>  $rules
     * @param  array<string, float>  $volume
     * @return list<string>
     */
    private static function nearFaults(Mesh $one, Mesh $other, array $rules, array $volume): array
    {
        $faults = [];
        foreach ($rules as $name => $rule) {
            $near = Locally::combined([$one, $other], $rule(...), null, null, Survey::near([$one, $other], null, 0, 1.0))?->solid;
            if ($near !== null && (abs(self::volume($near) - $volume[$name]) > 1e-9 * (1 + self::volume($one)) || (! $near->isEmpty() && ! self::isSound($near)))) {
                $faults[] = "$name by what is near is something else";
            }
        }
        $parts = Partition::near($one, [$other], 1, null, 0, 1.0)?->bodies;
        if ($parts !== null && (abs(array_sum(array_map(self::volume(...), $parts)) - self::volume($one)) > 1e-9 * self::volume($one) || array_filter($parts, self::isSound(...)) !== $parts)) {
            $faults[] = 'divided by what is near it is something else';
        }

        return $faults;
    }

    /** About X, exactly. */
    private static function quarter(Mesh $mesh): Mesh
    {
        return Mesh::of(Affine::points($mesh->xyz, [1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, -1.0, 0.0, 0.0, 0.0, 0.0]), $mesh->corners);
    }

    /**
     * @param  list<string>  $faults  what does not hold of the parts is added to it
     * @return float volume of all parts
     */
    private static function divided(Mesh $one, Mesh $other, array &$faults): float
    {
        $parts = Partition::by($one, [$other], 1)->bodies;
        if (count($parts) < 2) {
            return self::volume(Combined::solid($parts, static fn (array $w): bool => $w[0] > 0));
        }
        $volume = 0.0;
        foreach ($parts as $part) {
            $own = self::volume($part);
            $volume += $own;
            if ($own <= 0.0 || ! EdgeCheck::of($part)->isWatertight()) {
                $faults[] = 'a part is no solid';
            }
            if (Crossings::of(Places::joined($part))->pairs !== []) {
                $faults[] = 'faces of a part cross';
            }
        }

        return $volume;
    }

    private static function volume(Mesh $mesh): float
    {
        return $mesh->isEmpty() ? 0.0 : Volume::measure($mesh)->volume;
    }

    private function below(int $count): int
    {
        return (int) ($count * $this->chance->uniform());
    }

    private function body(): Mesh
    {
        $pattern = 2 + $this->below(3);
        $mesh = match ($this->below(7)) {
            0 => Solids::box(2.0 + $this->below(4), 3.0, 4.0),
            1 => Solids::sphere(3, 1),
            2 => Solids::torus(4, 1.5, 10, 6),
            3 => Solids::cone(3, 5, 7),
            4 => Solids::cells(3, 3, 2, static fn (int $x, int $y, int $z): bool => ($x + 2 * $y + 3 * $z) % $pattern !== 0),
            5 => Solids::nest(2),
            default => Solids::prism([[0.0, 0.0], [4.0, 0.0], [4.0, 3.0], [2.0, 1.0], [0.0, 3.0]], 3.0),
        };
        $free = fn (): float => 6 * $this->chance->uniform();

        return match ($this->below(4)) {
            // On a grid.
            0 => Solids::moved($mesh, 0, 0, 0, 1.0, [$this->below(5) - 2.0, $this->below(5) - 2.0, $this->below(3) - 1.0]),
            // Turned by quarters, as sines and cosines have it: nearly flush.
            1 => Solids::moved($mesh, $this->below(4) * M_PI / 2, $this->below(4) * M_PI / 2, $this->below(4) * M_PI / 2, 1.0, [$this->below(5) / 2, 0.0, $this->below(5) / 2]),
            2 => Solids::moved($mesh, 0, 0, 0, 1.0, [1e-12 * $free(), 1e-12, 0.0]),
            default => Solids::moved($mesh, $free(), $free(), $free(), 1.0, [$free() / 3, $free() / 3, $free() / 3]),
        };
    }
}
