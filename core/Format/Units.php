<?php

declare(strict_types=1);

namespace Isotome\Format;

/** Units of length that a file without any may be in; inside Isotome everything is millimetres. */
enum Units: string
{
    case Millimetres = 'mm';
    case Centimetres = 'cm';
    case Metres = 'm';
    case Inches = 'in';

    /** Millimetres in one of this unit; the inch is exactly 25.4 mm (international yard and pound agreement, 1959). */
    public function millimetres(): float
    {
        return match ($this) {
            self::Millimetres => 1.0,
            self::Centimetres => 10.0,
            self::Metres => 1000.0,
            self::Inches => 25.4,
        };
    }
}
