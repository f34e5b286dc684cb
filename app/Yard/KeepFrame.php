<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Bake;
use App\Models\Shot;
use App\Storage\AssetStore;
use YardBreak\Core\Problem;

/** Keeps a prop as it is at a frame of a bake: as a prop of its own, of the same pieces and materials. */
final class KeepFrame
{
    public function __construct(private readonly BakedShot $baked, private readonly AssetStore $assets)
    {
    }

    /**
     * @return list<array{op: string, path: string, value: mixed}> JSON Patch that adds it
     *
     * @throws Problem where that frame is not baked, or the prop was not part of it
     */
    public function patch(Shot $shot, ?Bake $bake, string $id, int $frame): array
    {
        if ($bake?->hasFrame($frame) !== true) {
            throw Problem::inValue('frame', 'Frame '.$frame.' is not baked, so nothing of it can be kept.', 'Bake the shot, and go to a frame that is there.');
        }
        $writer = $this->baked->writer($bake, $bake->frames_done, false);
        $number = $writer->shot->indexOf($id);
        $document = $shot->decoded();
        $own = $document->props[DocumentProps::number($document, $id) ?? -1] ?? null;
        if ($number === null || $own === null) {
            throw Problem::inValue('prop', 'This prop was not there when the shot was baked.', 'Bake again.');
        }
        $part = AssetStore::incoming();
        $pieces = $writer->kept($number, $frame - $bake->first, $part);
        $name = FreeName::among(array_map(static fn (object $p): string => mb_strtolower($p->name), $document->props), mb_substr($own->name, 0, 48).' at '.$frame);
        $file = $id.'-'.$frame.'.obj';
        $asset = $this->assets->keep([$part, (string) hash_file('sha256', $part), (int) filesize($part)], $file);
        $place = $writer->shot->props[$number]->place->at((float) $frame)->position->toArray();
        $made = [
            'id' => FreeName::among(array_map(static fn (object $p): string => $p->id, $document->props), mb_substr($id, 0, 30).'-'.abs($frame)),
            'name' => $name,
            'source' => ['kind' => 'mesh', 'asset' => $asset->hash, 'file' => $file, 'up' => 'y', 'unit' => 'm', 'kept' => true] + (isset($own->source->crease) ? ['crease' => $own->source->crease] : []),
            'place' => ['position' => $place, 'turn' => [0, 0, 0], 'size' => 1],
            'material' => $own->material,
            'break' => $pieces > 1 ? ['pattern' => 'parts', 'values' => (object) []] : null,
            'motion' => ['kind' => 'fixed'],
        ];
        if (isset($own->finish)) {
            $made['finish'] = $own->finish;
        }

        return [['op' => 'add', 'path' => '/props/-', 'value' => $made]];
    }
}
