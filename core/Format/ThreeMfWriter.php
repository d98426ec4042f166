<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;
use RuntimeException;
use ZipArchive;

/**
 * Writes 3MF: every piece one named object, skin and inside two base materials, and what it carries besides: see ThreeMfResources; millimetres.
 * Sources: 3MF Core Specification 1.3, 3MF Materials and Properties Extension 1.2 (3MF Consortium). The same pieces give the same bytes.
 */
final class ThreeMfWriter
{
    /**
     * @param  array<string, array{mesh: Mesh, colour: string}>  $pieces  by name, brought to 32-bit floats
     *
     * @throws RuntimeException
     */
    public static function write(array $pieces, string $path): void
    {
        $model = tempnam(sys_get_temp_dir(), 'isotome');
        if ($model === false) {
            throw new RuntimeException("The file $path cannot be written; free some disk space.");
        }
        $partial = $path.'.partial';
        try {
            $resources = new ThreeMfResources($pieces);
            Files::write($model, self::model($pieces, $resources));
            $zip = new ZipArchive;
            if ($zip->open($partial, ZipArchive::CREATE | ZipArchive::OVERWRITE) !== true) {
                throw new RuntimeException("The file $path cannot be written; check that its folder exists and has room.");
            }
            $xml = '<?xml version="1.0" encoding="UTF-8"?>'."\n";
            $zip->addFromString('[Content_Types].xml', $xml.'<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
                .'<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
                .'<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/>'
                .($resources->pictures === [] ? '' : '<Default Extension="png" ContentType="image/png"/><Default Extension="jpg" ContentType="image/jpeg"/>').'</Types>');
            $zip->addFromString('_rels/.rels', $xml.'<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">'
                .'<Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>');
            $zip->addFile($model, '3D/3dmodel.model');
            $parts = ['[Content_Types].xml', '_rels/.rels', '3D/3dmodel.model'];
            if ($resources->pictures !== []) {
                $relations = '';
                foreach (array_keys($resources->pictures) as $n => $picture) {
                    $parts[] = $name = ltrim($picture, '/');
                    $zip->addFromString($name, $resources->pictures[$picture]);
                    $relations .= "<Relationship Target=\"$picture\" Id=\"texture$n\" Type=\"http://schemas.microsoft.com/3dmanufacturing/2013/01/3dtexture\"/>";
                }
                $zip->addFromString($parts[] = '3D/_rels/3dmodel.model.rels', $xml.'<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">'.$relations.'</Relationships>');
            }
            foreach ($parts as $part) {
                // A fixed time, the earliest an archive can say: the same pieces give the same bytes.
                $zip->setMtimeName($part, (int) mktime(0, 0, 0, 1, 1, 1980));
            }
            if (! $zip->close() || ! rename($partial, $path)) {
                throw new RuntimeException("The file $path could not be written to its end; check that the disk has room.");
            }
        } finally {
            @unlink($model);
            @unlink($partial);
        }
    }

    /**
     * @param  array<string, array{mesh: Mesh, colour: string}>  $pieces
     * @return iterable<string>
     */
    private static function model(array $pieces, ThreeMfResources $resources): iterable
    {
        $more = $resources->areNeeded();
        yield '<?xml version="1.0" encoding="UTF-8"?>'."\n".'<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"'
            .($more ? ' xmlns:m="'.ThreeMfLooks::MATERIALS.'"' : '').">\n".'<metadata name="Application">Isotome</metadata>'."\n".'<resources>'."\n";
        yield from $resources->bases();
        if ($more) {
            yield from $resources->textures();
        }
        $objects = [];
        $n = 0;
        foreach ($pieces as $name => ['mesh' => $mesh]) {
            $material = $resources->baseOf($n);
            $bearing = $more ? yield from $resources->of($n, $mesh) : null;
            $objects[] = $id = $resources->next();
            yield "<object id=\"$id\" name=\"".htmlspecialchars((string) $name, ENT_XML1 | ENT_QUOTES | ENT_SUBSTITUTE)."\" type=\"model\" pid=\"$material\" pindex=\"0\"><mesh><vertices>\n";
            $text = '';
            $xyz = $mesh->xyz;
            for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
                $text .= '<vertex x="'.TextNumber::single($xyz[$i]).'" y="'.TextNumber::single($xyz[$i + 1]).'" z="'.TextNumber::single($xyz[$i + 2]).'"/>'."\n";
                if (strlen($text) > 1 << 18) {
                    yield $text;
                    $text = '';
                }
            }
            yield $text."</vertices><triangles>\n";
            $text = '';
            foreach ($mesh->tags as $t => $tag) {
                $text .= '<triangle v1="'.$mesh->corners[3 * $t].'" v2="'.$mesh->corners[3 * $t + 1].'" v3="'.$mesh->corners[3 * $t + 2].'"'
                    .($bearing[$t] ?? ($tag > 0 ? " pid=\"$material\" p1=\"1\"" : ''))."/>\n";
                if (strlen($text) > 1 << 18) {
                    yield $text;
                    $text = '';
                }
            }
            yield $text."</triangles></mesh></object>\n";
            $n++;
        }
        yield "</resources>\n<build>\n";
        foreach ($objects as $id) {
            yield "<item objectid=\"$id\"/>\n";
        }
        yield "</build>\n</model>\n";
    }
}
