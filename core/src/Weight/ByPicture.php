<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** By how bright a picture is, laid where the mesh says or thrown on from one side. */
final readonly class ByPicture implements Source
{
    /** @param  list<array{frame: int, asset: string, file: string}>  $pictures */
    private function __construct(
        private array $pictures,
        private bool $thrown,
        private Vec3 $middle,
        private Vec3 $along,
        private float $width,
        private float $black,
        private float $white,
    ) {
    }

    public static function label(): string
    {
        return 'Picture';
    }

    public static function meaning(): string
    {
        return 'Where a picture is bright';
    }

    public static function options(): array
    {
        return [
            new Option('pictures', 'Picture', 'One, or numbered ones that each stand for a frame.', PicturesKind::class, []),
            new Option('laid', 'Laid', 'Where the mesh says, or thrown on from one side.', Choice::class, 'thrown', choices: ['thrown', 'mesh']),
            new Option(
                'middle',
                'Middle',
                'Where the middle of the picture falls.',
                PointInTime::class,
                [0.0, 0.0, 0.0],
                -1000,
                1000,
                'm',
                with: 'laid=thrown',
            ),
            new Option('along', 'Along', 'The way it is thrown.', PointInTime::class, [0.0, 0.0, -1.0], -1, 1, with: 'laid=thrown'),
            new Option(
                'width',
                'Width',
                'How wide the picture is where it falls.',
                NumberInTime::class,
                1.0,
                0.0001,
                1000,
                'm',
                with: 'laid=thrown',
                share: 1.0,
            ),
            new Option('black', 'None at', 'As bright as this, the weight is 0.', NumberInTime::class, 0.0, 0, 1),
            new Option('white', 'Full at', 'As bright as this, the weight is 1.', NumberInTime::class, 1.0, 0, 1),
        ];
    }

    public static function of(array $values): self
    {
        if ($values['pictures'] === []) {
            throw Problem::inValue('pictures', 'There is no picture yet.', 'Bring one in, or several that are numbered.');
        }
        $along = Vec3::of($values['along']);
        if ($along->length() < 1e-6) {
            throw Problem::inValue('along', 'The way the picture is thrown has no length.', 'Give it a direction, such as 0,0,-1.');
        }

        return new self(
            $values['pictures'],
            $values['laid'] === 'thrown',
            Vec3::of($values['middle']),
            $along->unit(),
            $values['width'],
            $values['black'],
            $values['white'],
        );
    }

    public function reads(): array
    {
        return [];
    }

    public function inWorld(): bool
    {
        return false;
    }

    public function drifts(): bool
    {
        return count($this->pictures) > 1;
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        $picture = $this->shown($scene);
        if (! $this->thrown && $on->arePieces()) {
            return Carried::over($this->over($scene->points($on->prop), $scene, new Memory), $on, $scene->surface($on->prop));
        }
        [$u, $v] = $this->thrown ? $this->throw($on, $picture) : self::places($on);
        $span = $this->white - $this->black;
        $out = [];
        foreach ($u as $i => $at) {
            if ($this->thrown && ($at < 0.0 || $at > 1.0 || $v[$i] < 0.0 || $v[$i] > 1.0)) {
                $out[] = 0.0;

                continue;
            }
            $bright = $picture->at($at, $v[$i]);
            $out[] = $span === 0.0 ? ($bright >= $this->white ? 1.0 : 0.0) : max(0.0, min(1.0, ($bright - $this->black) / $span));
        }

        return $out;
    }

    private function shown(Scene $scene): Picture
    {
        $at = $this->pictures[0];
        foreach ($this->pictures as $one) {
            if ($one['frame'] <= $scene->frame()) {
                $at = $one;
            }
        }
        try {
            return $scene->picture($at['asset']);
        } catch (Problem $e) {
            throw new Problem(
                $e->kind,
                'The picture "'.$at['file'].'" (frame '.$at['frame'].') cannot be read: '.lcfirst($e->getMessage()),
                'pictures',
                'Bring it in again, or leave it out.',
            );
        }
    }

    /** @return array{list<float>, list<float>} */
    private function throw(Points $on, Picture $picture): array
    {
        $up = abs($this->along->y) > 0.99 ? new Vec3(0, 0, -1) : new Vec3(0, 1, 0);
        $right = $this->along->cross($up)->unit();
        $up = $right->cross($this->along);
        $height = $this->width * $picture->height / $picture->width;
        $u = $v = [];
        foreach ($on->x as $i => $x) {
            $d = (new Vec3($x, $on->y[$i], $on->z[$i]))->minus($this->middle);
            $u[] = 0.5 + $d->dot($right) / $this->width;
            $v[] = 0.5 + $d->dot($up) / $height;
        }

        return [$u, $v];
    }

    /**
     * @return array{list<float>, list<float>}
     *
     * @throws Problem where the mesh has no places for a picture
     */
    private static function places(Points $on): array
    {
        $uvs = $on->mesh?->uvs;
        if ($on->mesh === null || $uvs === null) {
            throw Problem::inValue('laid', 'The mesh does not say where a picture lies on it.', 'Throw the picture on from one side instead.');
        }
        $u = $v = array_fill(0, $on->count(), 0.0);
        foreach ($on->mesh->faces as $corner => $p) {
            $u[$p] = $uvs[2 * $corner] - floor($uvs[2 * $corner]);
            $v[$p] = $uvs[2 * $corner + 1] - floor($uvs[2 * $corner + 1]);
        }

        return [$u, $v];
    }
}
