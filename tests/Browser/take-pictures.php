<?php

declare(strict_types=1);

// Takes the pictures of docs/screenshots and of the demo shots, from the demo data:  php tests/Browser/take-pictures.php

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use Tests\Browser\StartedYard;

require __DIR__.'/../../vendor/autoload.php';

$root = dirname(__DIR__, 2);
$yard = new StartedYard;
$b = $yard->browser;
$base = 'http://127.0.0.1:'.StartedYard::PORT;
$keys = static fn (string ...$k) => $b->findElement(WebDriverBy::tagName('body'))->sendKeys($k);
$baked = static function () use ($b): void {
    StartedYard::until(static fn (): bool => str_contains((string) $b->executeScript('return document.body.innerText'), '● baked') || str_contains((string) $b->executeScript('return document.body.innerText'), 'Bake again'), 90);
    usleep(1_200_000);
};
$type = static function (string $label, string $value) use ($b): void {
    $field = $b->findElement(WebDriverBy::cssSelector('input[aria-label="'.$label.'"]'));
    $field->click();
    $field->sendKeys([WebDriverKeys::CONTROL, 'a']);
    $field->sendKeys([WebDriverKeys::NULL, $value, WebDriverKeys::ENTER]);
};
$shoot = static function (string $name) use ($b, $root): void {
    usleep(900_000);
    $b->takeScreenshot($root.'/docs/screenshots/'.$name.'.png');
};
try {
    $b->get($base);
    $b->executeScript('localStorage.setItem("picture","fine")');
    $ids = [];
    foreach (['garden-stack' => 34, 'glass-pane' => 16, 'terracotta-jar' => 14] as $demo => $frame) {
        $ids[$demo] = $id = $b->executeScript('return fetch("/api/shots",{method:"POST",headers:{"X-Yard":"1","Content-Type":"application/json"},body:JSON.stringify({demo:arguments[0]})}).then(r=>r.json()).then(s=>s.id)', [$demo]);
        $b->get("$base/shots/$id");
        sleep(3);
        if ($demo === 'terracotta-jar') {
            $shoot('break');
            $type('Spread apart', '45');
            $shoot('break-spread');
            $type('Spread apart', '0');
            $b->executeScript('document.activeElement.blur()');
            $keys('1');
            $shoot('props');
            $keys('4');
            $shoot('motion');
            $keys('5');
            $keys('b');
            usleep(700_000);
            $b->takeScreenshot($root.'/docs/screenshots/bake-running.png');
        } else {
            $keys('5', 'b');
        }
        $baked();
        $keys(WebDriverKeys::HOME);
        for ($k = 0; $k < $frame; $k++) {
            $keys(WebDriverKeys::ARROW_RIGHT);
        }
        usleep(800_000);
        $png = $b->executeAsyncScript('const done=arguments[0];const c=document.querySelector("#picture canvas"),s=document.createElement("canvas");s.width=480;s.height=300;const k=Math.max(480/c.width,300/c.height);s.getContext("2d").drawImage(c,(480-c.width*k)/2,(300-c.height*k)/2,c.width*k,c.height*k);done(s.toDataURL("image/png"))');
        file_put_contents("$root/resources/demo/$demo.png", base64_decode(substr((string) $png, 22)));
        $shoot(['garden-stack' => 'bake-wall', 'glass-pane' => 'bake-pane', 'terracotta-jar' => 'bake'][$demo]);
        if ($demo === 'terracotta-jar') {
            $keys('6');
            usleep(300_000);
            $b->findElement(WebDriverBy::xpath('//button[contains(., "Write GLB")]'))->click();
            sleep(2);
            $shoot('hand-off');
            $b->findElement(WebDriverBy::xpath('//button[contains(., "Night")]'))->click();
            $keys('2');
            $shoot('break-night');
            $b->findElement(WebDriverBy::xpath('//button[contains(., "Day")]'))->click();
        }
    }
    $b->get($base);
    sleep(1);
    $shoot('yard');
} finally {
    $yard->stop();
}
