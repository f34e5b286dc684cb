/** Straw to bitumen by way of ochre, light to dark: piece sizes from small to large. Legible to colour-blind eyes. */
const STOPS: readonly [number, number, number][] = [
    [0xee, 0xdf, 0xb4],
    [0xdd, 0xb3, 0x6d],
    [0xc4, 0x80, 0x3c],
    [0x9c, 0x55, 0x2a],
    [0x65, 0x33, 0x22],
    [0x2e, 0x1c, 0x1c],
];

/** sRGB, 0…255, for a share from 0 (smallest) to 1 (largest). */
export function sizeColour(share: number): [number, number, number] {
    return between(STOPS, share);
}

function between(stops: readonly [number, number, number][], share: number): [number, number, number] {
    const at = Math.min(0.9999, Math.max(0, share)) * (stops.length - 1);
    const k = Math.floor(at);
    const f = at - k;
    const a = stops[k]!;
    const b = stops[k + 1]!;
    return [a[0] + f * (b[0] - a[0]), a[1] + f * (b[1] - a[1]), a[2] + f * (b[2] - a[2])];
}

function sizeShare(volume: number, largest: number): number {
    return largest > 0 ? Math.pow(volume / largest, 0.7) : 0;
}

/** Pieces that differ by less than this share of the largest count as equal. */
const EQUAL = 0.02;

/**
 * Shares of all pieces, from the smallest there is to the largest. Where all are alike they take turns in the middle of the
 * sequence, so that one is told from the next.
 */
export function sizeShares(volumes: readonly number[]): number[] {
    const largest = volumes.reduce((a, b) => Math.max(a, b), 0);
    const least = volumes.reduce((a, b) => Math.min(a, b), Infinity);
    if (largest - least < EQUAL * largest) return volumes.map((_, k) => 0.2 + 0.4 * ((k * 0.618034) % 1));
    const low = sizeShare(least, largest);
    return volumes.map((v) => (sizeShare(v, largest) - low) / (1 - low));
}

/** Pale yellow to deep blue by way of green: from the first to the last. */
const IN_ORDER: readonly [number, number, number][] = [
    [0xf3, 0xec, 0xb4],
    [0xb4, 0xd8, 0x9a],
    [0x45, 0xa9, 0x9c],
    [0x20, 0x62, 0x98],
    [0x14, 0x22, 0x52],
];

/** What only a bake can tell. */
export const UNTOLD = [0xb4, 0xb0, 0xa8] as const;

/** sRGB, 0…255, for a share from 0 (the first) to 1 (the last). */
export function orderColour(share: number): [number, number, number] {
    return between(IN_ORDER, share);
}

/** Teal for calm by way of ochre to red: what bears nothing to what bears all it can. */
const STRAINS: readonly [number, number, number][] = [
    [0x2f, 0x8f, 0x88],
    [0x8f, 0xb3, 0x6a],
    [0xe2, 0xb0, 0x4a],
    [0xd8, 0x6c, 0x2c],
    [0xb3, 0x1f, 0x1f],
];

/** sRGB, 0…255, for how much of what it bears something has to bear; from 1 on it breaks. What bears little is told apart as well: by the root. */
export function strainColour(strain: number): [number, number, number] {
    return between(STRAINS, Math.sqrt(Math.max(0, strain)));
}
