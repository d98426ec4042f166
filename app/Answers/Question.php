<?php

declare(strict_types=1);

namespace App\Answers;

use Closure;

/**
 * A question whose answer may take long, told by its content: the hashes of the meshes it is about and all settings, nothing that can mean
 * something else later. The same content has the same answer, whoever asks and whenever.
 */
abstract readonly class Question
{
    /** @param  array<string, mixed>  $content  all that decides the answer; it can be written as JSON */
    final public function __construct(public array $content)
    {
    }

    /** What is being done, for the person who waits. */
    abstract public function doing(): string;

    /** Is it answered within a blink, so that it need not be queued? */
    abstract public function isShort(): bool;

    /** @return list<string> hashes of the meshes that must stay until it is answered */
    abstract public function meshes(): array;

    /** Bytes on the disk that answering it takes, at most. */
    public function room(): int
    {
        return 0;
    }

    /**
     * @param  Closure(float): void  $progress  share done, 0 to 1; it may throw to cancel
     * @param  string  $path  where the answer is to be written, as a file
     * @return string|null what the file is called when it is taken out; null when it is JSON that is told
     */
    abstract public function answer(Closure $progress, string $path): ?string;

    /** The same content under another version of Isotome may have another answer. */
    final public function key(): string
    {
        return hash('sha256', json_encode([static::class, config('isotome.build'), $this->content], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));
    }
}
