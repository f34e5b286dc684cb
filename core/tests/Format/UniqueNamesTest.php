<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Format\UniqueNames;

final class UniqueNamesTest extends TestCase
{
    public function test_names_in_any_script_stay_readable_and_each_is_given_once(): void
    {
        $names = new UniqueNames;
        $given = array_map($names->file(...), ['花瓶', '皿', 'Jar 1', 'Jar-1', 'jar 1', 'Töpfchen', '!!!', '???', '../../etc']);
        self::assertSame(['花瓶', '皿', 'jar-1', 'jar-1-2', 'jar-1-3', 'töpfchen', 'unnamed', 'unnamed-2', 'etc'], $given);
    }

    public function test_words_have_no_blanks_and_do_not_run_together(): void
    {
        $names = new UniqueNames;
        self::assertSame(['Jar_1', 'Jar_1_2'], [$names->word('Jar 1'), $names->word('Jar_1')]);
        self::assertSame('a?b', str_replace("\u{fffd}", '?', (new UniqueNames)->word("a\xffb")));
    }

    public function test_a_long_name_is_cut_between_letters(): void
    {
        $name = (new UniqueNames)->file(str_repeat('花', 200));
        self::assertTrue(mb_check_encoding($name, 'UTF-8'));
        self::assertLessThan(200, strlen($name));
    }
}
