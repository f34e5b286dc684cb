<?php

declare(strict_types=1);

use App\Http\Middleware\BodyLimit;
use App\Http\Middleware\Guarded;
use App\Http\Middleware\Measured;
use App\Http\Middleware\SameSiteOnly;
use App\Http\Refusal;
use App\Storage\Room;
use App\Yard\Conflict;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;
use YardBreak\Core\Problem;

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(web: __DIR__.'/../routes/web.php', api: __DIR__.'/../routes/api.php')
    ->withCommands([__DIR__.'/../app/Console/Commands'])
    ->withMiddleware(function (Middleware $middleware): void {
        $middleware->remove([Illuminate\Http\Middleware\HandleCors::class, Illuminate\Foundation\Http\Middleware\TrimStrings::class, Illuminate\Foundation\Http\Middleware\ConvertEmptyStringsToNull::class]);
        $middleware->prepend(Measured::class);
        $middleware->prepend(Guarded::class);
        $middleware->group('web', []);
        $middleware->group('api', [BodyLimit::class, SameSiteOnly::class, Illuminate\Routing\Middleware\SubstituteBindings::class]);
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        $exceptions->map(static fn (Throwable $e): Throwable => Room::problem($e) ?? $e);
        $exceptions->dontReport(Problem::class);
        $exceptions->render(static fn (Problem $e): JsonResponse => response()->json(['problem' => $e->toArray()], in_array($e->kind, [Problem::DISK, Problem::FULL], true) ? 507 : 422));
        // Whatever its bytes are: patterns do not match what is no text.
        $api = static fn (Request $request): bool => str_starts_with($request->getPathInfo(), '/api/');
        $exceptions->shouldRenderJsonWhen($api);
        $exceptions->respond(static fn (Response $response, Throwable $e, Request $request): Response => $api($request) && ! $e instanceof Problem && ! $e instanceof Conflict ? Refusal::of($response) : $response);
    })->create();
