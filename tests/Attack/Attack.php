<?php

declare(strict_types=1);

namespace Tests\Attack;

use App\Http\Door;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Foundation\Application;
use Symfony\Component\HttpFoundation\Response;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Shape\ShapeCatalogue;

/**
 * Damaged files and hostile changes sent to the application, in numbers: none may end in an error of its own, warn,
 * take long, or leave anything behind when it is refused.
 */
final class Attack
{
    /** As a page of Yard Break sends. */
    public const HEADERS = ['HTTP_X_YARD' => '1', 'HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/json'];

    /** Seconds and bytes that one may take. */
    private const SECONDS = 2.0;

    private const BYTES = 256e6;

    /** @var list<string> */
    private array $warnings = [];

    /** @param  \Closure(string, string, array<string, string>, string): Response  $send  method, path, headers, body */
    public function __construct(private readonly \Closure $send, private readonly string $folder)
    {
    }

    /** A yard of its own, in a folder that its maker takes away; no server is needed. */
    public static function yard(string $folder): Application
    {
        touch($folder.'/yard.sqlite');
        $app = require __DIR__.'/../../bootstrap/app.php';
        $app->make(Kernel::class)->bootstrap();
        config(['database.connections.sqlite.database' => $folder.'/yard.sqlite', 'filesystems.disks.local.root' => $folder.'/files', 'logging.channels.daily.path' => $folder.'/log', 'queue.default' => 'null', 'queue.connections.null' => ['driver' => 'null']]);
        $app->make(Kernel::class)->call('migrate', ['--force' => true]);
        mkdir($folder.'/files');
        Door::set($folder.'/files', [], '');

        return $app;
    }

    /** @return array<string, array{string, string}> name of a file that is good, and its bytes; by what it is */
    public static function files(): array
    {
        $folder = sys_get_temp_dir().'/yard-seeds-'.bin2hex(random_bytes(4));
        mkdir($folder);
        $ring = ShapeCatalogue::mesh('ring', ['segments' => 8, 'rows' => 5]);
        $written = static function (string $kind) use ($folder, $ring): string {
            MeshWriter::write($ring, "$folder/ring.$kind", $kind, 'ring');

            return (string) file_get_contents("$folder/ring.$kind");
        };
        $ply = "ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nproperty float s\nproperty float t\nelement face 4\nproperty list uchar int vertex_indices\nproperty list uchar float texcoord\nend_header\n"
            ."0 0 0 0 0\n1 0 0 1 0\n0 1 0 0 1\n0 0 1 1 1\n3 0 2 1 0\n3 0 1 3 0\n3 0 3 2 6 0 0 1 0 1 1\n3 1 2 3 0\n";
        $stl = "solid a\n";
        foreach ([[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]] as $face) {
            $stl .= "facet normal 0 0 1\nouter loop\n".implode('', array_map(static fn (int $v): string => 'vertex '.(int) ($v === 1).' '.(int) ($v === 2).' '.(int) ($v === 3)."\n", $face))."endloop\nendfacet\n";
        }
        $image = imagecreatetruecolor(24, 24);
        imagefilledellipse($image, 12, 12, 16, 12, 0xFFFFFF);
        imagepng($image, $folder.'/a.png');
        $files = [
            'OBJ' => ['a.obj', "# a\no one\ng two\n".$written('obj')."vn 0 0 1\nvt 0.5 0.5\nf 1/1/1 2/1/1 3/1/1 4/1/1\nf -1 -2 \\\n-3\n"],
            'STL, binary' => ['a.stl', $written('stl')], 'STL, text' => ['a.stl', $stl."endsolid a\n"],
            'PLY, binary' => ['a.ply', $written('ply')], 'PLY, text' => ['a.ply', $ply], 'GLB' => ['a.glb', $written('glb')],
            'SVG' => ['a.svg', '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="30" viewBox="0 0 40 30"><defs><g id="a"><path d="M1 1h8v8c-2 3 -5 1 -8 0z"/></g></defs><g transform="translate(3 4) rotate(20)"><use xlink:href="#a"/><circle cx="20" cy="10" r="4"/><rect x="1" y="20" width="9" height="4"/><polygon points="1,2 3,4 5,1"/><path d="M0 0 L10 0 Q12 5 10 9 A4 4 0 0 1 3 9 Z"/></g></svg>'],
            'PNG' => ['a.png', (string) file_get_contents($folder.'/a.png')],
        ];
        exec('rm -rf '.escapeshellarg($folder));

        return $files;
    }

    /**
     * Mutants of one file, sent as uploads.
     *
     * @return array{sent: int, taken: int, refused: int, faults: list<string>, slowest: float, megabytes: float}
     */
    public function uploads(string $kind, int $count, int $seed): array
    {
        [$name, $good] = self::files()[$kind];
        $mutants = new Mutants($seed);
        $to = match (pathinfo($name, PATHINFO_EXTENSION)) {
            'svg', 'png' => 'outlines',
            default => 'assets',
        };

        return $this->run($count, function (int $i) use ($mutants, $kind, $good, $to, $name): array {
            $bytes = $kind === 'GLB' && $i % 2 === 0 ? $mutants->ofGlb($good) : $mutants->of($good);
            $as = $mutants->below(50) === 0 ? $mutants->one(['name[]=x', 'name=%00a.obj', 'name=%ff.stl', 'name='.str_repeat('a', 3000).'.ply', '']) : 'name='.$name;
            // One in ten a picture of a material as well.
            $path = $kind === 'PNG' && $i % 10 === 0 ? 'pictures' : $to;

            return ['POST', "$path?$as", ['CONTENT_LENGTH' => (string) strlen($bytes)], $bytes];
        });
    }

    /**
     * Hostile changes of a shot, and other requests with bodies.
     *
     * @param  \stdClass  $good  a document to spoil
     * @return array{sent: int, taken: int, refused: int, faults: list<string>, slowest: float, megabytes: float}
     */
    public function edits(int $count, int $seed, string $shot, \stdClass $good): array
    {
        $mutants = new Mutants($seed);
        $pointers = self::pointers($good);

        return $this->run($count, function (int $i) use ($mutants, $shot, $pointers, $good): array {
            $revision = (int) ($this->view($shot)->revision ?? 0);
            if ($i % 7 === 0) {
                $body = $mutants->hostile();
                [$method, $path] = $mutants->one([['POST', "shots/$shot/edits"], ['POST', "shots/$shot/undo"], ['POST', "shots/$shot/redo"], ['POST', "shots/$shot/props/box/punch"], ['POST', 'shots'], ['PUT', "shots/$shot"],
                    ['GET', 'assets/%00/names?name=a.obj'], ['GET', 'pictures/%00'], ['GET', "shots/$shot/props/%00/picture"], ['GET', 'bakes/x/frames?from[]=1'], ['PATCH', 'shots'], ['PUT', "shots/$shot/picture?of[]=1"], ['POST', 'bakes/x/hand-offs'], ['POST', 'shots/import'], ['GET', 'shots/%ff'], ['POST', "shots/$shot/bakes?x[]=%00"]]);
                $body = is_array($body) || $body instanceof \stdClass ? $body : (object) [$mutants->one(['revision', 'patch', 'label', 'from', 'demo', 'format', 'others', 'name']) => $body, 'revision' => $revision];

                return [$method, $path, [], self::json($body)];
            }
            $steps = [];
            for ($n = 1 + $mutants->below(3); $n > 0; $n--) {
                $pointer = $mutants->one($pointers);
                if ($mutants->below(4) === 0) {
                    $pointer .= $mutants->one(['/x', '/0', '/-', '/-1', '/99', "/\u{0}", '/~2', '/a~1b', '//', '/x/y/z']);
                }
                $step = ['op' => $mutants->one(['add', 'replace', 'replace', 'remove', 'copy', 'move', 'test', 'spoil', []]), 'path' => $mutants->below(40) === 0 ? $mutants->hostile() : $pointer];
                if ($mutants->below(8) !== 0) {
                    $step['value'] = $mutants->below(3) === 0 ? $mutants->inside(self::at($good, $pointer)) : $mutants->hostile();
                }
                if ($mutants->below(2) === 0) {
                    $step['from'] = $mutants->below(20) === 0 ? $mutants->hostile() : $mutants->one($pointers);
                }
                $steps[] = $step;
            }
            $label = $mutants->below(10) === 0 ? $mutants->hostile() : 'x';

            return ['POST', "shots/$shot/edits", [], self::json(['revision' => $mutants->below(30) === 0 ? $mutants->hostile() : $revision, 'label' => $label, 'patch' => $steps])];
        });
    }

    /**
     * @param  \Closure(int): array{string, string, array<string, string>, string}  $request
     * @return array{sent: int, taken: int, refused: int, faults: list<string>, slowest: float, megabytes: float}
     */
    private function run(int $count, \Closure $request): array
    {
        $out = ['sent' => $count, 'taken' => 0, 'refused' => 0, 'faults' => [], 'slowest' => 0.0, 'megabytes' => 0.0];
        $before = set_error_handler(function (int $level, string $message, string $file, int $line) use (&$before): bool {
            if ((error_reporting() & $level) !== 0) {
                $this->warnings[] = $message.' ('.basename($file).':'.$line.')';
            }

            return $before === null ? false : (bool) $before($level, $message, $file, $line);
        });
        for ($i = 0; $i < $count; $i++) {
            [$method, $path, $headers, $body] = $request($i);
            $this->warnings = [];
            memory_reset_peak_usage();
            $base = memory_get_usage();
            $from = hrtime(true);
            $response = ($this->send)($method, $path, $headers, $body);
            $seconds = (hrtime(true) - $from) / 1e9;
            $bytes = memory_get_peak_usage() - $base;
            $status = $response->getStatusCode();
            $fault = match (true) {
                $status >= 500 => 'ended with '.$status.': '.($response->exception ?? null)?->getMessage(),
                $this->warnings !== [] => 'warned: '.$this->warnings[0],
                $status >= 400 && ! is_string(json_decode((string) $response->getContent(), true)['problem']['message'] ?? null) => 'was refused without words ('.$status.')',
                $seconds > self::SECONDS => sprintf('took %.1f s', $seconds),
                $bytes > self::BYTES => sprintf('took %.0f MB', $bytes / 1e6),
                $status >= 400 && (glob($this->folder.'/files/incoming/*') ?: []) !== [] => 'left a file behind',
                default => null,
            };
            if ($fault !== null) {
                $out['faults'][] = $fault.' — '.$method.' '.mb_substr(mb_scrub($path), 0, 80).' number '.$i.', body '.base64_encode(substr($body, 0, 1500));
            }
            $out[$status < 400 ? 'taken' : 'refused']++;
            $out['slowest'] = max($out['slowest'], $seconds);
            $out['megabytes'] = max($out['megabytes'], $bytes / 1e6);
        }
        restore_error_handler();

        return $out;
    }

    private function view(string $shot): mixed
    {
        return json_decode((string) ($this->send)('GET', 'shots/'.$shot, [], '')->getContent());
    }

    /** Written even where no writer of JSON would: nested deeper than any reader allows. */
    private static function json(mixed $value): string
    {
        return (string) json_encode($value, JSON_PARTIAL_OUTPUT_ON_ERROR, 1000);
    }

    /** @return list<string> of everything in a document */
    private static function pointers(mixed $value, string $at = ''): array
    {
        $out = [$at];
        foreach (is_array($value) || $value instanceof \stdClass ? (array) $value : [] as $key => $part) {
            array_push($out, ...self::pointers($part, $at.'/'.$key));
        }

        return $out;
    }

    private static function at(mixed $value, string $pointer): mixed
    {
        foreach (array_slice(explode('/', $pointer), 1) as $key) {
            $value = ((array) $value)[$key] ?? null;
        }

        return $value;
    }
}
