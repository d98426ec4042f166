<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\RunResource;
use App\Models\Run;

final class RunController
{
    public function show(Run $run): RunResource
    {
        return RunResource::make($run);
    }

    /** The work stops at the next place where it reports, or at once when nobody is at it; nothing of it is kept. */
    public function cancel(Run $run): RunResource
    {
        $run->cancel();

        return RunResource::make($run);
    }
}
