<?php

declare(strict_types=1);

namespace App\Models;

use App\Storage\FrameStore;
use App\Storage\YardFiles;
use App\Yard\Foresight;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Trial\Outcome;

/**
 * @property string $id
 * @property string $shot_id
 * @property-read Shot $shot
 * @property string $document the shot as it was when the bake began
 * @property bool $own whether it was asked for as the bake of its shot; others are of variants
 * @property string $fingerprint of its last frame, and so of all that leads there
 * @property list<int> $counts pieces of each prop that is not hidden
 * @property array<string, string> $shards what its pieces were made of, by prop
 * @property array<string, float> $anchored cues as it found them
 * @property int $kept frames taken over from an earlier bake
 * @property string $wanted_at when it was last asked for; of the bakes of a shot the latest counts
 * @property 'queued'|'running'|'done'|'cancelled'|'failed' $state
 * @property int $attempt raised by every worker that takes the bake up
 * @property int $first
 * @property int $last
 * @property int $frames_done
 * @property int $pieces
 * @property float $seconds
 * @property array<string, mixed>|null $outcome what came of it, once that was asked for
 * @property int|null $telling the frame that shows best what happens, once all are there
 * @property string $note
 * @property string $mended what of it was damaged on the disk and computed again, in words
 * @property array<string, string>|null $problem
 * @property Carbon $updated_at
 * @property Carbon $created_at
 */
final class Bake extends Model
{
    use HasUlids;

    protected $guarded = [];

    /** @return array<string, string> */
    protected function casts(): array
    {
        return ['counts' => 'array', 'shards' => 'array', 'anchored' => 'array', 'problem' => 'array', 'outcome' => 'array', 'own' => 'boolean', 'seconds' => 'float'];
    }

    /** @return BelongsTo<Shot, $this> */
    public function shot(): BelongsTo
    {
        return $this->belongsTo(Shot::class);
    }

    /** @return HasMany<HandOff, $this> */
    public function handOffs(): HasMany
    {
        return $this->hasMany(HandOff::class);
    }

    public function spec(): ShotSpec
    {
        return ShotSpec::ofKept($this->document);
    }

    public function files(): FrameStore
    {
        return new FrameStore(YardFiles::folder('bakes/'.$this->id), $this->first);
    }

    /** What it depends on, with cues where it found them. */
    public function history(): History
    {
        return History::of(Foresight::known($this->spec()), $this->anchored);
    }

    /** @return array<array-key, float> cues it found within so many of its frames, by id */
    public function foundWithin(int $frames): array
    {
        return array_filter($this->anchored ?? [], fn (float $at): bool => $at < $this->first + $frames);
    }

    public function hasFrame(int $frame): bool
    {
        return $frame >= $this->first && $frame < $this->first + $this->frames_done;
    }

    /** @throws Problem where that frame is not there */
    public function requireFrame(int $frame): void
    {
        if (! $this->hasFrame($frame)) {
            throw Problem::inValue('frame', 'Frame '.$frame.' is not baked.', 'Choose one from '.$this->first.' to '.($this->first + max(0, $this->frames_done - 1)).'.');
        }
    }

    /** What came of it; null until it is done. */
    public function outcome(): ?Outcome
    {
        if ($this->state !== 'done') {
            return null;
        }
        if ($this->outcome === null) {
            $files = $this->files();
            $figures = $files->figures();
            if ($figures === []) {
                return null;
            }
            $found = Outcome::of($figures, $files->streams(0), $files->streams($this->frames_done - 1), $this->seconds, $this->pieces);
            // It is no change of it.
            self::withoutTimestamps(fn () => $this->update(['outcome' => $found->toArray()]));

            return $found;
        }

        return Outcome::fromArray($this->outcome);
    }

    /**
     * Calls off what of some bakes is under way: their jobs end where they look next.
     *
     * @param  Builder<self>|HasMany<self, Shot>  $bakes
     */
    public static function callOff(Builder|HasMany $bakes): void
    {
        $bakes->whereIn('state', ['queued', 'running'])->update(['state' => 'cancelled', 'note' => '']);
    }

    public function isOpen(): bool
    {
        return $this->state === 'queued' || $this->state === 'running';
    }
}
