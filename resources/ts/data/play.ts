import type { Frames } from './document';

/** First and last frame to play: the range asked for, within the shot and what is baked so far. */
export function playSpan(frames: Frames, range: readonly [number, number] | null, bakedTo: number | null): [number, number] {
    const [from, to] = range ?? [frames.first, frames.last];
    const first = Math.min(frames.last, Math.max(frames.first, from));
    return [first, Math.max(first, Math.min(to, frames.last, bakedTo ?? Infinity))];
}

/** A range with one end moved; the ends never pass each other. The whole shot is no range. */
export function withEnd(frames: Frames, range: readonly [number, number] | null, end: 0 | 1, frame: number): readonly [number, number] | null {
    const [from, to] = range ?? [frames.first, frames.last];
    const next: [number, number] = end === 0 ? [Math.min(frame, to - 1), to] : [from, Math.max(frame, from + 1)];
    return next[0] <= frames.first && next[1] >= frames.last ? null : next;
}
