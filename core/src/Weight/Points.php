<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Arrivals;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/** Where a map is asked for: the points of a prop's surface, or its pieces by their middles; in the prop's own coordinates. */
final class Points
{
    /** @var array<int, list<int>>|null by point: those beside it */
    private ?array $beside = null;

    /** @var list<array{int, int, float}>|null */
    private ?array $ways = null;

    /** @var array{list<float>, list<float>, list<float>}|null */
    private ?array $normals = null;

    /** @var list<int>|null */
    private ?array $pieceOf = null;

    private ?string $fingerprint = null;

    /**
     * @param  string  $key  the same for the same points
     * @param  string  $prop  id
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  Mesh|null  $mesh  whose points these are; null for pieces
     * @param  \Closure(): list<string>  $findNames
     * @param  list<float>  $volumes  of pieces, m³
     * @param  (\Closure(): list<array{int, int, float}>)|null  $findWays
     * @param  (\Closure(): list<int>)|null  $findPieces
     * @param  self|null  $own  the same points before they were turned
     */
    private function __construct(
        public readonly string $key,
        public readonly string $prop,
        public readonly array $x,
        public readonly array $y,
        public readonly array $z,
        public readonly ?Mesh $mesh,
        private readonly \Closure $findNames,
        public readonly array $volumes,
        private readonly ?\Closure $findWays,
        private readonly ?\Closure $findPieces,
        private readonly ?self $own = null,
        private readonly ?Quaternion $turn = null,
    ) {
    }

    /**
     * @param  \Closure(): list<string>  $names  of the pieces of the prop
     * @param  \Closure(): list<int>  $pieceOf  by point: the number of its piece
     */
    public static function ofMesh(string $key, string $prop, Mesh $mesh, \Closure $names, \Closure $pieceOf): self
    {
        return new self($key, $prop, $mesh->x, $mesh->y, $mesh->z, $mesh, $names, [], null, $pieceOf);
    }

    /**
     * @param  list<string>  $names
     * @param  array{list<float>, list<float>, list<float>}  $middles
     * @param  list<float>  $volumes  m³
     * @param  \Closure(): list<array{int, int, float}>  $ways  two pieces that lie face to face, and how far it is from one to the other
     */
    public static function ofPieces(string $key, string $prop, array $names, array $middles, array $volumes, \Closure $ways): self
    {
        return new self($key, $prop, $middles[0], $middles[1], $middles[2], null, static fn (): array => $names, $volumes, $ways, null);
    }

    /** @return array{list<float>, list<float>, list<float>} one a point, of unit length; zero for pieces */
    public function normals(): array
    {
        return $this->normals ??= $this->findNormals();
    }

    /** @return array{list<float>, list<float>, list<float>} */
    private function findNormals(): array
    {
        if ($this->own !== null) {
            $own = $this->own->normals();
            if ($this->turn === null) {
                return $own;
            }
            $turned = (new Mesh($own[0], $own[1], $own[2], []))->placed(new Placement(Vec3::zero(), $this->turn));

            return [$turned->x, $turned->y, $turned->z];
        }
        $none = array_fill(0, $this->count(), 0.0);

        return $this->mesh === null ? [$none, $none, $none] : FaceNormals::atPoints($this->mesh);
    }

    /** @return list<string> names of the pieces of the prop */
    public function names(): array
    {
        return ($this->findNames)();
    }

    /** @return list<array{int, int, float}> between pieces that lie face to face */
    public function ways(): array
    {
        return $this->ways ??= $this->findWays === null ? [] : ($this->findWays)();
    }

    /** @return list<int> by point of a mesh: the number of its piece */
    public function pieceOf(): array
    {
        return $this->pieceOf ??= $this->findPieces === null ? [] : ($this->findPieces)();
    }

    /** The same for the same points in the same places. */
    public function fingerprint(): string
    {
        if ($this->fingerprint === null) {
            $all = hash_init('xxh128');
            foreach ([$this->x, $this->y, $this->z] as $axis) {
                foreach (array_chunk($axis, 8192) as $chunk) {
                    hash_update($all, pack('e*', ...$chunk));
                }
            }
            $this->fingerprint = hash_final($all);
        }

        return $this->fingerprint;
    }

    public function count(): int
    {
        return count($this->x);
    }

    public function arePieces(): bool
    {
        return $this->mesh === null;
    }

    /** The same points as something else sees them. */
    public function placed(Placement $at): self
    {
        return $this->with((new Mesh($this->x, $this->y, $this->z, []))->placed($at), $at->turn);
    }

    public function movedBy(Vec3 $d): self
    {
        return $this->with((new Mesh($this->x, $this->y, $this->z, []))->movedBy($d), null);
    }

    private function with(Mesh $there, ?Quaternion $turn): self
    {
        return new self(
            $this->key, $this->prop, $there->x, $there->y, $there->z, $this->mesh, $this->findNames, $this->volumes, $this->findWays,
            $this->findPieces, $this, $turn,
        );
    }

    /**
     * Fronts over these points.
     *
     * @param  list<float>  $slow  by point: how much longer a way is there
     */
    public function arrivals(array $slow = []): Arrivals
    {
        if ($this->mesh !== null) {
            return Arrivals::over($this->mesh, $slow);
        }

        return Arrivals::along(
            $this->count(),
            $slow === []
                ? $this->ways()
                : array_map(static fn (array $way): array => [$way[0], $way[1], 0.5 * $way[2] * ($slow[$way[0]] + $slow[$way[1]])], $this->ways()),
        );
    }

    /** @return array<int, list<int>> by point: those an edge or a face away */
    public function beside(): array
    {
        if ($this->beside === null) {
            $beside = array_fill(0, $this->count(), []);
            foreach ($this->ways() as [$a, $b]) {
                $beside[$a][$b] = $b;
                $beside[$b][$a] = $a;
            }
            $faces = $this->mesh === null ? [] : $this->mesh->faces;
            for ($k = 0, $n = count($faces); $k < $n; $k++) {
                $p = $faces[$k];
                $q = $faces[$k % 3 === 2 ? $k - 2 : $k + 1];
                $beside[$p][$q] = $q;
                $beside[$q][$p] = $p;
            }
            $this->beside = array_map(array_values(...), $beside);
        }

        return $this->beside;
    }
}
