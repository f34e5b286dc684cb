<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Http\Response;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** The pages of the docs, to be read beside the work. */
final class HelpController
{
    private const KEPT = ['Cache-Control' => 'private, max-age=600'];

    public function page(string $page): Response
    {
        $text = @file_get_contents(base_path('docs/'.$page.'.md'));
        abort_if($text === false, 404);

        return response($text, 200, self::KEPT + ['Content-Type' => 'text/markdown; charset=utf-8']);
    }

    public function picture(string $folder, string $name): BinaryFileResponse
    {
        $path = base_path('docs/'.$folder.'/'.$name.'.png');
        abort_unless(is_file($path), 404);

        return response()->file($path, self::KEPT + ['Content-Type' => 'image/png']);
    }
}
