<?php

declare(strict_types=1);

use Isotome\Operation\Documents;

// Writes what is generated from the schemas of all kinds of step, docs/recipe.schema.json and the tables in docs/commands.md, and what the window must know of formats.
// See bin/generate.
require __DIR__.'/../vendor/autoload.php';
$docs = __DIR__.'/../docs';
file_put_contents("$docs/recipe.schema.json", json_encode(Documents::schema(), JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE)."\n");
$text = (string) file_get_contents("$docs/commands.md");
file_put_contents("$docs/commands.md", preg_replace('/(<!-- generated: steps -->\n).*(<!-- end -->)/s', '$1'."\n".addcslashes(Documents::tables(), '\\$').'$2', $text));
file_put_contents(__DIR__.'/../resources/ts/api/formats.ts', Documents::formats());
