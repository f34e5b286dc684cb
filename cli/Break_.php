<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Format\GlbPiece;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Format\OutlineReader;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\SilentProgress;

final class Break_ extends Command
{
    protected function configure(): void
    {
        $this->setName('break')->setDescription('Breaks a mesh into shards, one file each')
            ->addArgument('mesh', InputArgument::OPTIONAL, 'An OBJ, STL, PLY or GLB file')
            ->addOption('pattern', null, InputOption::VALUE_REQUIRED, 'How to break it', 'cells')
            ->addOption('count', null, InputOption::VALUE_REQUIRED, 'Number of seeds')
            ->addOption('seed', null, InputOption::VALUE_REQUIRED, 'Another number, another break')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the shards; without it nothing is written')
            ->addOption('format', null, InputOption::VALUE_REQUIRED, implode(', ', MeshWriter::KINDS), 'stl')
            ->addOption('describe', null, InputOption::VALUE_NONE, 'List the settings of the pattern')
            ->withCommonOptions();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $pattern = (string) $input->getOption('pattern');
        if ($input->getOption('describe')) {
            $options = BreakCatalogue::describe()[$pattern]['options'] ?? throw Problem::inValue('pattern', 'There is no pattern called "'.$pattern.'".', 'Choose one of: '.implode(', ', array_keys(BreakCatalogue::PATTERNS)).'.');
            $output->writeln((string) json_encode($options, JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE));

            return self::SUCCESS;
        }
        $path = $input->getArgument('mesh');
        if (! is_string($path)) {
            throw new \Symfony\Component\Console\Exception\RuntimeException('Not enough arguments: name a mesh file.');
        }
        $format = (string) $input->getOption('format');
        if (! in_array($format, MeshWriter::KINDS, true)) {
            throw Problem::inValue('format', 'There is no format "'.$format.'".', 'Choose one of: '.implode(', ', MeshWriter::KINDS).'.');
        }
        $values = $this->settings($input);
        foreach (['count', 'seed'] as $name) {
            if ($input->getOption($name) !== null) {
                $values[$name] = (string) $input->getOption($name);
            }
        }
        BreakCatalogue::make($pattern, $values = $this->withFiles($pattern, $values));
        $mesh = MeshReader::read($path)->mesh;
        $how = BreakCatalogue::make($pattern, $values + (BreakCatalogue::lengths(Aabb::around($mesh)->size())[$pattern] ?? []));
        PropMaker::requireSolid(Fitness::of($mesh), basename($path));
        $mesh = FaceNormals::shaded($mesh);
        $start = hrtime(true);
        $shards = $how->break($mesh, new SilentProgress);
        $seconds = (hrtime(true) - $start) / 1e9;
        $result = [
            'shards' => count($shards),
            'volume_in' => MassProperties::of($mesh)->volume,
            ...$this->sizes($shards),
            'seconds' => round($seconds, 4),
            'peak_mb' => $this->peakMegabytes(),
        ];
        if ($input->getOption('out') !== null) {
            $this->write($shards, $this->folder((string) $input->getOption('out')), $format);
        }

        return $this->print($input, $output, $result);
    }

    /**
     * Drawings and cutting props are named by file on the command line.
     *
     * @param  array<string, string>  $values
     * @return array<string, mixed>
     */
    private function withFiles(string $pattern, array $values): array
    {
        foreach (BreakCatalogue::describe()[$pattern]['options'] ?? [] as $option) {
            $file = $values[$option['name']] ?? null;
            if ($file !== null && in_array($option['type'], ['outline', 'lines'], true)) {
                $values[$option['name']] = OutlineReader::read($file)->toArray();
            }
            if ($file !== null && $option['type'] === 'prop') {
                $values[$option['name']] = MeshReader::read($file)->mesh;
                PropMaker::requireSolid(Fitness::of($values[$option['name']]), basename($file));
            }
        }

        return $values;
    }

    /**
     * @param  list<Shard>  $shards
     * @return array<string, float|int>
     */
    private function sizes(array $shards): array
    {
        $volumes = array_map(static fn (Shard $s): float => $s->mass->volume, $shards);
        $sum = array_sum($volumes);
        sort($volumes);
        $tight = 0;
        foreach ($shards as $s) {
            $f = Fitness::of($s->mesh);
            $tight += $f->closed && $f->oriented ? 1 : 0;
        }

        return ['volume_out' => $sum, 'watertight' => $tight, 'smallest' => $volumes[0], 'median' => $volumes[intdiv(count($volumes), 2)], 'largest' => $volumes[count($volumes) - 1]];
    }

    /** @param  list<Shard>  $shards */
    private function write(array $shards, string $folder, string $format): void
    {
        if ($format === 'glb') {
            $pieces = [];
            foreach ($shards as $s) {
                $c = $s->mass->centroid;
                $pieces[] = new GlbPiece($s->name, $s->mesh->movedBy($c->times(-1.0)), position: $c->toArray());
            }
            (new GlbWriter($pieces))->write($folder.'/shards.glb');

            return;
        }
        foreach ($shards as $i => $s) {
            MeshWriter::write($s->mesh, sprintf('%s/shard-%04d.%s', $folder, $i + 1, $format), $format, $s->name);
        }
    }
}
