<?php

declare(strict_types=1);

/*
 * Do the tests notice? Changes one place of one file at a time (a comparison, a sign, a condition, a number), runs the tests that ought to fail, and lists the
 * changes that none of them noticed. The same seed makes the same changes. The files are put back; run it in a clone all the same.
 *
 *     php bench/mutate.php [PER_FILE] [SEED] [PART_OF_A_FILE_NAME]
 */

/** Files, the test suite that knows them, and which of its tests. */
const FILES = [
    'core/Geometry/Turn.php' => ['core', 'TurnTest'],
    'core/Geometry/Sides.php' => ['core', 'FlatCutProperty|SplitTest|BladeGeometry|ScoreAndCatch'],
    'core/Geometry/Orientation.php' => ['core', 'OrientationTest|SweepTriangulation|SealTest'],
    'core/Geometry/Box.php' => ['core', 'BoxTest|BladeGeometry|BodiesTest|MeasuresTest|RailTest'],
    'core/Mesh/Bodies.php' => ['core', 'BodiesTest|PartingTest'],
    'core/Mesh/Cavities.php' => ['core', 'BodiesTest|WithinTest|PartingTest'],
    'core/Mesh/Within.php' => ['core', 'WithinTest'],
    'core/Cut/Divided.php' => ['core', 'SplitTest|PartingTest|FlatCutProperty|SeriesTest'],
    'core/Cut/Parting.php' => ['core', 'PartingTest'],
    'core/Cut/Border.php' => ['core', 'PartingTest'],
    'core/Format/Precision.php' => ['core', 'PrecisionTest|RoundedTest'],
    'core/Operation/SideBySide.php' => ['core', 'SideBySide'],
    'core/Mesh/EdgeCheck.php' => ['core', 'ChecksTest|FaultsTest|MendTest|FlatCutProperty'],
    'core/Mesh/Volume.php' => ['core', 'MeasuresTest'],
    'core/Mend/CloseRims.php' => ['core', 'MendTest'],
    'core/Mend/SmallestSurface.php' => ['core', 'MendTest'],
    'core/Measure/Sketch.php' => ['core', 'SketchTest'],
    'core/Fit/BuildSpace.php' => ['core', 'RailTest'],
    'core/Operation/Runner.php' => ['core', 'RunSteps|RecipeTest|ManifestTest|KindsTest|TurnTest'],
    'core/Operation/Names.php' => ['core', 'RunSteps|ManifestTest|RecipeTest|KindsTest'],
    'core/Schema/Settings.php' => ['core', 'RecipeTest|KindsTest'],
    'app/Answers/Answers.php' => ['http', 'Answers'],
    'app/Lineage/Undoing.php' => ['http', 'Lineage|SeveralParents'],
    'app/Lineage/History.php' => ['http', 'Lineage|Upgrade|OldData'],
    'app/Runs/Lease.php' => ['http', 'Runs|Answers'],
    'app/Runs/Keeper.php' => ['http', 'Runs|Answers'],
    'app/Http/Resources/StepResource.php' => ['http', 'StepsTest'],
    'app/Http/Requests/ListOfNumbers.php' => ['http', 'Upgrade|StepsTest|Fuzz|Standing'],
    'app/Foresight/PlaceForesight.php' => ['http', 'TurnTest'],
    'core/Drawn/Division.php' => ['core', 'DrawnTest'],
    'core/Drawn/WayOut.php' => ['core', 'DrawnTest'],
    'core/Drawn/Space.php' => ['core', 'DrawnTest|RoughTest'],
    'core/Drawn/RoughBlade.php' => ['core', 'RoughTest'],
    'core/Drawn/SvgOutlines.php' => ['core', 'SvgTest'],
    'app/Models/Project.php' => ['http', 'Shelf'],
    'core/Operation/Words.php' => ['http', 'Lineage|CutTest|TurnTest'],
];

const SWAPS = [
    '<' => '<=', '<=' => '<', '>' => '>=', '>=' => '>', '===' => '!==', '!==' => '===', '&&' => '||', '||' => '&&', '+' => '-', '-' => '+', '*' => '/', '++' => '--', '+=' => '-=',
    'true' => 'false', 'false' => 'true',
];

$root = dirname(__DIR__);
[$each, $seed, $part] = [(int) ($argv[1] ?? 4), (int) ($argv[2] ?? 1), $argv[3] ?? ''];
$made = $noticed = 0;
/** @phpstan-impure the files that it tests change */
function exitCodeOfTests(string $root, string $suite, string $filter): int
{
    exec(sprintf(
        'timeout 900 php -d memory_limit=2G -d opcache.enable_cli=0 %s --testsuite %s --filter %s --stop-on-failure --stop-on-error >/dev/null 2>&1',
        escapeshellarg("$root/vendor/bin/phpunit"), $suite, escapeshellarg($filter),
    ), result_code: $result);

    return $result;
}
foreach (FILES as $file => [$suite, $filter]) {
    if ($part !== '' && ! str_contains($file, $part)) {
        continue;
    }
    $source = (string) file_get_contents("$root/$file");
    if (exitCodeOfTests($root, $suite, $filter) !== 0) {
        echo "$file: its tests fail before anything is changed, or there are none.\n";

        continue;
    }
    $tokens = PhpToken::tokenize($source);
    $places = [];
    $isCode = false;
    foreach ($tokens as $n => $token) {
        // From the class on: declarations and names before it are no behaviour.
        $isCode = $isCode || $token->is([T_CLASS]);
        $text = strtolower($token->text);
        $isSign = in_array($text, ['+', '-'], true) && in_array(trim($tokens[$n - 1]->text === ' ' ? $tokens[$n - 2]->text : $tokens[$n - 1]->text), ['(', ',', '=', '[', 'return', '?', ':', '=>', '<', '>', '*'], true);
        if ($isCode && ! $isSign && (isset(SWAPS[$text]) || ($token->is(T_LNUMBER) && $tokens[$n - 1]->text !== '-'))) {
            $places[] = $n;
        }
    }
    mt_srand($seed + crc32($file));
    shuffle($places);
    foreach (array_slice($places, 0, $each) as $n) {
        $text = $tokens[$n]->text;
        $new = SWAPS[strtolower($text)] ?? (string) ((int) $text + 1);
        $code = '';
        foreach ($tokens as $k => $token) {
            $code .= $k === $n ? $new : $token->text;
        }
        file_put_contents("$root/$file", $code);
        $result = exitCodeOfTests($root, $suite, $filter);
        file_put_contents("$root/$file", $source);
        $made++;
        $noticed += $result === 0 ? 0 : 1;
        if ($result === 0) {
            $line = trim(explode("\n", $source)[$tokens[$n]->line - 1]);
            echo "$file:{$tokens[$n]->line}: $text is $new, and no test notices: $line\n";
        }
    }
}
echo "$noticed of $made changes were noticed.\n";
