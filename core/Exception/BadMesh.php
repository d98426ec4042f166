<?php

declare(strict_types=1);

namespace Isotome\Exception;

/** Mesh data that cannot be worked on: lists of the wrong length, corners that name no vertex. */
final class BadMesh extends Refusal
{
}
