<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Assert;
use YardBreak\Core\Geometry\Mesh;

/** Meshes other people made, from Debian's `libcgal-demo`. */
final class OutsideMeshes
{
    private const CGAL = '/usr/share/doc/libcgal-dev/data.tar.gz';

    /** Closed, in one piece, without crossings. */
    public const CLOSED = [
        'anchor', 'bear', 'couplingdown', 'eight', 'elephant', 'elk', 'fandisk', 'hand', 'joint', 'knot1', 'dragknob', 'blobby',
        'double-torus-example', '3torus',
    ];

    /** @return list<string> every mesh of CGAL's data in the Object File Format */
    public static function names(): array
    {
        [$code, $text] = OutsideTools::run(['tar', 'tzf', self::CGAL]);
        Assert::assertSame(0, $code, 'Debian libcgal-demo is missing');
        preg_match_all('~^data/meshes/([^/]+)\.off$~m', $text, $found);
        sort($found[1]);

        return $found[1];
    }

    /** A mesh of CGAL's data, which is in the Object File Format. */
    public static function cgal(string $name): Mesh
    {
        [$code, $text] = OutsideTools::run(['tar', 'xzOf', self::CGAL, 'data/meshes/'.$name.'.off']);
        Assert::assertSame(0, $code, 'Debian libcgal-demo is missing');
        // Points may bring colours along.
        $text = trim((string) preg_replace('/#.*$/m', '', $text));
        $more = str_starts_with($text, 'COFF') ? 4 : 0;
        $numbers = preg_split('/\s+/', trim((string) preg_replace('/^\s*C?OFF\s*/', '', $text)));
        assert($numbers !== false);
        [$points, $polygons] = [(int) $numbers[0], (int) $numbers[1]];
        $x = $y = $z = $faces = [];
        $at = 3;
        for ($i = 0; $i < $points; $i++) {
            $x[] = (float) $numbers[$at++];
            $y[] = (float) $numbers[$at++];
            $z[] = (float) $numbers[$at++];
            $at += $more;
        }
        for ($i = 0; $i < $polygons; $i++) {
            $n = (int) $numbers[$at++];
            for ($k = 2; $k < $n; $k++) {
                array_push($faces, (int) $numbers[$at], (int) $numbers[$at + $k - 1], (int) $numbers[$at + $k]);
            }
            $at += $n;
        }

        return new Mesh($x, $y, $z, $faces);
    }
}
