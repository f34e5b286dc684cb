<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

/** Names in the form a kind of file takes, readable, each given once. */
final class UniqueNames
{
    /** Bytes of a name of a file, endings and numbers apart. */
    private const LONGEST = 160;

    /** @var array<string, true> */
    private array $taken = [];

    /** Names that files may have on any system: letters and digits of any script, and hyphens. */
    public static function plain(string $name): string
    {
        $plain = (string) preg_replace('/[^\p{L}\p{M}\p{N}]+/u', '-', mb_strtolower(mb_scrub($name)));

        return trim(mb_strcut($plain, 0, self::LONGEST), '-') ?: 'unnamed';
    }

    public function file(string $name): string
    {
        return $this->once(self::plain($name), '-');
    }

    /** A name within a file whose words are parted by blanks. */
    public function word(string $name): string
    {
        return $this->once((string) preg_replace('/\s+/u', '_', mb_scrub($name)), '_');
    }

    public function text(string $name): string
    {
        return $this->once($name, ' ');
    }

    private function once(string $name, string $gap): string
    {
        $free = $name;
        // Some systems do not tell capitals apart.
        for ($n = 2; isset($this->taken[mb_strtolower($free)]); $n++) {
            $free = $name.$gap.$n;
        }
        $this->taken[mb_strtolower($free)] = true;

        return $free;
    }
}
