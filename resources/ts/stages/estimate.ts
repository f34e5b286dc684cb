import type { BakeView } from '../data/api';

/** Seconds a bake of so many frames may take, going by an earlier one. */
export function estimate(last: Pick<BakeView, 'seconds' | 'framesDone' | 'pieces'>, frames: number, pieces: number): number {
    return (last.seconds / last.framesDone) * frames * (pieces / Math.max(1, last.pieces));
}
