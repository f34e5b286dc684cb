<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Preset;
use App\Models\Shot;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\Upgrade;

/** Kept values of one bench: given ones and own, laid on props of any shot. */
final class Presets
{
    /** @var array<string, list<string>> members of a prop that each bench sets */
    public const BENCHES = ['break' => ['break', 'rework', 'innerSmooth'], 'motion' => ['motion'], 'material' => ['material'], 'dust' => ['dust'], 'weights' => ['weights']];

    /** Letters of a name at most. */
    private const LONGEST = 60;

    private const GIVEN = 'given-';

    public function __construct(private readonly PasteProp $paste)
    {
    }

    /** @return list<array{id: string, bench: string, name: string, given: bool}> */
    public static function all(): array
    {
        $out = [];
        foreach (self::given() as $k => $preset) {
            $out[] = ['id' => self::GIVEN.$k, 'bench' => $preset->bench, 'name' => $preset->name, 'given' => true];
        }
        foreach (Preset::query()->orderBy('name')->get() as $preset) {
            $out[] = ['id' => $preset->id, 'bench' => $preset->bench, 'name' => $preset->name, 'given' => false];
        }

        return $out;
    }

    /**
     * Keeps what a prop has of one bench; of the same name and bench it takes the place of the one before.
     *
     * @throws Problem where there is nothing to keep
     */
    public function keep(Shot $shot, string $prop, string $bench, string $name): Preset
    {
        $members = self::members($bench);
        $name = trim($name);
        if ($name === '' || mb_strlen($name) > self::LONGEST) {
            throw Problem::inValue('name', 'A preset is called by one to '.self::LONGEST.' letters.', 'Write another name.');
        }
        $own = PasteProp::prop($shot, $prop);
        $kept = new \stdClass;
        foreach ($members as $member) {
            if (($own->$member ?? null) !== null) {
                $kept->$member = $own->$member;
            }
        }
        if ((array) $kept === []) {
            throw Problem::inValue('bench', $own->name.' has nothing set on that bench yet.', 'Set something first.');
        }
        $needed = in_array('weights', $members, true) ? [] : PropCopies::mapsIn($own, $members);
        $maps = array_values(array_filter($own->weights ?? [], static fn (\stdClass $map): bool => in_array($map->id, $needed, true)));
        if ($maps !== []) {
            $kept->weights = $maps;
        }
        [$kept->id, $kept->name] = [$own->id, $own->name];

        return Preset::query()->updateOrCreate(['bench' => $bench, 'name' => $name], ['version' => ShotSpec::VERSION, 'prop' => json_encode($kept, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE)]);
    }

    /**
     * Lays one on props.
     *
     * @param  list<string>  $onto  their ids
     * @return array{patch: list<array{op: string, path: string, value: mixed}>, left: list<string>, name: string} JSON Patch, and what makes no sense there, in words
     *
     * @throws Problem where it cannot be read, or makes no sense at all
     */
    public function lay(Shot $shot, string $id, array $onto): array
    {
        [$bench, $name, $prop] = self::found($id);
        $members = self::members($bench);
        $made = $this->paste->ontoAll($shot, $onto, $prop, $members);

        return $made + ['name' => $name];
    }

    /**
     * @return array{string, string, \stdClass} its bench, its name, and the prop that has it
     *
     * @throws Problem
     */
    private static function found(string $id): array
    {
        if (str_starts_with($id, self::GIVEN)) {
            $given = self::given()[(int) substr($id, strlen(self::GIVEN))] ?? throw Problem::inValue('preset', 'There is no such preset.', 'Choose another.');

            return [$given->bench, $given->name, (object) ((array) $given->prop + ['id' => 'given', 'name' => $given->name])];
        }
        $preset = Preset::query()->find($id) ?? throw Problem::inValue('preset', 'This preset is not there any more.', 'Choose another.');
        if ($preset->version > ShotSpec::VERSION) {
            throw Problem::inValue('preset', sprintf('The preset %s was kept by a newer Yard Break: it is of version %d, and this one reads up to %d.', $preset->name, $preset->version, ShotSpec::VERSION), 'Bring Yard Break up to date, or keep it anew here.');
        }
        // As part of a shot of its time it is brought up to this one.
        $prop = Upgrade::of((object) ['version' => $preset->version, 'props' => [json_decode($preset->prop)]])->props[0];

        return [$preset->bench, $preset->name, $prop];
    }

    /** @return list<\stdClass> */
    private static function given(): array
    {
        return json_decode((string) file_get_contents(resource_path('presets.json')), false, 64, JSON_THROW_ON_ERROR);
    }

    /**
     * @return list<string>
     *
     * @throws Problem
     */
    private static function members(string $bench): array
    {
        return self::BENCHES[$bench] ?? throw Problem::inValue('bench', 'There is no such bench.', 'Choose one of: '.implode(', ', array_keys(self::BENCHES)).'.');
    }
}
