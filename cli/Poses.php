<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Where props stand by their keys, frame by frame, without a bake. */
final class Poses extends Command
{
    protected function configure(): void
    {
        $this->setName('poses')->setDescription('Says where the props of a shot stand by their keys')
            ->addArgument('shot', InputArgument::REQUIRED, 'A shot document (JSON)')
            ->addOption('step', null, InputOption::VALUE_REQUIRED, 'Frames from one to the next', '1')
            ->withCommonOptions();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $shot = Check::shot((string) $input->getArgument('shot'));
        $step = max(0.01, (float) $input->getOption('step'));
        $rows = [];
        for ($k = 0; $shot->first + $k * $step <= $shot->last + 1e-9; $k++) {
            $frame = $shot->first + $k * $step;
            foreach ($shot->props as $prop) {
                $at = $prop->place->at($frame);
                $rows[] = ['frame' => $frame, 'prop' => $prop->id, 'position' => $at->position->toArray(), 'turn' => $at->turn->toArray(), 'size' => $at->size, 'seen' => $prop->seen->at($frame) >= 0.5];
            }
        }
        if ($input->getOption('json')) {
            $output->writeln((string) json_encode($rows));

            return self::SUCCESS;
        }
        foreach ($rows as $r) {
            $output->writeln(sprintf('%8.2f  %-16s %9.4f %9.4f %9.4f  %8.4f %8.4f %8.4f %8.4f  × %.4f%s', $r['frame'], $r['prop'], ...[...$r['position'], ...$r['turn'], $r['size'], $r['seen'] ? '' : '  not seen']));
        }

        return self::SUCCESS;
    }
}
