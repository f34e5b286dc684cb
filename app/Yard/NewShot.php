<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Shot;
use App\Storage\YardFiles;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotSpec;

/** Where shots come from: blank, a copy, the demo yard, or a document. */
final class NewShot
{
    public const DEMO = ['terracotta-jar', 'glass-pane', 'garden-stack', 'name-board', 'fern-plaque', 'roof-and-branch', 'name-board-assembling', 'cold-frame-wall', 'sundial', 'trellis', 'bell-jar', 'chimney-stack', 'seed-head', 'tarpaulin', 'gourd', 'cushions'];

    public function blank(): Shot
    {
        return $this->keep((object) [
            'version' => ShotSpec::VERSION, 'name' => $this->freeName('New shot'),
            'frames' => (object) ['first' => 0, 'last' => 96, 'rate' => [24, 1]],
            'quality' => 'normal',
            'world' => (object) ['gravity' => [0, -9.80665, 0], 'ground' => (object) ['kind' => 'flat'], 'friction' => 0.6, 'bounce' => 0.05],
            'props' => [],
        ]);
    }

    public function copyOf(Shot $shot): Shot
    {
        $document = $shot->decoded();
        $document->name = $this->freeName($document->name);

        $copy = $this->keep($document);
        $copy->update(['folder' => $shot->folder]);

        return $copy;
    }

    public function demo(string $name): Shot
    {
        if (! in_array($name, self::DEMO, true)) {
            throw Problem::inValue('demo', 'There is no demo shot of that name.');
        }
        $document = json_decode((string) file_get_contents(resource_path('demo/'.$name.'.json')));
        $document->name = $this->freeName($document->name);
        $shot = $this->keep($document);
        // Its card shows it until the browser has drawn it as it is here.
        $picture = @file_get_contents(resource_path('demo/pictures/'.$name.'.png'));
        if ($picture !== false) {
            YardFiles::write('pictures/'.$shot->id.'.png', $picture);
        }

        return $shot;
    }

    public function keep(\stdClass $document): Shot
    {
        ShotSpec::fromObject($document);

        return Shot::query()->create([
            'name' => $document->name,
            'document' => json_encode($document, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE),
            'revision' => 0,
        ]);
    }

    public function freeName(string $wanted): string
    {
        $taken = Shot::query()->pluck('name')->all();
        $base = (string) preg_replace('/ \d+$/', '', $wanted);
        for ($name = $wanted, $n = 2; in_array($name, $taken, true); $n++) {
            $name = mb_substr($base, 0, 110).' '.$n;
        }

        return $name;
    }
}
