<?php

declare(strict_types=1);

namespace Tests\Attack;

/** What a bad disk, a power cut or a stray hand may do to the files of a bake. */
final class Damage
{
    /** @return array<string, \Closure(string): void> each does it to the files in a folder */
    public static function kinds(): array
    {
        $on = static fn (string $file, \Closure $do): \Closure => static function (string $folder) use ($file, $do): void {
            $paths = glob($folder.'/'.$file) ?: throw new \LogicException('There is no '.$file);
            $path = $paths[intdiv(count($paths), 2)];
            // A file may be that of another bake too; the damage is to this one.
            $bytes = (string) file_get_contents($path);
            unlink($path);
            $after = $do($bytes);
            $after === null ?: file_put_contents($path, $after);
        };
        $out = [];
        foreach (['the index' => 'index', 'a block' => 'frames-*', 'the figures' => 'figures.jsonl'] as $what => $file) {
            $out += [
                "$what deleted" => $on($file, static fn (): ?string => null),
                "$what emptied" => $on($file, static fn (): string => ''),
                "$what cut" => $on($file, static fn (string $b): string => substr($b, 0, intdiv(3 * strlen($b), 5))),
                "$what zeroed" => $on($file, static fn (string $b): string => str_repeat("\0", strlen($b))),
                "$what of random bytes" => $on($file, static fn (string $b): string => random_bytes(strlen($b))),
                "$what with one bit turned" => $on($file, static function (string $b): string {
                    $at = intdiv(strlen($b), 3);
                    $b[$at] = chr(ord($b[$at]) ^ 4);

                    return $b;
                }),
            ];
        }

        return $out + ['the folder gone' => static function (string $folder): void {
            exec('rm -rf '.escapeshellarg($folder));
        }, 'all states of random bytes' => static function (string $folder): void {
            foreach (glob($folder.'/state-*') ?: [] as $path) {
                file_put_contents($path, random_bytes(3000));
            }
        }];
    }
}
