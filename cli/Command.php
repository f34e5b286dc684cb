<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Command\Command as Base;
use Symfony\Component\Console\Exception\InvalidOptionException;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** What all commands share: `--set name=value`, and results as text or as one JSON object. */
abstract class Command extends Base
{
    protected function withCommonOptions(): static
    {
        return $this
            ->addOption('json', null, InputOption::VALUE_NONE, 'Print one JSON object and nothing else')
            ->addOption('set', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'A further setting, as name=value');
    }

    /** @return array<string, string> */
    protected function settings(InputInterface $input): array
    {
        $out = [];
        foreach ((array) $input->getOption('set') as $pair) {
            $parts = explode('=', (string) $pair, 2);
            if (count($parts) !== 2 || $parts[0] === '') {
                throw new InvalidOptionException('--set takes name=value, not "'.mb_substr((string) $pair, 0, 60).'".');
            }
            $out[$parts[0]] = $parts[1];
        }

        return $out;
    }

    /** @param  array<string, mixed>  $result */
    protected function print(InputInterface $input, OutputInterface $output, array $result): int
    {
        if ($input->getOption('json')) {
            $output->writeln((string) json_encode($result, JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION));

            return self::SUCCESS;
        }
        $width = max(array_map(strlen(...), array_keys($result)));
        foreach ($result as $name => $value) {
            $text = match (true) {
                is_bool($value) => $value ? 'yes' : 'no',
                is_float($value) => sprintf('%.6g', $value),
                is_array($value) => (string) json_encode($value),
                default => (string) $value,
            };
            $output->writeln(str_pad(str_replace('_', ' ', $name), $width + 2).$text);
        }

        return self::SUCCESS;
    }

    protected function peakMegabytes(): float
    {
        return round(memory_get_peak_usage() / 1e6, 1);
    }

    /** Makes a folder for results. */
    protected function folder(string $path): string
    {
        if (! is_dir($path) && ! @mkdir($path, 0o777, true)) {
            throw \YardBreak\Core\Problem::onDisk('The folder '.$path.' cannot be made.', 'Choose a folder you may write to.');
        }

        return rtrim($path, '/');
    }
}
