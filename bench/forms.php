<?php

declare(strict_types=1);

// Writes the bodies of bench/forms.

use Isotome\Format\StlWriter;

require __DIR__.'/bodies.php';

StlWriter::write(ball(), "$argv[1]/ball.stl");
StlWriter::write(gyroid(), "$argv[1]/gyroid.stl");
StlWriter::write(knot(), "$argv[1]/knot.stl");
