<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Bake\BakedPlaces;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\HandOff;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\Evaluation;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

final class Bake extends Command
{
    protected function configure(): void
    {
        $this->setName('bake')->setDescription('Bakes a shot and writes the result')
            ->addArgument('shot', InputArgument::REQUIRED, 'A shot document (JSON)')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the result; without it nothing is written')
            ->addOption('slice', null, InputOption::VALUE_REQUIRED, 'Bakes in slices of so many seconds, each taken up from a packed state; 0 for a frame each')
            ->addOption('format', null, InputOption::VALUE_REQUIRED, 'glb or obj', 'glb')
            ->withCommonOptions();
    }

    /** @return \Closure(): bool whether so many seconds have gone by since it last said so */
    private static function after(float $seconds): \Closure
    {
        $begun = microtime(true);

        return static function () use ($seconds, &$begun): bool {
            if (microtime(true) - $begun < $seconds) {
                return false;
            }
            $begun = microtime(true);

            return true;
        };
    }

    /** A shot file as it can be baked. */
    public static function ready(string $path): Bakeable
    {
        $shot = Check::shot($path);

        return Bakeable::of($shot, ...self::made($shot, new LocalAssets(dirname($path))));
    }

    /** @return array{array<string, list<Shard>>, MadeParts} pieces by prop, and what maps are made of */
    private static function made(ShotSpec $shot, LocalAssets $assets): array
    {
        $maker = new PropMaker($assets);
        $shards = [];
        foreach ($shot->props as $prop) {
            $shards[$prop->id] = $maker->shards($prop, new SilentProgress);
        }

        return [$shards, new MadeParts($maker, $assets, $shards)];
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $path = (string) $input->getArgument('shot');
        $shot = Check::shot($path);
        $format = (string) $input->getOption('format');
        if (! in_array($format, HandOff::FORMATS, true)) {
            throw Problem::inValue('format', 'A bake cannot be written as "'.$format.'".', 'Choose one of: '.implode(', ', HandOff::FORMATS).'.');
        }
        $slice = $input->getOption('slice');
        if ($slice !== null && (! is_numeric($slice) || $slice < 0)) {
            throw Problem::inValue('slice', 'A slice lasts so many seconds, 0 or more.');
        }
        $start = hrtime(true);
        $assets = new LocalAssets(dirname($path));
        [$shards, $parts] = self::made($shot, $assets);
        $bake = Bakeable::of($shot, $shards, $parts)->frames($slice === null ? null : self::after((float) $slice));
        $frames = [];
        $restAt = null;
        $overlap = 0.0;
        foreach ($bake as $frame) {
            $frames[] = $frame;
            $f = $frame->figures;
            $overlap = max($overlap, $f['overlap']);
            $restAt = array_sum($f['released']) > 0 && $f['moving'] === 0 ? ($restAt ?? $frame->number) : null;
        }
        $baker = $bake->getReturn();
        $seconds = (hrtime(true) - $start) / 1e9;
        $pieces = Baker::pieces($shot, $shards);
        if ($input->getOption('out') !== null) {
            $folder = $this->folder((string) $input->getOption('out'));
            $moved = new BakedPlaces($baker->shot(), static fn (PropSpec $p): array => $shards[$p->id], static fn (int $k): array => $frames[$k]->streams, count($frames), array_map(strval(...), array_keys($frames)));
            $evaluation = new Evaluation(new MapRun($baker->shot(), $parts, null, $moved));
            $handOff = new HandOff($baker->shot(), $pieces, $assets, count($frames), static fn (int $k): array => $evaluation->onto($frames[$k]->streams, $frames[$k]->number));
            foreach ($handOff->files($format) as $number => $name) {
                $handOff->write($format, $number, $folder.'/'.$name);
            }
        }

        return $this->print($input, $output, [
            'frames' => count($frames), 'pieces' => count($pieces), 'seconds' => round($seconds, 3), 'peak_mb' => $this->peakMegabytes(),
            'deepest_overlap' => $overlap, 'at_rest_frame' => $restAt,
        ]);
    }
}
