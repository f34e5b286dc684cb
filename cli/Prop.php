<?php

declare(strict_types=1);

namespace YardBreak\Cli;

use Symfony\Component\Console\Exception\InvalidOptionException;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Format\OutlineReader;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;

final class Prop extends Command
{
    protected function configure(): void
    {
        $this->setName('prop')->setDescription('Makes a mesh from a picture, a drawing, a text or a shape')
            ->addOption('from', null, InputOption::VALUE_REQUIRED, 'picture.png, drawing.svg, text:"FERN", or a shape: '.implode(', ', array_keys(ShapeCatalogue::SHAPES)))
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'File to write; its ending tells the format')
            ->addOption('describe', null, InputOption::VALUE_NONE, 'List the shapes and their settings')
            ->withCommonOptions();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        if ($input->getOption('describe')) {
            $output->writeln((string) json_encode(ShapeCatalogue::describe(), JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE));

            return self::SUCCESS;
        }
        $from = $input->getOption('from');
        if (! is_string($from) || $from === '') {
            throw new InvalidOptionException('Say what to make it from: --from=picture.png, --from=drawing.svg, --from=text:"FERN" or the name of a shape.');
        }
        $values = $this->settings($input);
        if (str_starts_with($from, 'text:')) {
            [$shape, $values['text']] = ['text', substr($from, 5)];
        } elseif (isset(ShapeCatalogue::SHAPES[$from])) {
            $shape = $from;
        } else {
            [$shape, $outline] = ['outline', OutlineReader::read($from)->toArray()];
        }
        $mesh = ShapeCatalogue::mesh($shape, isset($outline) ? [...$values, 'outline' => $outline] : $values);
        $out = $input->getOption('out');
        if (is_string($out)) {
            $kind = strtolower(pathinfo($out, PATHINFO_EXTENSION));
            if (! in_array($kind, MeshWriter::KINDS, true)) {
                throw Problem::inValue('out', 'The ending "'.$kind.'" is no format.', 'Choose one of: '.implode(', ', MeshWriter::KINDS).'.');
            }
            MeshWriter::write(FaceNormals::shaded($mesh), $out, $kind, pathinfo($out, PATHINFO_FILENAME));
        }
        $fitness = Fitness::of($mesh);

        return $this->print($input, $output, [
            'shape' => $shape, 'faces' => $mesh->faceCount(), 'parts' => $fitness->parts, 'closed' => $fitness->closed, 'oriented' => $fitness->oriented, 'volume' => MassProperties::of($mesh)->volume,
        ]);
    }
}
