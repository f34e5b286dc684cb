<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>Yard Break</title>
    <base href="{{ rtrim(request()->header('X-Forwarded-Prefix', ''), '/') }}/">
    <link rel="icon" href="icon.svg">
    @vite('resources/ts/main.tsx')
</head>
<body>
    <div id="app"></div>
</body>
</html>
