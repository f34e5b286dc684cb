<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Geometry\Fitness;

final class Inspect extends Command
{
    protected function configure(): void
    {
        $this->setName('inspect')->setDescription('Says what a mesh is made of and whether it can be broken')
            ->addArgument('mesh', InputArgument::REQUIRED, 'An OBJ, STL, PLY or GLB file')
            ->withCommonOptions();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $mesh = MeshReader::read((string) $input->getArgument('mesh'))->mesh;
        $fitness = Fitness::of($mesh)->withCrossing($mesh)->toArray();
        if (! $input->getOption('json')) {
            $fitness['faults'] = implode(' ', array_column($fitness['faults'], 'fault')) ?: 'none';
        }

        return $this->print($input, $output, $fitness);
    }
}
