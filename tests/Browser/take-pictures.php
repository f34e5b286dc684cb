<?php

declare(strict_types=1);

// Takes the pictures of docs/screenshots and of the patterns, from the demo data:  php tests/Browser/take-pictures.php
// Some of them alone:  php tests/Browser/take-pictures.php cold-frame-wall patterns card-sundial

use App\Yard\NewShot;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use Tests\Browser\Artist;
use Tests\Browser\StartedYard;
use YardBreak\Core\Shot\MaterialCatalogue;

require __DIR__.'/../../vendor/autoload.php';

$root = dirname(__DIR__, 2);
$yard = new StartedYard;
$artist = new Artist($yard);
$b = $yard->browser;
$base = 'http://127.0.0.1:'.StartedYard::PORT;
$keys = static fn (string ...$k) => $b->findElement(WebDriverBy::tagName('body'))->sendKeys($k);
$baked = static function () use ($b): void {
    StartedYard::until(static fn (): bool => str_contains((string) $b->executeScript('return document.body.innerText'), '● baked') || str_contains((string) $b->executeScript('return document.body.innerText'), 'Up to date'), 300);
    usleep(1_200_000);
};
$type = static function (string $label, string $value) use ($b): void {
    $field = $b->findElement(WebDriverBy::cssSelector('input[aria-label="'.$label.'"]'));
    $field->click();
    $field->sendKeys([WebDriverKeys::CONTROL, 'a']);
    $field->sendKeys([WebDriverKeys::NULL, $value, WebDriverKeys::ENTER]);
};
// With all its light the picture takes seconds to draw in software, and the browser draws once more for every picture taken: what asks to draw waits until it is.
$shoot = static function (string $name) use ($b, $artist, $root): void {
    sleep(1);
    foreach (['picture', 'wall'] as $what) {
        if ($b->executeScript('return document.getElementById(arguments[0])!==null', [$what])) {
            $artist->picture($what);
        }
    }
    $b->executeScript('window.held={ask:window.requestAnimationFrame,asked:[]};window.requestAnimationFrame=f=>window.held.asked.push(f)');
    sleep(1);
    $b->takeScreenshot($root.'/docs/screenshots/'.$name.'.png');
    $b->executeScript('window.requestAnimationFrame=window.held.ask;window.held.asked.forEach(f=>window.requestAnimationFrame(f))');
};
// A new shot of these props; its id.
$setUp = static fn (array $props, array $more = []): string => $b->executeAsyncScript(
    'const [patch,done]=arguments,send=(p,b)=>fetch("/api/"+p,{method:"POST",headers:{"X-Yard":"1","Content-Type":"application/json"},body:JSON.stringify(b)}).then(r=>r.json());send("shots",{}).then(s=>send(`shots/${s.id}/edits`,{revision:0,label:"Set up",patch}).then(()=>done(s.id)))',
    [[...array_map(static fn (array $prop): array => ['op' => 'add', 'path' => '/props/-', 'value' => $prop], $props), ...$more]],
);
// The middle of the picture, so many pixels wide, and a share of what there is of it.
$middle = static function (int $wide, float $share) use ($b): GdImage {
    [$x, $y, $w, $h] = $b->executeScript('const r=document.querySelector("#picture").getBoundingClientRect();return [r.x,r.y,r.width,r.height].map(Math.round)');
    $high = (int) ($share * min($h - 100, $w / 1.4));
    $small = imagecreatetruecolor($wide, (int) ($wide / 1.4));
    imagecopyresampled($small, imagecreatefromstring($b->takeScreenshot()), 0, 0, (int) ($x + ($w - 1.4 * $high) / 2), (int) ($y + 50 + ($h - 100 - $high) / 2), $wide, (int) ($wide / 1.4), (int) (1.4 * $high), $high);

    return $small;
};
$drawn = static fn () => $b->executeAsyncScript('const done=arguments[0];requestAnimationFrame(()=>requestAnimationFrame(()=>requestAnimationFrame(()=>done())))');
$throwAway = static fn (string $id) => $b->executeAsyncScript('const [id,done]=arguments;fetch("/api/shots/"+id,{method:"DELETE",headers:{"X-Yard":"1"}}).then(()=>done())', [$id]);
$wanted = static fn (string $what): bool => $argc === 1 || in_array($what, $argv, true);
try {
    $b->get($base);
    $b->executeScript('localStorage.setItem("picture","fine")');
    foreach (['seed-head' => 48, 'chimney-stack' => 14, 'bell-jar' => 0, 'tarpaulin' => 46, 'gourd' => 50, 'cushions' => 66, 'sundial' => 72, 'cold-frame-wall' => 30, 'name-board-assembling' => 40, 'garden-stack' => 0, 'glass-pane' => 16, 'terracotta-jar' => 14] as $demo => $frame) {
        if (! $wanted($demo)) {
            continue;
        }
        $id = $b->executeScript('return fetch("/api/shots",{method:"POST",headers:{"X-Yard":"1","Content-Type":"application/json"},body:JSON.stringify({demo:arguments[0]})}).then(r=>r.json()).then(s=>s.id)', [$demo]);
        $b->get("$base/shots/$id");
        sleep(3);
        if ($demo === 'terracotta-jar') {
            $type('Spread apart', '25');
            $shoot('break-spread');
            $type('Spread apart', '0');
            $b->get("$base/shots/$id");
            sleep(3);
            $keys('1');
            $shoot('props');
            $keys('4');
            $shoot('motion');
            $b->get("$base/shots/$id");
            sleep(3);
            $keys('5');
            $keys('b');
        } else {
            $keys('5', 'b');
        }
        $baked();
        $keys(WebDriverKeys::HOME);
        for ($k = 0; $k < $frame; $k++) {
            $keys(WebDriverKeys::ARROW_RIGHT);
            if ($k % 6 === 5) {
                $drawn();
            }
        }
        usleep(800_000);
        $name = ['tarpaulin' => 'cloth', 'sundial' => 'bake-sundial'][$demo] ?? null;
        $choose = static fn (string $prop) => $b->findElement(WebDriverBy::xpath('//ul[@aria-label="Props"]//button[contains(., "'.$prop.'")]'))->click();
        if ($demo === 'sundial') {
            // Its flakes fly far: the picture stays with what they come off.
            $choose('Core');
            $keys('f');
            sleep(1);
            $keys(WebDriverKeys::ALT, WebDriverKeys::PAGE_DOWN, WebDriverKeys::PAGE_DOWN, WebDriverKeys::NULL);
            sleep(1);
        }
        if ($name !== null) {
            $shoot($name);
        }
        if ($demo === 'sundial') {
            $choose('Skin');
        }
        if ($demo === 'bell-jar') {
            $keys('4', 'f');
            $b->findElement(WebDriverBy::xpath('//button[normalize-space(.)="Show what collides"]'))->click();
            StartedYard::until(static fn (): bool => str_contains((string) $b->executeScript('return document.body.innerText'), 'convex parts'), 120);
            $b->executeScript('[...document.querySelectorAll("button")].find(e=>e.textContent==="Show what collides").scrollIntoView({block:"center"})');
            $shoot('contact');
        }
        if ($demo === 'seed-head') {
            $shoot('dust');
        }
        if ($demo === 'chimney-stack') {
            $keys('4', WebDriverKeys::HOME);
            StartedYard::until(static fn (): bool => str_contains((string) $b->executeScript('return document.body.innerText'), 'press to show them'), 120);
            $b->findElement(WebDriverBy::cssSelector('[aria-label="Show the bonds in the picture"]'))->click();
            $b->executeScript('[...document.querySelectorAll("h3")].find(e=>e.textContent==="Mortar").scrollIntoView()');
            $shoot('mortar');
        }
        if ($demo === 'sundial') {
            $keys('4');
            StartedYard::until(static fn (): bool => str_contains((string) $b->executeScript('return document.body.innerText'), 'press to show it'), 30);
            $b->findElement(WebDriverBy::cssSelector('[aria-label="Show the order in the picture"]'))->click();
            $keys(WebDriverKeys::HOME);
            $shoot('order');
            $keys('0');
            $b->executeScript('[...document.querySelectorAll("h3")].find(e=>e.textContent.startsWith("Forces")).scrollIntoView()');
            $type('Frame', '60');
            $b->findElement(WebDriverBy::xpath('//button[normalize-space(.)="Surface"]'))->click();
            StartedYard::until(static fn (): bool => str_contains((string) $b->executeScript('return document.body.innerText'), 'carries off'), 60);
            $shoot('forces');
        }
        if ($demo === 'cold-frame-wall') {
            $keys(WebDriverKeys::HOME, '3');
            for ($k = 0; $k < 14; $k++) {
                $keys(WebDriverKeys::ARROW_RIGHT);
            }
            sleep(4);
            $shoot('weights');
        }
        if ($demo === 'name-board-assembling') {
            $keys('4');
            $shoot('drift');
        }
        if ($demo === 'garden-stack') {
            $keys('4');
            $b->findElement(WebDriverBy::cssSelector('[aria-label="Curve of Sandbag: position"]'))->click();
            usleep(1_500_000);
            $b->executeScript('document.querySelectorAll(\'[aria-label^="Position of Sandbag, key"]\')[1].dispatchEvent(new PointerEvent("pointerdown",{bubbles:true}));window.dispatchEvent(new PointerEvent("pointerup"))');
            $shoot('cues');
            $b->findElement(WebDriverBy::cssSelector('[aria-label="Curve of Sandbag: position"]'))->click();
            // The same stack on rough ground, come to rest.
            $keys('0');
            $b->findElement(WebDriverBy::cssSelector('select[aria-label="Ground"] option[value="rough"]'))->click();
            sleep(2);
            $keys('5', 'b');
            $baked();
            $keys('0', WebDriverKeys::END);
            sleep(4);
            $drawn();
            $b->executeScript('[...document.querySelectorAll("h3")].find(e=>e.textContent==="Gravity, ground and pace").scrollIntoView()');
            $shoot('ground');
            $b->findElement(WebDriverBy::cssSelector('select[aria-label="Ground"] option[value="flat"]'))->click();
            sleep(2);
        }
        if ($demo === 'glass-pane') {
            $keys('0');
            $b->findElement(WebDriverBy::xpath('//button[normalize-space(.)="Camera"]'))->click();
            usleep(800_000);
            $b->executeScript('[...document.querySelectorAll("h3")].find(e=>e.textContent==="Camera").scrollIntoView()');
            $shoot('camera');
            $b->findElement(WebDriverBy::xpath('//button[normalize-space(.)="¾"]'))->click();
        }
        if ($demo === 'terracotta-jar') {
            $keys('6');
            usleep(300_000);
            $b->findElement(WebDriverBy::xpath('//button[contains(., "Write GLB")]'))->click();
            sleep(2);
            $shoot('hand-off');
        }
        $throwAway($id);
    }
    if ($wanted('trials')) {
        // Nine jars by day, and two bakes of one by night.
        $id = $b->executeScript('return fetch("/api/shots",{method:"POST",headers:{"X-Yard":"1","Content-Type":"application/json"},body:JSON.stringify({demo:"terracotta-jar"})}).then(r=>r.json()).then(s=>s.id)');
        $b->get("$base/shots/$id");
        sleep(3);
        $keys('5', 'b');
        $baked();
        $trial = $b->executeScript('return fetch("/api/shots/"+arguments[0]+"/trials",{method:"POST",headers:{"X-Yard":"1","Content-Type":"application/json"},body:JSON.stringify({axes:[{path:"/props/0/break/values/count",values:"60, 200, 800"},{path:"/props/0/material/bounce",values:"5, 30, 60"}]})}).then(r=>r.json()).then(t=>t.id)', [$id]);
        $b->get("$base/shots/$id/trials/$trial");
        StartedYard::until(static fn (): bool => str_contains((string) $b->executeScript('return document.body.innerText'), '9 baked'), 600);
        for ($k = 0; $k < 16; $k++) {
            $keys(WebDriverKeys::ARROW_RIGHT);
        }
        sleep(3);
        $shoot('trials');
        $b->get("$base/shots/$id");
        sleep(3);
        $keys('1');
        $type('Bounce', '60');
        sleep(2);
        $keys('5', 'b');
        $baked();
        $b->get("$base/shots/$id/compare");
        sleep(3);
        $b->findElement(WebDriverBy::xpath('//button[normalize-space(.)="Ghost"]'))->click();
        $b->findElement(WebDriverBy::xpath('//button[normalize-space(.)="Night"]'))->click();
        for ($k = 0; $k < 30; $k++) {
            $keys(WebDriverKeys::ARROW_RIGHT);
        }
        sleep(3);
        $shoot('compare');
        $b->findElement(WebDriverBy::xpath('//button[normalize-space(.)="Day"]'))->click();
        $throwAway($id);
    }
    // One picture a pattern, on props of the demo.
    $material = static fn (string $name): array => ['name' => $name] + array_diff_key(MaterialCatalogue::MATERIALS[$name], ['label' => 0]);
    $sheet = static fn (float $w, float $h, float $t): array => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => $w, 'height' => $h, 'thickness' => $t, 'segments' => 8]];
    $jar = json_decode((string) file_get_contents($root.'/resources/demo/terracotta-jar.json'), true)['props'][0]['source'];
    $fern = json_decode((string) file_get_contents($root.'/resources/demo/fern-plaque.json'), true)['props'][0]['break']['values']['outline'];
    $board = json_decode((string) file_get_contents($root.'/resources/demo/name-board.json'), true)['props'][0]['break']['values'];
    $ball = ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.3, 'detail' => 24]];
    foreach ([
        'cells' => [$jar, 'terracotta', ['count' => 70, 'ragged' => 0.4, 'relief' => 0.5, 'cluster' => [[0.1, 0.05, 0.05]], 'crowd' => 0.5, 'reach' => 0.12], 35],
        'halving' => [['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.7, 'height' => 0.5, 'depth' => 0.5]], 'stone', ['passes' => 5, 'roughness' => 0.5], 40],
        'strike' => [$sheet(0.9, 0.9, 0.008), 'glass', ['point' => [0.1, 0.55, 0.0], 'rays' => 20, 'rings' => 7, 'radius' => 0.42, 'jitter' => 0.5], 12],
        'courses' => [$sheet(1.4, 0.75, 0.1025), 'brick', [], 16],
        'tiles' => [$sheet(1.2, 0.8, 0.03), 'slate', ['grid' => [6, 4, 1], 'jitter' => 0.3], 16],
        'flakes' => [$ball, 'stone', ['faces' => 40, 'thickness' => 0.008, 'ragged' => 1, 'weight' => ['source' => 'front', 'values' => ['point' => [0, 0.3, 0], 'direction' => [-0.6, 0.5, 0.2], 'none' => 0.05], 'invert' => true]], 30],
        'stencil' => [$sheet(0.62, 0.84, 0.045), 'plaster', ['outline' => $fern, 'scale' => 0.88], 30],
        'score' => [$sheet(1.3, 0.5, 0.03), 'slate', $board, 20],
        'punch' => [$sheet(1.0, 0.8, 0.03), 'wood', ['radius' => 0.2, 'roughness' => 0.6, 'bands' => 2, 'band_width' => 0.04], 40],
        'parts' => [['kind' => 'shape', 'shape' => 'text', 'values' => ['text' => 'FERN', 'height' => 0.3]], 'wood', [], 30],
    ] as $pattern => [$source, $of, $values, $spread]) {
        if (! $wanted('patterns')) {
            break;
        }
        $prop = ['id' => 'prop', 'name' => ucfirst($pattern), 'source' => $source, 'prepare' => [], 'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1], 'material' => $material($of), 'break' => ['pattern' => $pattern, 'values' => (object) $values], 'motion' => ['kind' => 'fixed']];
        $id = $setUp([$prop]);
        $b->get("$base/shots/$id");
        sleep(3);
        $b->findElement(WebDriverBy::xpath('//button[normalize-space(.)="'.($pattern === 'punch' ? 'Pieces' : 'Surface').'"]'))->click();
        $type('Spread apart', (string) $spread);
        sleep(4);
        $drawn();
        imagepng($middle(560, 1.0), "$root/docs/patterns/$pattern.png", 9);
        $throwAway($id);
    }
    // One a fabric: half a metre of it over a round post, as the drape test of textiles has it (ISO 9073-9), but square.
    foreach (['muslin' => '#d8cbb0', 'canvas' => '#a58f68', 'felt' => '#7d5650', 'silk' => '#93445f', 'rubber sheet' => '#45484a', 'tarpaulin' => '#4d6b7a', 'leather' => '#7a4a2c', 'paper' => '#e6e2d6', 'foil' => '#a9adb1'] as $fabric => $colour) {
        if (! $wanted('fabrics') && ! $wanted('fabric-'.str_replace(' ', '-', $fabric))) {
            continue;
        }
        $of = ['name' => 'cloth', 'colour' => $colour, 'inner' => $colour, 'density' => 600, 'friction' => 0.9, 'bounce' => 0.0];
        $props = [
            ['id' => 'post', 'name' => 'Post', 'source' => ['kind' => 'shape', 'shape' => 'cylinder', 'values' => ['radius' => 0.09, 'height' => 0.3, 'segments' => 48]], 'prepare' => [], 'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1], 'material' => $material('wood'), 'break' => null, 'motion' => ['kind' => 'fixed']],
            ['id' => 'cloth', 'name' => 'Cloth', 'source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 0.5, 'height' => 0.5, 'thickness' => 0, 'segments' => 36]], 'prepare' => [], 'place' => ['position' => [0, 0.31, 0.25], 'turn' => [-90, 0, 0], 'size' => 1], 'material' => $of, 'break' => null, 'motion' => ['kind' => 'cloth', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => ['fabric' => $fabric, 'damping' => 0.005]], 'finish' => ['times' => 1, 'thickness' => 0, 'shading' => 'smooth']],
        ];
        $id = $setUp($props, [['op' => 'replace', 'path' => '/frames/last', 'value' => 72]]);
        $b->get("$base/shots/$id");
        sleep(3);
        $keys('5', 'b');
        $baked();
        $keys(WebDriverKeys::END);
        sleep(3);
        $drawn();
        $small = $middle(280, 0.8);
        imagetruecolortopalette($small, true, 255);
        imagepng($small, "$root/resources/pictures/fabrics/".str_replace(' ', '-', $fabric).'.png', 9);
        $throwAway($id);
    }
    $cards = array_values(array_filter(NewShot::DEMO, static fn (string $demo): bool => $wanted('yard') || $wanted("card-$demo")));
    if ($cards !== []) {
        // The demo, baked, as its cards show it; they are drawn one by one, and are what a new yard shows first.
        $made = [];
        foreach (array_reverse($cards) as $demo) {
            $made[$demo] = $b->executeAsyncScript('const [demo,done]=arguments,send=(p,b)=>fetch("/api/"+p,{method:"POST",headers:{"X-Yard":"1","Content-Type":"application/json"},body:JSON.stringify(b)}).then(r=>r.json());send("shots",{demo}).then(s=>send(`shots/${s.id}/bakes`,{}).then(()=>done(s.id)))', [$demo]);
        }
        $b->get($base);
        StartedYard::until(static fn (): bool => (bool) $b->executeAsyncScript('const done=arguments[0];fetch("/api/shots").then(r=>r.json()).then(shots=>done(shots.every(s=>s.bake?.state==="done"&&s.pictureOf===`${s.revision} ${s.bake.id}`)))'), 900);
        if ($wanted('yard')) {
            // As it is every day, not the first.
            $b->executeScript('localStorage.setItem("lessons",JSON.stringify({dismissed:true}))');
            $b->navigate()->refresh();
            $shoot('yard');
        }
        foreach ($made as $demo => $id) {
            $picture = imagecreatefromstring((string) file_get_contents("$base/api/shots/$id/picture"));
            imagetruecolortopalette($picture, true, 255);
            imagepng($picture, "$root/resources/demo/pictures/$demo.png", 9);
        }
    }
} finally {
    $yard->stop();
}
