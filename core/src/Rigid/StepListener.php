<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/** What wants a say between the contact searches of a step: keyed bodies are driven, held ones released. */
interface StepListener
{
    /**
     * Before contacts are looked for.
     *
     * @param  float  $done  share of the step that has passed, 0…1
     * @param  float  $ahead  share of the step until the next search
     * @param  float  $seconds  the same in seconds
     */
    public function beforeSearch(float $done, float $ahead, float $seconds): void;

    /**
     * After all moved on by what was found; what pushed what is known.
     *
     * @param  float  $seconds  that passed
     */
    public function afterSpan(float $seconds): void;

    /** After they were found; true where bodies were let go and contacts must be found anew. */
    public function afterSearch(float $done): bool;
}
