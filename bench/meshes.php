<?php

declare(strict_types=1);

// Writes the meshes that are measured: tori of 100,000 and 1,000,000 triangles.

use Isotome\Format\StlWriter;
use Tests\Support\Solids;

require __DIR__.'/../vendor/autoload.php';

StlWriter::write(Solids::torus(50, 20, 250, 200), "$argv[1]/100k.stl");
StlWriter::write(Solids::torus(50, 20, 1000, 500), "$argv[1]/1m.stl");
