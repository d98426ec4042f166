<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <meta name="isotome-largest-upload" content="{{ config('isotome.largest_upload') }}">
    <title>Isotome</title>
    <link rel="icon" href="/mark.svg" type="image/svg+xml">
    @vite(['resources/ts/main.ts'])
</head>
<body>
    <div id="app"></div>
</body>
</html>
