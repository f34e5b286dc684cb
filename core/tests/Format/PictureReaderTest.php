<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Format\PictureReader;
use YardBreak\Core\Problem;

final class PictureReaderTest extends TestCase
{
    /** PNG, ISO/IEC 15948, 5.3: a chunk is its length, its name, its data and their CRC-32. */
    public function test_a_picture_with_any_chunk_that_is_not_as_its_check_says_is_damaged(): void
    {
        $png = self::png();
        $chunk = static fn (string $text, int $off): string => pack('N', strlen($text)).'tEXt'.$text.pack('N', crc32('tEXt'.$text) + $off);
        // After the mark (8) and the head (25), before what is drawn: what draws it anyway must not be trusted.
        $with = static fn (int $off): string => substr_replace($png, $chunk("Comment\0yard", $off), 33, 0);
        self::assertNotNull(self::read($png));
        self::assertNotNull(self::read($with(0)));
        foreach ([
            'a wrong check in the middle' => $with(1),
            'cut within the last chunk' => substr($png, 0, -3),
            'without its end' => substr($png, 0, -12),
        ] as $name => $bytes) {
            self::assertNull(self::read($bytes), $name);
        }
    }

    /** @return mixed null where it is said to be damaged */
    private static function read(string $bytes): mixed
    {
        file_put_contents($path = (string) tempnam(sys_get_temp_dir(), 'png'), $bytes);
        try {
            return PictureReader::read($path);
        } catch (Problem $e) {
            self::assertStringContainsString('damaged or cut off', $e->getMessage());

            return null;
        } finally {
            unlink($path);
        }
    }

    private static function png(): string
    {
        $image = imagecreatetruecolor(40, 40);
        assert($image !== false);
        imagesavealpha($image, true);
        imagefill($image, 0, 0, (int) imagecolorallocatealpha($image, 0, 0, 0, 127));
        imagefilledrectangle($image, 8, 8, 30, 30, (int) imagecolorallocate($image, 0, 0, 0));
        ob_start();
        imagepng($image);

        return (string) ob_get_clean();
    }
}
