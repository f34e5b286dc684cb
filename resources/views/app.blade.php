<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>Yard Break</title>
    <link rel="icon" href="data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 16 16'%3E%3Cpath d='M0 0h16v16H0z' fill='%231d2327'/%3E%3Cpath d='M3 2h5v6H3zM8 8h5v6H8z' fill='%23c8f031'/%3E%3C/svg%3E">
    @vite('resources/ts/main.tsx')
</head>
<body>
    <div id="app"></div>
</body>
</html>
