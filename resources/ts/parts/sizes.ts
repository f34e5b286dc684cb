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
