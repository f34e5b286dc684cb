<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Problem;

/** Puts pictures in the order of the numbers in their names, as the footage behind a shot. */
final class PlateMaker
{
    private const MOST = 5000;

    /**
     * @param  list<array{name: string, asset: string}>  $files
     * @param  callable(string): string  $path  where an asset lies
     * @return array{plate: array{name: string, width: int, height: int, frames: list<array{frame: int, asset: string}>}, missing: list<int>} the plate,
     *   and the numbers that are not there between its first and last
     *
     * @throws Problem where a picture has no number, cannot be read, or is of another size than the others
     */
    public static function of(array $files, callable $path): array
    {
        if ($files === [] || count($files) > self::MOST) {
            throw Problem::inFile('A plate has between 1 and '.self::MOST.' pictures.', 'Bring in a stretch of them.');
        }
        $frames = [];
        $size = null;
        $first = '';
        foreach ($files as ['name' => $name, 'asset' => $asset]) {
            if (preg_match('/(\d{1,7})\D*$/', pathinfo($name, PATHINFO_FILENAME), $number) !== 1) {
                if (count($files) > 1) {
                    throw Problem::inFile(
                        '"'.mb_substr($name, -60).'" has no number in its name, so it cannot be told which frame it is.',
                        'Number the pictures, as plate.0001.jpg.',
                    );
                }
                $number = ['0', '0'];
            }
            $frame = (int) $number[1];
            if (isset($frames[$frame])) {
                throw Problem::inFile('Two pictures have the number '.$frame.'.', 'Bring in one of them.');
            }
            $now = @getimagesize($path($asset));
            if ($now === false) {
                throw Problem::inFile('"'.mb_substr($name, -60).'" is no picture that can be read.', 'Use PNG or JPEG.');
            }
            $size ??= [$now[0], $now[1]];
            $first = $first === '' ? $name : $first;
            if ($size !== [$now[0], $now[1]]) {
                throw Problem::inFile(
                    sprintf('"%s" is %d × %d pixels, but "%s" is %d × %d.', mb_substr($name, -60), $now[0], $now[1], mb_substr($first, -60), ...$size),
                    'Make all pictures of a plate the same size.',
                );
            }
            $frames[$frame] = $asset;
        }
        ksort($frames);
        $missing = array_values(array_diff(range((int) array_key_first($frames), (int) array_key_last($frames)), array_keys($frames)));

        return ['plate' => [
            'name' => mb_substr((string) preg_replace('/[._ -]*\d+\D*$/', '', pathinfo($first, PATHINFO_FILENAME)) ?: 'Plate', 0, 200),
            'width' => $size[0],
            'height' => $size[1],
            'frames' => array_map(static fn (int $frame, string $asset): array => ['frame' => $frame, 'asset' => $asset], array_keys($frames), $frames),
        ], 'missing' => array_slice($missing, 0, 1000)];
    }
}
