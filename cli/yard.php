<?php

declare(strict_types=1);

use Symfony\Component\Console\Application;
use Symfony\Component\Console\Exception\ExceptionInterface;
use Symfony\Component\Console\Input\ArgvInput;
use Symfony\Component\Console\Output\ConsoleOutput;
use YardBreak\Cli;
use YardBreak\Core\Problem;

require __DIR__.'/../vendor/autoload.php';

// What would only be a warning is an end with a sentence, too.
set_error_handler(static function (int $level, string $message, string $file, int $line): bool {
    if ((error_reporting() & $level) === 0) {
        return false;
    }
    throw new ErrorException($message, 0, $level, $file, $line);
});

$yard = new Application('Yard Break', '1');
$yard->setAutoExit(false);
$yard->setCatchExceptions(false);
foreach ([new Cli\Inspect, new Cli\Prop, new Cli\Prepare, new Cli\Break_, new Cli\Bake, new Cli\Rebake, new Cli\Check, new Cli\Poses, new Cli\Weights, new Cli\Bench] as $command) {
    $yard->add($command);
}
$output = new ConsoleOutput;
$json = in_array('--json', $argv, true);
try {
    exit($yard->run(new ArgvInput, $output));
} catch (Problem $e) {
    if ($json) {
        $output->writeln((string) json_encode(['error' => $e->toArray()], JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));
    }
    $output->getErrorOutput()->writeln(($e->path === '' ? '' : $e->path.': ').$e->getMessage().($e->remedy === '' ? '' : ' '.$e->remedy));
    exit(1);
} catch (ExceptionInterface $e) {
    $output->getErrorOutput()->writeln($e->getMessage());
    exit(2);
} catch (Throwable $e) {
    $output->getErrorOutput()->writeln('Something went wrong inside Yard Break: '.$e->getMessage().' ('.basename($e->getFile()).', line '.$e->getLine().'). Please report it with the file you used.');
    exit(1);
}
