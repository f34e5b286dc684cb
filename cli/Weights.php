<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Bake\Foresight;
use YardBreak\Core\Check\MapCheck;
use YardBreak\Core\Shot\Cue;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Weight\Coverage;

/** How far a weight map reaches over the frames, and what is doubtful about it. */
final class Weights extends Command
{
    protected function configure(): void
    {
        $this->setName('weights')->setDescription('Says how far a weight map of a shot reaches, frame by frame')
            ->addArgument('shot', InputArgument::REQUIRED, 'A shot document (JSON)')
            ->addOption('map', null, InputOption::VALUE_REQUIRED, 'Id of a map; without it all maps are listed')
            ->withCommonOptions();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $path = (string) $input->getArgument('shot');
        $shot = Check::shot($path);
        if ($input->getOption('map') === null) {
            $maps = array_merge([], ...array_map(static fn (PropSpec $p): array => array_map(static fn ($m): array => ['map' => $m->id, 'name' => $m->name, 'prop' => $p->id], $p->weights), $shot->props));
            $output->writeln($input->getOption('json') ? (string) json_encode($maps) : implode("\n", array_map(static fn (array $m): string => $m['map'].'  '.$m['name'].', of '.$m['prop'], $maps)));

            return self::SUCCESS;
        }
        $id = (string) $input->getOption('map');
        $assets = new LocalAssets(dirname($path));
        $maker = new PropMaker($assets);
        $parts = new MadeParts($maker, $assets);
        // Keys may be tied to cues that are found.
        $shot = Foresight::of($shot, static fn (ShotSpec $now, Cue $cue): ?float => Foresight::frame($now, $cue, static fn (PropSpec $p): array => Bakeable::solids($p, $maker->shards($p, new SilentProgress), new SilentProgress), $parts));
        $run = new MapRun($shot, $parts);
        $coverage = [];
        for ($frame = $shot->first; $frame <= $shot->last; $frame++) {
            $coverage[] = Coverage::of($run->weightsAt($id, MapRun::SURFACE, $frame));
        }
        $findings = MapCheck::of($run, $id, $coverage);
        $prop = $run->map($id)->prop;
        if ($input->getOption('json')) {
            $output->writeln((string) json_encode(['map' => $id, 'prop' => $prop, 'points' => $run->pointsOf($prop, MapRun::SURFACE)->count(), 'first' => $shot->first, 'coverage' => $coverage, 'findings' => $findings]));

            return self::SUCCESS;
        }
        foreach ($coverage as $k => $c) {
            $output->writeln(sprintf('%6d  none %5.1f %%  full %5.1f %%  mean %.3f', $shot->first + $k, 100 * $c->none, 100 * $c->full, $c->mean));
        }
        foreach ($findings as $finding) {
            $output->writeln('doubtful: '.$finding['message'].' '.$finding['remedy']);
        }

        return self::SUCCESS;
    }
}
