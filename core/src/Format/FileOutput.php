<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Problem;

/** A file that appears under its name only once it is whole; a full or unwritable disk is said in words. */
final class FileOutput
{
    /** @var resource|null */
    private $stream;

    private string $buffer = '';

    private readonly string $temporary;

    public function __construct(private readonly string $path)
    {
        $this->temporary = $path.'.part-'.getmypid();
        $stream = @fopen($this->temporary, 'w+b');
        if ($stream === false) {
            throw Problem::notWritten($path);
        }
        $this->stream = $stream;
    }

    public function put(string $bytes): void
    {
        $this->buffer .= $bytes;
        if (strlen($this->buffer) > 1 << 18) {
            $this->flush();
        }
    }

    /** Appends what another output holds. */
    public function append(self $other): void
    {
        $this->flush();
        $other->flush();
        if ($other->stream === null || $this->stream === null) {
            return;
        }
        rewind($other->stream);
        $want = (int) (fstat($other->stream)['size'] ?? 0);
        if (@stream_copy_to_stream($other->stream, $this->stream) !== $want) {
            $this->fail();
        }
    }

    public function close(): void
    {
        $this->flush();
        if ($this->stream !== null) {
            if (! @fflush($this->stream)) {
                $this->fail();
            }
            fclose($this->stream);
            $this->stream = null;
        }
        if (! @rename($this->temporary, $this->path)) {
            $this->fail();
        }
    }

    /** Drops what was written. */
    public function discard(): void
    {
        if ($this->stream !== null) {
            fclose($this->stream);
            $this->stream = null;
        }
        @unlink($this->temporary);
    }

    public function __destruct()
    {
        $this->discard();
    }

    private function flush(): void
    {
        if ($this->buffer === '' || $this->stream === null) {
            return;
        }
        $done = @fwrite($this->stream, $this->buffer);
        if ($done !== strlen($this->buffer)) {
            $this->fail();
        }
        $this->buffer = '';
    }

    private function fail(): never
    {
        $bytes = strlen($this->buffer);
        $this->buffer = '';
        $this->discard();
        throw Problem::notWritten($this->path, $bytes);
    }
}
