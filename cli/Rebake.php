<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use YardBreak\Core\Bake\Rebake as Kept;

/** Bakes a shot before and after a change, and says whether what is kept of the first bake is true. */
final class Rebake extends Command
{
    protected function configure(): void
    {
        $this->setName('rebake')->setDescription('Says what a bake keeps after a change, and whether that is what a whole bake gives')
            ->addArgument('before', InputArgument::REQUIRED, 'A shot document (JSON)')
            ->addArgument('after', InputArgument::REQUIRED, 'The same, changed')
            ->withCommonOptions();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $found = Kept::of(Bake::ready((string) $input->getArgument('before')), Bake::ready((string) $input->getArgument('after')));

        return $this->print($input, $output, ['kept' => $found->kept, 'differs_at' => $found->differsAt, 'resumed_differs_at' => $found->resumedDiffersAt, 'reason' => $found->reason]);
    }
}
