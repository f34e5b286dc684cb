<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Yard\Materials;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Drift\DriftCatalogue;
use YardBreak\Core\Dust\Chip\ChipShapes;
use YardBreak\Core\Dust\DustCatalogue;
use YardBreak\Core\Force\ForceCatalogue;
use YardBreak\Core\Motion\Push\PushCatalogue;
use YardBreak\Core\Option;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Shape\Scatter;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\GroundCatalogue;
use YardBreak\Core\Shot\MoverCatalogue;
use YardBreak\Core\Shot\Settings;
use YardBreak\Core\Timing\Ease;
use YardBreak\Core\Timing\Rate;
use YardBreak\Core\Weight\WeightCatalogue;

/** What can be built, how it can be prepared, weighed and broken, and of what it can be made. */
final class CatalogueController
{
    public function __invoke(): JsonResponse
    {
        return response()->json(['shapes' => ShapeCatalogue::describe(), 'steps' => PrepareCatalogue::describe(), 'patterns' => BreakCatalogue::describe(), 'weights' => WeightCatalogue::sources(), 'inTime' => WeightCatalogue::steps(), 'pushes' => PushCatalogue::describe(), 'forces' => ForceCatalogue::describe(), 'dust' => DustCatalogue::describe(), 'chips' => ChipShapes::describe(), 'drifts' => DriftCatalogue::describe(), 'movers' => (new MoverCatalogue)->describe(), 'grounds' => GroundCatalogue::describe(), 'scatter' => array_map(static fn (Option $o): array => $o->toArray(), Scatter::options()), 'settings' => Settings::describe(), 'eases' => Ease::describe(), 'rates' => Rate::COMMON, 'materials' => Materials::all()]);
    }
}
