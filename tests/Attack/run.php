<?php

declare(strict_types=1);

use Illuminate\Contracts\Http\Kernel;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;
use Tests\Attack\Attack;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\Bake\Truths;

require __DIR__.'/../../vendor/autoload.php';

$given = getopt('', ['count::', 'seed::', 'only::']);
$only = (string) ($given['only'] ?? '');
[$count, $seed] = [(int) ($given['count'] ?? 10000), (int) ($given['seed'] ?? 1)];
$folder = sys_get_temp_dir().'/yard-attack-'.bin2hex(random_bytes(5));
mkdir($folder);
register_shutdown_function(static fn () => exec('rm -rf '.escapeshellarg($folder)));
$app = Attack::yard($folder);
$send = static function (string $method, string $path, array $headers, string $body) use ($app): Response {
    $kernel = $app->make(Kernel::class);
    $request = Request::create('/api/'.$path, $method, [], [], [], Attack::HEADERS + $headers, $body);
    $response = $kernel->handle($request);
    $kernel->terminate($request, $response);

    return $response;
};
$attack = new Attack($send, $folder);
$said = static fn (Response $response): mixed => json_decode((string) $response->getContent());
$shot = $said($send('POST', 'shots', [], '{}'))->id;
foreach (glob(__DIR__.'/../../resources/demo/*.json') ?: [] as $k => $demo) {
    // Every kind of prop, break and motion there is gets its share of the damage.
    foreach (json_decode((string) file_get_contents($demo))->props as $prop) {
        $prop->id .= $k;
        $prop->name .= ' '.$k;
        $prop->source = $prop->source->kind === 'mesh' ? (object) ['kind' => 'shape', 'shape' => array_key_first(ShapeCatalogue::SHAPES), 'values' => new stdClass] : $prop->source;
        $send('POST', "shots/$shot/edits", [], (string) json_encode(['revision' => $said($send('GET', "shots/$shot", [], ''))->revision, 'label' => 'x', 'patch' => [['op' => 'add', 'path' => '/props/-', 'value' => $prop]]]));
    }
}
$rows = [];
foreach (array_keys(Attack::files()) as $kind) {
    if ($only !== '' && ! str_contains($kind, $only)) {
        continue;
    }
    $rows[$kind] = $attack->uploads($kind, $count, $seed);
    fwrite(STDERR, $kind."\n");
}
if ($only === '' || str_contains('changes and other requests', $only)) {
    $rows['changes and other requests'] = $attack->edits($count, $seed, $shot, $said($send('GET', "shots/$shot", [], ''))->document);
}
$faults = 0;
echo $rows === [] ? '' : "| damaged | sent | taken | refused in words | faults | slowest, s | most memory, MB |\n|---|---|---|---|---|---|---|\n";
foreach ($rows as $kind => $row) {
    printf("| %s | %s | %s | %s | %d | %.2f | %.0f |\n", $kind, number_format($row['sent']), number_format($row['taken']), number_format($row['refused']), count($row['faults']), $row['slowest'], $row['megabytes']);
    $faults += count($row['faults']);
    foreach (array_slice($row['faults'], 0, 5) as $fault) {
        fwrite(STDERR, mb_substr($fault, 0, 700)."\n");
    }
}
// What needs servers, workers and disks of its own is a test each; here they are told as what was thrown.
$sieges = [
    'doors' => ['every address in every spelling, parallel guesses, torn doors', ['SpellingTest']],
    'stores' => ['index, blocks, figures, states, pieces and files deleted, cut, zeroed, turned; stopped and running', ['DamageTest']],
    'films' => ['lists of other files, endless, too large, called off, their worker killed', ['PlateTest']],
    'disk' => ['a small disk that fills', ['FullDiskTest']],
    'kills' => ['front, back, workers, keepers and the start itself killed outright', ['StartTest', 'JobsTest']],
];
echo $only === 'history' ? '' : "\n| thrown | tests | what was looked at | faults | s |\n|---|---|---|---|---|\n";
foreach ($sieges as $name => [$what, $tests]) {
    if ($only !== '' && $only !== $name) {
        continue;
    }
    $log = $folder.'/'.$name.'.xml';
    $from = microtime(true);
    exec(escapeshellarg(PHP_BINARY).' vendor/bin/phpunit --log-junit '.escapeshellarg($log).' --filter '.escapeshellarg('/'.implode('|', $tests).'/').' --testsuite feature 2>&1', $said, $code);
    $all = is_file($log) ? simplexml_load_file($log) : false;
    $suite = $all === false ? null : $all->testsuite;
    $bad = $suite === null ? 1 : (int) $suite['failures'] + (int) $suite['errors'];
    printf("| %s: %s | %d | %s | %d%s | %.0f |\n", $name, $what, (int) ($suite['tests'] ?? 0), number_format((int) ($suite['assertions'] ?? 0)), $bad, (int) ($suite['skipped'] ?? 0) > 0 ? ' ('.$suite['skipped'].' could not be done here)' : '', microtime(true) - $from);
    $faults += max($bad, $code === 0 ? 0 : 1);
    if ($bad > 0) {
        fwrite(STDERR, implode("\n", array_slice($said, -40))."\n");
    }
    $said = [];
}
if ($only === '' || $only === 'history') {
    // Each takes seconds: by itself as many as are asked for, else a handful.
    $tried = $bad = $refused = 0;
    $from = microtime(true);
    for ($k = $seed; $k < $seed + ($only === '' ? 20 : $count); $k++) {
        try {
            $said = Truths::broken($k);
            $tried++;
            if ($said !== null) {
                $bad++;
                fwrite(STDERR, "seed $k: $said\n");
            }
        } catch (Problem) {
            $refused++;
        }
    }
    printf("\n| thrown | tried | no shots | not what a whole bake gives | s |\n|---|---|---|---|---|\n| history: shots and changes made at random, seeds %d to %d | %d | %d | %d | %.0f |\n", $seed, $k - 1, $tried, $refused, $bad, microtime(true) - $from);
    $faults += $bad;
}
exit($faults > 0 ? 1 : 0);
