<?php

declare(strict_types=1);

// A shot in which everything that can have keys has them, made from the catalogues alone, with the paths at which the core finds keys: for the page's own tests.

use YardBreak\Core\Drift\DriftCatalogue;
use YardBreak\Core\Force\ForceCatalogue;
use YardBreak\Core\Motion\Push\PushCatalogue;
use YardBreak\Core\Shot\MoverCatalogue;
use YardBreak\Core\Shot\Settings;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Weight\WeightCatalogue;

require __DIR__.'/../vendor/autoload.php';

$catalogue = ['settings' => Settings::describe(), 'weights' => WeightCatalogue::sources(), 'inTime' => WeightCatalogue::steps(), 'pushes' => PushCatalogue::describe(), 'drifts' => DriftCatalogue::describe(), 'forces' => ForceCatalogue::describe(), 'movers' => (new MoverCatalogue)->describe()];
$keyed = static function (array $options): array {
    $out = [];
    foreach ($options as $o) {
        if (! $o['keyable']) {
            continue;
        }
        $key = static fn (mixed $v): array => ['keys' => [['frame' => 0, 'value' => $v ?? $o['least']], ['frame' => 9, 'value' => $v ?? $o['least']]]];
        $out[$o['name']] = is_array($o['default']) ? array_map($key, $o['default']) : $key($o['default']);
    }

    return $out;
};
$all = static fn (array $entries, string $name, array $with = []): array => array_map(static fn (string $of, array $entry): array => [$name => $of, 'values' => (object) $keyed($entry['options'])] + $with, array_keys($entries), array_values($entries));
$amount = ['keys' => [['frame' => 0, 'value' => 1], ['frame' => 9, 'value' => 1]]];
$document = json_decode(Documents::json(static function (array $d) use ($catalogue, $keyed, $all, $amount): array {
    $s = $catalogue['settings'];
    $d['version'] = ShotSpec::VERSION;
    $d['world'] = $keyed($s['world']) + ['ground' => ['kind' => 'flat']];
    $d['camera'] = $keyed($s['camera']) + ['shape' => [1920, 1080]];
    $d['plate'] = $keyed($s['plate']) + ['name' => 'Plate', 'width' => 1920, 'height' => 1080, 'frames' => [['frame' => 0, 'asset' => str_repeat('a', 64)]]];
    $d['forces'] = array_map(static fn (string $kind, array $entry): array => ['id' => $kind, 'name' => $entry['label'], 'kind' => $kind, 'values' => (object) $keyed($entry['options'])] + $keyed($s['force']), array_keys($catalogue['forces']), array_values($catalogue['forces']));
    $prop = $d['props'][0];
    $maps = [
        // What takes over another map takes over the second.
        ['id' => 'one', 'name' => 'One', 'sources' => array_map(static fn (array $source): array => $source['source'] === 'map' ? ['values' => ['map' => 'two']] + $source : $source, $all($catalogue['weights'], 'source', ['amount' => $amount])), 'inTime' => $all($catalogue['inTime'], 'step')],
        ['id' => 'two', 'name' => 'Two', 'sources' => []],
    ];
    $own = ['place' => $keyed($s['place']), 'material' => $keyed($s['material']) + $prop['material'], 'relief' => $keyed($s['relief']) + ['map' => 'one'], 'weights' => $maps];
    $d['props'][0] = $own + ['motion' => ['kind' => 'free', 'values' => (object) $keyed($catalogue['movers']['free']['options']), 'release' => ['on' => 'frame', 'frame' => 0], 'pushes' => $all($catalogue['pushes'], 'push')]] + $prop;
    $d['props'][1] = ['id' => 'other', 'name' => 'Other', 'weights' => [['id' => 'three', 'name' => 'Three', 'sources' => []]], 'motion' => ['kind' => 'drift', 'drift' => ['map' => 'three', 'moves' => array_map(static fn (array $move): array => $move['move'] === 'path' ? ['values' => ['kind' => 'helix'] + (array) $move['values']] + $move : $move, $all($catalogue['drifts'], 'move'))]]] + $prop;

    return $d;
}));
echo json_encode(['document' => $document, 'catalogue' => $catalogue, 'keyed' => array_column(ShotSpec::fromObject($document)->valuesInTime(), 0)]);
