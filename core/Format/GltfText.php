<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;

/**
 * A glTF 2.0 description as text, with its data in it or in files that came with it, brought to what a binary file holds: one description and one stretch of data.
 * Source: Khronos Group, glTF 2.0 Specification.
 */
final class GltfText
{
    private const LARGEST_TEXT = 1_000_000_000;

    private const MOST_BUFFERS = 1000;

    private const LARGEST = 4_000_000_000;

    /**
     * @return array{array<mixed>, string} the description, all of whose views are of one buffer; the data
     *
     * @throws UnreadableMesh
     */
    public static function read(string $path, Companions $files): array
    {
        $name = basename($path);
        fclose(Files::open($path));
        $text = filesize($path) > self::LARGEST_TEXT ? false : file_get_contents($path);
        $json = $text === false ? null : json_decode($text, true, 64);
        unset($text);
        if (! is_array($json) || ! is_array($json['asset'] ?? null)) {
            throw new UnreadableMesh("The file $name is no glTF description; check that it is a glTF file.");
        }
        $version = $json['asset']['version'] ?? '';
        if (! is_string($version) || ! str_starts_with($version, '2.')) {
            throw new UnreadableMesh("The glTF file $name is of another version than 2; export it as glTF 2.0.");
        }
        $buffers = is_array($json['buffers'] ?? null) ? array_values($json['buffers']) : [];
        if (count($buffers) > self::MOST_BUFFERS) {
            throw new UnreadableMesh("The glTF file $name has more than ".self::MOST_BUFFERS.' buffers; export it as one binary file.');
        }
        $binary = '';
        $starts = [];
        foreach ($buffers as $n => $buffer) {
            $uri = is_array($buffer) ? $buffer['uri'] ?? null : null;
            $data = is_string($uri) ? self::data($uri, $files, self::LARGEST - strlen($binary)) : null;
            if ($data === null) {
                $shown = is_string($uri) && ! str_starts_with($uri, 'data:') ? substr((string) preg_replace('/[^\x20-\x7e]/', '?', basename(str_replace('\\', '/', $uri))), 0, 60) : 'buffer '.($n + 1);
                throw new UnreadableMesh("The glTF file $name needs its data ($shown), which did not come with it; bring them in together, or in a zip, or export it as GLB.");
            }
            $starts[] = strlen($binary);
            $binary .= $data.str_repeat("\0", -strlen($data) & 3);
        }
        $views = is_array($json['bufferViews'] ?? null) ? $json['bufferViews'] : [];
        foreach ($views as $v => $view) {
            $start = is_array($view) && is_int($view['buffer'] ?? null) ? $starts[$view['buffer']] ?? null : null;
            $offset = is_array($view) ? $view['byteOffset'] ?? 0 : null;
            if (is_array($view) && $start !== null && is_int($offset) && $offset >= 0) {
                $views[$v] = ['buffer' => 0, 'byteOffset' => $start + $offset] + $view;
            }
        }
        $json['bufferViews'] = $views;
        $json['buffers'] = [['byteLength' => strlen($binary)]];

        return [$json, $binary];
    }

    /** @return string|null what an address holds: data in itself, or a file that came along */
    public static function data(string $uri, Companions $files, int $most): ?string
    {
        if (preg_match('~^data:[\w.+/-]*;base64,~', substr($uri, 0, 200), $match) === 1) {
            $bytes = base64_decode(substr($uri, strlen($match[0])), true);

            return $bytes === false || strlen($bytes) > $most ? null : $bytes;
        }

        return $uri === '' || str_starts_with($uri, 'data:') ? null : $files->bytes(rawurldecode($uri), max(0, $most));
    }
}
