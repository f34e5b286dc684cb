<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Shot;
use Illuminate\Http\JsonResponse;

/** Another window has changed the shot since this one read it. */
final class Conflict extends \RuntimeException
{
    public function __construct(private readonly Shot $shot)
    {
        parent::__construct('The shot was changed elsewhere.');
    }

    /** It is no error: whoever sent the change is told. */
    public function report(): void
    {
    }

    public function render(): JsonResponse
    {
        return response()->json(['problem' => [
            'kind' => 'conflict', 'message' => 'This shot was changed in another window meanwhile.', 'path' => '',
            'remedy' => 'The newer state is shown now; your change can be put on top of it.', 'place' => null,
        ], 'shot' => ShotView::of($this->shot)], 409);
    }
}
