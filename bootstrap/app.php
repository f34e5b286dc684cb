<?php

declare(strict_types=1);

use App\Http\Middleware\SameSiteOnly;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Problem;

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(web: __DIR__.'/../routes/web.php', api: __DIR__.'/../routes/api.php', health: '/up')
    ->withCommands([__DIR__.'/../app/Console/Commands'])
    ->withMiddleware(function (Middleware $middleware): void {
        $middleware->remove([Illuminate\Http\Middleware\HandleCors::class, Illuminate\Foundation\Http\Middleware\TrimStrings::class, Illuminate\Foundation\Http\Middleware\ConvertEmptyStringsToNull::class]);
        $middleware->group('web', []);
        $middleware->group('api', [SameSiteOnly::class, Illuminate\Routing\Middleware\SubstituteBindings::class]);
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        $exceptions->dontReport(Problem::class);
        $exceptions->render(static fn (Problem $e): JsonResponse => response()->json(['problem' => $e->toArray()], $e->kind === 'disk' ? 507 : 422));
        $exceptions->shouldRenderJsonWhen(static fn (Request $request): bool => $request->is('api/*'));
        $exceptions->respond(static function (Symfony\Component\HttpFoundation\Response $response, Throwable $e, Request $request): Symfony\Component\HttpFoundation\Response {
            if (! $request->is('api/*') || ($response->getStatusCode() !== 404 && $response->getStatusCode() < 500) || $e instanceof Problem) {
                return $response;
            }
            $gone = $response->getStatusCode() === 404;

            return response()->json(['problem' => [
                'kind' => $gone ? 'missing' : 'internal',
                'message' => $gone ? 'That is no longer there.' : 'Something went wrong inside Yard Break.',
                'path' => '',
                'remedy' => $gone ? 'Go back to the yard.' : 'Nothing you entered is lost. Try again; the log in storage/logs says more.',
            ]], $response->getStatusCode());
        });
    })->create();
