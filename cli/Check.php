<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use YardBreak\Core\Check\SiteCheck;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;

final class Check extends Command
{
    protected function configure(): void
    {
        $this->setName('check')->setDescription('Reads a shot and says what is wrong or doubtful before a bake')
            ->addArgument('shot', InputArgument::REQUIRED, 'A shot document (JSON)')
            ->withCommonOptions();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $path = (string) $input->getArgument('shot');
        $shot = self::shot($path);
        $findings = (new SiteCheck(new PropMaker(new LocalAssets(dirname($path)))))->of($shot);
        $wrong = count(array_filter($findings, static fn (array $f): bool => $f['level'] === 'wrong'));
        if ($input->getOption('json')) {
            $output->writeln((string) json_encode(['ok' => $wrong === 0, 'findings' => $findings], JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));
        } else {
            foreach ($findings as $f) {
                $output->writeln(sprintf('%-9s %s: %s %s', $f['level'], $f['path'], $f['message'], $f['remedy']));
            }
            $output->writeln($findings === [] ? 'Nothing to look at.' : sprintf('%d to look at.', count($findings)));
        }

        return $wrong === 0 ? self::SUCCESS : self::FAILURE;
    }

    /** @throws Problem */
    public static function shot(string $path): ShotSpec
    {
        if (! is_file($path)) {
            throw Problem::inFile('There is no file '.$path.'.', 'Check the name and the folder.');
        }

        return ShotSpec::fromJson((string) file_get_contents($path));
    }
}
