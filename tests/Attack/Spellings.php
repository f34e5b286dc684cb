<?php

declare(strict_types=1);

namespace Tests\Attack;

use Illuminate\Routing\Route as Line;
use Illuminate\Support\Facades\Route;

/** Every address of the yard, and the ways in which somebody might write one so that a door does not know it. */
final class Spellings
{
    /**
     * @param  array<string, string>  $with  what stands in the place of what a route leaves open
     * @return list<array{string, string}> method and path of all there are behind the pass phrase, with those answered before the framework
     */
    public static function routes(array $with): array
    {
        $out = [];
        foreach (Route::getRoutes()->getRoutes() as $line) {
            assert($line instanceof Line);
            if (! str_starts_with($line->uri(), 'api/')) {
                continue;
            }
            $path = '/'.(string) preg_replace_callback('/\{(\w+)\??\}/', static fn (array $name): string => $with[$name[1]] ?? 'x', $line->uri());
            foreach (array_diff($line->methods(), ['HEAD']) as $method) {
                $out[] = [$method, $path];
            }
        }

        return $out;
    }

    /** @return list<string> one path, spelt in its own and in other ways */
    public static function of(string $path): array
    {
        [, $first, $rest] = explode('/', $path, 3);
        $hex = static fn (string $text): string => implode('', array_map(static fn (string $c): string => sprintf('%%%02x', ord($c)), str_split($text)));

        return [
            $path,
            '/'.$hex($first[0]).substr($first, 1).'/'.$rest, '/'.$hex($first).'/'.$hex($rest), '/'.strtoupper($hex($first)).'/'.$rest, "/$first%2f$rest", "/$first%2F$rest", '/%2561pi/'.$rest,
            '/'.strtoupper($first).'/'.$rest, '/'.ucfirst($first).'/'.ucfirst($rest),
            '/'.$path, "/$first//$rest", "$path/", "$path//", "/./$first/$rest", "/$first/./$rest", "/x/../$first/$rest", "/build/../$first/$rest", "/shots/%2e%2e/$first/$rest", "/$first/..;/$first/$rest",
            "/index.php$path", "/INDEX.php$path", "/index.php/x/..$path", "/build/index.php$path", "/icon.svg$path", "/up$path", "/favicon.ico$path",
            'http://localhost'.$path, 'http://127.0.0.1:1'.$path, '//localhost'.$path,
            "$path?x=1", "$path%00", "$path%20", "$path;x=1", "$path%3fx", "/\\$first\\$rest", "/$first\\$rest", ltrim($path, '/'), "$path#x", "$path?/api/sign-in", "/api/sign-in/..$path", "/api/sign-in$path", '/api/sign-in?'.$path,
        ];
    }
}
