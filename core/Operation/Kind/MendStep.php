<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Closure;
use Isotome\Mend\Mend;
use Isotome\Mesh\Mesh;
use Isotome\Schema\Schema;

/** The whole mend (Isotome\Mend\Mend). */
final class MendStep extends MendingStep
{
    public static function form(): array
    {
        return ['do' => ['mend'], 'only' => false];
    }

    public static function schema(): array
    {
        return ['title' => 'The whole mend', ...Schema::object(['do' => Schema::word('mend'), 'of' => Schema::names()], ['do'])];
    }

    public function on(Mesh $mesh, int $tag, ?Closure $progress = null): array
    {
        $mend = Mend::of($mesh, $tag, $progress);

        return ['mesh' => $mend->changed ? $mend->mesh : $mesh, 'did' => $mend->did];
    }

    public function nothing(): string
    {
        return 'There was nothing to mend; the pieces are as they were.';
    }
}
