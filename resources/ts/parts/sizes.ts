/** Yellow-green to blue, light to dark: piece sizes from small to large. Legible to colour-blind eyes. */
const STOPS: readonly [number, number, number][] = [
    [0xcf, 0xe8, 0xa9],
    [0x8f, 0xcf, 0xa0],
    [0x45, 0xa9, 0xa6],
    [0x22, 0x82, 0xa8],
    [0x1d, 0x5a, 0x90],
    [0x1c, 0x36, 0x66],
];

/** sRGB, 0…255, for a share from 0 (smallest) to 1 (largest). */
export function sizeColour(share: number): [number, number, number] {
    const at = Math.min(0.9999, Math.max(0, share)) * (STOPS.length - 1);
    const k = Math.floor(at);
    const f = at - k;
    const a = STOPS[k]!;
    const b = STOPS[k + 1]!;
    return [a[0] + f * (b[0] - a[0]), a[1] + f * (b[1] - a[1]), a[2] + f * (b[2] - a[2])];
}

export function sizeShare(volume: number, largest: number): number {
    return largest > 0 ? Math.pow(volume / largest, 0.7) : 0;
}
