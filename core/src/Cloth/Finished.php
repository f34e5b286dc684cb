<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SamePlaces;
use YardBreak\Core\Geometry\Stencil;
use YardBreak\Core\Prepare\Thicken;
use YardBreak\Core\Problem;

/**
 * The pieces of a prop as they are finished: points that lie in one place are one, every face is divided, and what has a thickness has
 * two sides and a rim. Where its points are follows from where those are that move.
 */
final readonly class Finished
{
    /**
     * @param  int  $moving  how many points move
     * @param  list<Mesh>  $pieces  as made
     * @param  list<Stencil>  $rounds  from the points that move to those of its one surface
     * @param  list<int>  $faces  flat triples of these
     * @param  list<int>  $rows  by point of all pieces, one after the other: which of these it is
     * @param  list<float>  $sides  likewise: share of the thickness that it lies outside
     * @param  list<list<int>>  $looks  by piece and face: 1 where it looks as the surface does, −1 the other way, 0 across
     */
    private function __construct(
        private int $moving,
        public array $pieces,
        public array $rounds,
        public array $faces,
        public array $rows,
        public array $sides,
        public array $looks,
        public Finish $finish,
    ) {
    }

    /**
     * @param  list<Mesh>  $meshes  of the pieces of a prop
     *
     * @throws Problem where that would be too many faces
     */
    public static function of(array $meshes, Finish $finish): self
    {
        $many = $finish->faces(array_sum(array_map(static fn (Mesh $m): int => $m->faceCount(), $meshes)));
        if ($many > Finish::MOST_FACES) {
            throw Problem::outOfRange('finish.times', 'The number of faces', $many, 'at most '.Finish::MOST_FACES);
        }
        $pieceOf = $x = $y = $z = $faces = [];
        foreach ($meshes as $piece => $mesh) {
            $base = count($x);
            array_push($x, ...$mesh->x);
            array_push($y, ...$mesh->y);
            array_push($z, ...$mesh->z);
            array_push($pieceOf, ...array_fill(0, count($mesh->x), $piece));
            foreach ($mesh->faces as $v) {
                $faces[] = $base + $v;
            }
        }
        [$pointOf, $vertices] = SamePlaces::numbered(new Mesh($x, $y, $z, []), $pieceOf);
        $faces = array_map(static fn (int $v): int => $pointOf[$v], $faces);
        $rounds = [Stencil::picking($vertices)];
        $uvs = array_map(static fn (Mesh $m): ?array => $m->uvs, $meshes);
        for ($k = 0; $k < $finish->times; $k++) {
            [$rounds[], $faces] = Stencil::divided($faces, $rounds[$k]->count(), true);
            $uvs = array_map(static fn (?array $of): ?array => $of === null ? null : self::quartered($of), $uvs);
        }
        foreach ($rounds as $round) {
            [$x, $y, $z] = [$round->apply($x), $round->apply($y), $round->apply($z)];
        }
        $pieces = $rows = $sides = $looks = [];
        $at = 0;
        foreach ($meshes as $k => $mesh) {
            $many = $mesh->faceCount() * 4 ** $finish->times;
            $own = array_slice($faces, 3 * $at, 3 * $many);
            $at += $many;
            [$pieces[], $looks[]] = self::piece($mesh, $own, [$x, $y, $z], $uvs[$k], $finish, $rows, $sides);
        }
        $out = new self(count($pointOf), $pieces, $rounds, $faces, $rows, $sides, $looks, $finish);

        return new self(count($pointOf), $out->with([$x, $y, $z]), $rounds, $faces, $rows, $sides, $looks, $finish);
    }

    /**
     * @param  list<int>  $faces  its own, of all points
     * @param  array{list<float>, list<float>, list<float>}  $at
     * @param  list<float>|null  $uvs
     * @param  list<int>  $rows
     * @param  list<float>  $sides
     * @return array{Mesh, list<int>} and which way its faces look
     */
    private static function piece(Mesh $mesh, array $faces, array $at, ?array $uvs, Finish $finish, array &$rows, array &$sides): array
    {
        $own = array_keys(array_flip($faces));
        $number = array_flip($own);
        $pick = static fn (array $axis): array => array_map(static fn (int $p): float => $axis[$p], $own);
        [$x, $y, $z] = array_map($pick, $at);
        $n = count($own);
        $many = intdiv(count($faces), 3);
        $times = 4 ** $finish->times;
        $side = array_merge(...array_map(static fn (int $s): array => array_fill(0, $times, $s), $mesh->sides ?? array_fill(0, $mesh->faceCount(), Mesh::OUTER)), ...[[]]);
        $made = new Mesh($x, $y, $z, array_map(static fn (int $p): int => $number[$p], $faces), null, $side, $uvs);
        array_push($rows, ...$own);
        if ($finish->thickness <= 0.0) {
            array_push($sides, ...array_fill(0, $n, 0.0));

            return [$made, array_fill(0, $many, 1)];
        }
        array_push($rows, ...$own);
        array_push($sides, ...array_fill(0, $n, 0.5), ...array_fill(0, $n, -0.5));
        $plate = Thicken::plate($made, [$x, $y, $z], [$x, $y, $z]);
        $rim = $plate->faceCount() - 2 * $many;
        $plate = new Mesh($plate->x, $plate->y, $plate->z, $plate->faces, null, [...$side, ...$side, ...array_fill(0, $rim, Mesh::OUTER)], $plate->uvs);

        return [$plate, [...array_fill(0, $many, 1), ...array_fill(0, $many, -1), ...array_fill(0, $rim, 0)]];
    }

    /**
     * @param  list<float>  $uvs  six numbers a face
     * @return list<float> of four faces for each
     */
    private static function quartered(array $uvs): array
    {
        $out = [];
        for ($i = 0, $n = count($uvs); $i < $n; $i += 6) {
            [$au, $av, $bu, $bv, $cu, $cv] = array_slice($uvs, $i, 6);
            [$ab, $bc, $ca] = [[0.5 * ($au + $bu), 0.5 * ($av + $bv)], [0.5 * ($bu + $cu), 0.5 * ($bv + $cv)], [0.5 * ($cu + $au), 0.5 * ($cv + $av)]];
            array_push($out, $au, $av, ...$ab, ...$ca, ...$ab, ...[$bu, $bv], ...$bc, ...$ca, ...$bc, ...[$cu, $cv], ...$ab, ...$bc, ...$ca);
        }

        return $out;
    }

    /** How many points move. */
    public function moving(): int
    {
        return $this->moving;
    }

    /**
     * Its pieces where the points that move are.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<Mesh>
     */
    public function at(array $x, array $y, array $z): array
    {
        foreach ($this->rounds as $round) {
            [$x, $y, $z] = [$round->apply($x), $round->apply($y), $round->apply($z)];
        }

        return $this->with([$x, $y, $z]);
    }

    /**
     * @param  list<float>  $values  by point that moves
     * @return list<float> by point of all pieces
     */
    public function carried(array $values): array
    {
        foreach ($this->rounds as $round) {
            $values = $round->apply($values);
        }

        return array_map(static fn (int $row): float => $values[$row], $this->rows);
    }

    /**
     * @param  array{list<float>, list<float>, list<float>}  $at  points of its one surface
     * @return list<Mesh>
     */
    private function with(array $at): array
    {
        $normals = FaceNormals::atPoints(new Mesh($at[0], $at[1], $at[2], $this->faces));
        $out = [];
        $from = 0;
        foreach ($this->pieces as $k => $piece) {
            $axes = [];
            foreach ($at as $a => $axis) {
                $own = [];
                for ($v = $from, $end = $from + count($piece->x); $v < $end; $v++) {
                    $own[] = $axis[$this->rows[$v]] + $this->finish->thickness * $this->sides[$v] * $normals[$a][$this->rows[$v]];
                }
                $axes[] = $own;
            }
            $mesh = new Mesh($axes[0], $axes[1], $axes[2], $piece->faces, null, $piece->sides, $piece->uvs);
            $out[] = $mesh->withNormals($this->finish->smooth ? $this->shading($mesh, $k, $from, $normals) : FaceNormals::flat($mesh));
            $from += count($piece->x);
        }

        return $out;
    }

    /**
     * @param  array{list<float>, list<float>, list<float>}  $normals  of its one surface
     * @return list<float> nine numbers a face
     */
    private function shading(Mesh $mesh, int $piece, int $from, array $normals): array
    {
        $out = FaceNormals::flat($mesh);
        foreach ($mesh->faces as $k => $v) {
            $way = $this->looks[$piece][intdiv($k, 3)];
            if ($way !== 0) {
                $row = $this->rows[$from + $v];
                $out[3 * $k] = $way * $normals[0][$row];
                $out[3 * $k + 1] = $way * $normals[1][$row];
                $out[3 * $k + 2] = $way * $normals[2][$row];
            }
        }

        return $out;
    }
}
