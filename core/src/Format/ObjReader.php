<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Problem;

/** Wavefront OBJ, read line by line: v, vn, vt, f (any number of corners, negative indices), o, g and usemtl. */
final class ObjReader
{
    /** Bytes of a line, continued ones taken together. */
    private const LONGEST_LINE = 1 << 20;

    private readonly MeshBuilder $mesh;

    /** @var list<float> three numbers each */
    private array $normals = [];

    /** @var list<float> two numbers each */
    private array $places = [];

    private int $line = 0;

    /** @param  resource  $in */
    private function __construct(private $in, private readonly string $name)
    {
        $this->mesh = new MeshBuilder($name);
    }

    /** @param  resource  $in */
    public static function read($in, string $name): MeshFile
    {
        $self = new self($in, $name);
        while (($text = $self->next()) !== null) {
            $self->statement($text);
        }

        return $self->mesh->file();
    }

    /** The next line with those it is continued on, or null at the end. */
    private function next(): ?string
    {
        $whole = '';
        do {
            $text = fgets($this->in, self::LONGEST_LINE);
            if ($text === false) {
                return $whole === '' ? null : $whole;
            }
            $this->line++;
            if ($this->line === 1) {
                $text = str_starts_with($text, Text::BYTE_ORDER_MARK) ? substr($text, 3) : $text;
                if (str_contains($text, "\0")) {
                    throw Problem::inFile($this->name.' is not a text file, so it is no OBJ.', 'Check that the ending matches the content.');
                }
            }
            $text = rtrim($text, "\r\n");
            $on = str_ends_with($text, '\\');
            $whole .= $on ? substr($text, 0, -1).' ' : $text;
            if (strlen($whole) >= self::LONGEST_LINE - 2) {
                throw $this->bad('it is longer than a line may be');
            }
        } while ($on);

        return $whole;
    }

    private function statement(string $text): void
    {
        $part = preg_split('/\s+/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: [''];
        switch ($part[0]) {
            case 'v':
                if (count($part) < 4 || ! is_numeric($part[1]) || ! is_numeric($part[2]) || ! is_numeric($part[3])) {
                    throw $this->bad('a point needs three numbers');
                }
                $this->mesh->vertex((float) $part[1], (float) $part[2], (float) $part[3]);
                break;
            case 'vn':
                $this->list($this->normals, $part, 3, 'normals');
                break;
            case 'vt':
                $this->list($this->places, $part, 2, 'places in a picture');
                break;
            case 'f':
                $this->face($part);
                break;
            case 'o':
            case 'g':
                $this->mesh->named(NamedFaces::Group, Text::of(implode(' ', array_slice($part, 1))) ?: 'unnamed');
                break;
            case 'usemtl':
                $this->mesh->named(NamedFaces::Material, Text::of(implode(' ', array_slice($part, 1))) ?: 'unnamed');
                break;
        }
    }

    /**
     * @param  list<float>  $list  grows by so many numbers
     * @param  list<string>  $part
     */
    private function list(array &$list, array $part, int $width, string $what): void
    {
        if (count($list) >= 3 * $width * MeshBuilder::MOST_FACES) {
            throw Problem::inFile($this->name.' has more '.$what.' than corners of faces can be.', 'Reduce the mesh before bringing it in.');
        }
        for ($k = 1; $k <= $width; $k++) {
            $value = (float) ($part[$k] ?? 0);
            $list[] = is_finite($value) ? $value : 0.0;
        }
    }

    /** @param  list<string>  $part */
    private function face(array $part): void
    {
        $n = count($part);
        $this->mesh->allows($n - 1);
        $corners = $shading = $uvs = [];
        for ($i = 1; $i < $n; $i++) {
            $index = explode('/', $part[$i]);
            if (! is_numeric($index[0]) || (int) $index[0] === 0) {
                throw $this->bad('a face corner must be a whole number other than 0');
            }
            $v = self::counted((int) $index[0], $this->mesh->vertexCount());
            if ($corners === [] || $corners[count($corners) - 1] !== $v) {
                $corners[] = $v;
                $k = 2 * self::known($index[1] ?? '', count($this->places) >> 1);
                if ($k >= 0) {
                    $uvs[] = [$this->places[$k], $this->places[$k + 1]];
                }
                $k = 3 * self::known($index[2] ?? '', intdiv(count($this->normals), 3));
                if ($k >= 0) {
                    $shading[] = [$this->normals[$k], $this->normals[$k + 1], $this->normals[$k + 2]];
                }
            }
        }
        if (count($corners) > 1 && $corners[0] === $corners[count($corners) - 1]) {
            array_pop($corners);
            $shading = array_slice($shading, 0, count($corners));
            $uvs = array_slice($uvs, 0, count($corners));
        }
        $this->mesh->polygon($corners, count($shading) === count($corners) ? $shading : null, count($uvs) === count($corners) ? $uvs : null);
    }

    /** A number as an OBJ counts, from 1 or back from the last, as a place in a list. */
    private static function counted(int $number, int $count): int
    {
        return $number > 0 ? $number - 1 : $count + $number;
    }

    /** The same for what may be missing: −1 then, and beyond the ends of the list. */
    private static function known(string $number, int $count): int
    {
        $at = is_numeric($number) ? self::counted((int) $number, $count) : -1;

        return $at >= 0 && $at < $count ? $at : -1;
    }

    private function bad(string $what): Problem
    {
        return Problem::inFile(sprintf('%s, line %d: %s.', $this->name, $this->line, $what), 'The file is damaged at that line; export it again.');
    }
}
