<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use YardBreak\Cli\Bench\Benchmark;
use YardBreak\Cli\Bench\BreakBench;
use YardBreak\Cli\Bench\ClothBench;
use YardBreak\Cli\Bench\ColliderBench;
use YardBreak\Cli\Bench\CompilerBench;
use YardBreak\Cli\Bench\ContactBench;
use YardBreak\Cli\Bench\DustBench;
use YardBreak\Cli\Bench\ModelBench;
use YardBreak\Cli\Bench\MortarBench;
use YardBreak\Cli\Bench\PageBench;
use YardBreak\Cli\Bench\PatternBench;
use YardBreak\Cli\Bench\RigidBench;
use YardBreak\Cli\Bench\RubbleBench;
use YardBreak\Cli\Bench\TimeBench;
use YardBreak\Cli\Bench\TrialsBench;
use YardBreak\Cli\Bench\ViewersBench;
use YardBreak\Cli\Bench\WeightsBench;
use YardBreak\Core\Problem;

final class Bench extends Command
{
    /** @var array<string, class-string<Benchmark>> */
    private const BENCHES = ['break' => BreakBench::class, 'patterns' => PatternBench::class, 'rigid' => RigidBench::class, 'rubble' => RubbleBench::class, 'colliders' => ColliderBench::class, 'contact' => ContactBench::class, 'mortar' => MortarBench::class, 'dust' => DustBench::class, 'cloth' => ClothBench::class, 'page' => PageBench::class, 'compiler' => CompilerBench::class, 'models' => ModelBench::class, 'viewers' => ViewersBench::class, 'trials' => TrialsBench::class, 'time' => TimeBench::class, 'weights' => WeightsBench::class];

    protected function configure(): void
    {
        $this->setName('bench')->setDescription('Measures what was promised, against a reference in the same run')
            ->addArgument('name', InputArgument::OPTIONAL, 'One of: '.implode(', ', array_keys(self::BENCHES)).'; all without it')
            ->withCommonOptions();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $name = $input->getArgument('name');
        if (is_string($name) && ! isset(self::BENCHES[$name])) {
            throw Problem::inValue('name', 'There is no benchmark called "'.$name.'".', 'Choose one of: '.implode(', ', array_keys(self::BENCHES)).'.');
        }
        $all = [];
        foreach (self::BENCHES as $key => $class) {
            if ($name !== null && $name !== $key) {
                continue;
            }
            $rows = (new $class)->rows($this->settings($input));
            $all[$key] = $rows;
            if (! $input->getOption('json')) {
                $output->writeln($key);
                foreach ($rows as $row) {
                    $output->writeln('  '.implode('  ', array_map(static fn (string $k, mixed $v): string => $k.' '.(is_float($v) ? sprintf('%.4g', $v) : (is_bool($v) ? ($v ? 'yes' : 'NO') : (string) $v)), array_keys($row), $row)));
                }
            }
        }
        if ($input->getOption('json')) {
            $output->writeln((string) json_encode($all));
        }

        return self::SUCCESS;
    }
}
