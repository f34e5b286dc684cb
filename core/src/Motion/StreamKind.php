<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** What a stream of a frame holds, and how many bytes an item of it takes. */
enum StreamKind: int
{
    /** A piece: eight float32 — position (3), state (0 held, 1 moving, 2 resting), turn (x, y, z, w). */
    case Poses = 1;

    /** A point of a prop's surface, as the scene has it: three float32. Those of one piece come after those of the other, each as its mesh has them. */
    case Points = 2;

    /**
     * A grain of dust: four uint16 — where it is in the box of all (3), and its age as a share of its life (8 bits), which dust of its prop (2), and the root
     * of its size as a share of the largest (6). After that box, low corner (3) and sides (3), and the largest size in metres, float32 each. In the order
     * they were born, and where many are at once by lot: every so manieth is a fair sample.
     */
    case Grains = 3;

    /** A chip: eight uint16 — four as of a grain, and its turn as int16 (x, y, z, w; 32,767 for one). Before them the same as before grains. */
    case Chips = 11;

    /** A prop: uint8, 1 where it is shown. */
    case Visibility = 5;

    /** A piece: float32, its size as a share of its full one. */
    case Sizes = 6;

    /** A prop: two float32, how dull its outside is (below 0: as usual) and how much of the tint is mixed in. */
    case Looks = 7;

    /**
     * A point of a piece whose surface goes by weight maps: three uint8, 255 for full — how much of the second surface, how much it is seen (from ½ on),
     * how far its relief stands out. After the depth of the relief in metres, a float32.
     */
    case Skin = 8;

    /** A piece: float32, the share of its size that a weight map has brought into view; whatever else sizes it comes on top. */
    case Shares = 9;

    /** A corner of faces that fly one by one: three float32. Three a face, the faces of one piece after those of the other. */
    case Corners = 10;

    public function stride(): int
    {
        return match ($this) {
            self::Poses => 32,
            self::Points, self::Corners => 12,
            self::Visibility => 1,
            self::Sizes, self::Shares => 4,
            self::Looks, self::Grains => 8,
            self::Skin => 3,
            self::Chips => 16,
        };
    }

    /** Bytes before the first item. */
    public function lead(): int
    {
        return match ($this) {
            self::Skin => 4,
            self::Grains, self::Chips => 28,
            default => 0,
        };
    }
}
