<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Exception\InvalidOptionException;
use Symfony\Component\Console\Input\ArgvInput;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Problem;

final class Prepare extends Command
{
    protected function configure(): void
    {
        $this->setName('prepare')->setDescription('Prepares a mesh: repairs, remeshes, subdivides, …')
            ->addArgument('mesh', InputArgument::OPTIONAL, 'An OBJ, STL, PLY or GLB file')
            ->addOption('step', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, implode(', ', array_keys(PrepareCatalogue::STEPS)).'; in the order given, each with the --set that follow it')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'File to write; its ending tells the format')
            ->addOption('describe', null, InputOption::VALUE_NONE, 'List the steps and their settings')
            ->withCommonOptions();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        if ($input->getOption('describe')) {
            $output->writeln((string) json_encode(PrepareCatalogue::describe(), JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE));

            return self::SUCCESS;
        }
        $path = $input->getArgument('mesh');
        if (! is_string($path)) {
            throw new InvalidOptionException('Not enough arguments: name a mesh file.');
        }
        $steps = $this->steps($input);
        if ($steps === []) {
            throw new InvalidOptionException('Name at least one --step.');
        }
        PrepareCatalogue::check($steps);
        $mesh = MeshReader::read($path)->mesh;
        $start = hrtime(true);
        $done = PrepareCatalogue::apply($mesh, $steps);
        $seconds = (hrtime(true) - $start) / 1e9;
        $fitness = Fitness::of($done);
        $out = $input->getOption('out');
        if (is_string($out)) {
            $kind = strtolower(pathinfo($out, PATHINFO_EXTENSION));
            if (! in_array($kind, MeshWriter::KINDS, true)) {
                throw Problem::inValue('out', 'The ending "'.$kind.'" is no format.', 'Choose one of: '.implode(', ', MeshWriter::KINDS).'.');
            }
            MeshWriter::write(FaceNormals::shaded($done), $out, $kind, pathinfo($out, PATHINFO_FILENAME));
        }

        return $this->print($input, $output, [
            'steps' => array_column($steps, 'step'), 'faces_in' => $mesh->faceCount(), 'faces' => $done->faceCount(), 'vertices' => $done->vertexCount(),
            'closed' => $fitness->closed, 'oriented' => $fitness->oriented, 'volume_in' => MassProperties::of($mesh)->volume, 'volume' => MassProperties::of($done)->volume,
            'shortest_edge' => $fitness->shortestEdge, 'longest_edge' => $fitness->longestEdge,
            'seconds' => round($seconds, 4), 'peak_mb' => $this->peakMegabytes(),
        ]);
    }

    /**
     * Steps may be repeated, so the order of the words matters and they are read once more as they stand.
     *
     * @return list<array{step: string, values: array<string, string>}>
     */
    private function steps(InputInterface $input): array
    {
        if (! $input instanceof ArgvInput) {
            return array_map(fn (string $step): array => ['step' => $step, 'values' => $this->settings($input)], array_values((array) $input->getOption('step')));
        }
        $steps = [];
        $words = $input->getRawTokens();
        foreach ($words as $i => $word) {
            $value = match (true) {
                $word === '--step', $word === '--set' => (string) ($words[$i + 1] ?? ''),
                str_starts_with($word, '--step='), str_starts_with($word, '--set=') => substr($word, strpos($word, '=') + 1),
                default => null,
            };
            if ($value === null) {
                continue;
            }
            if (str_starts_with($word, '--step')) {
                $steps[] = ['step' => $value, 'values' => []];

                continue;
            }
            $pair = explode('=', $value, 2);
            if (count($pair) !== 2 || $steps === []) {
                throw new InvalidOptionException('--set takes name=value, after the --step it belongs to.');
            }
            $steps[count($steps) - 1]['values'][$pair[0]] = $pair[1];
        }

        return $steps;
    }
}
