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

/** Frames shown at the least. */
const LEAST_SHOWN = 8;

/** A stretch of the shot made shorter or longer about a frame; all of it is no stretch. */
export function zoomed(frames: Frames, [from, to]: readonly [number, number], at: number, factor: number): readonly [number, number] | null {
    const length = Math.min(frames.last - frames.first, Math.max(LEAST_SHOWN, Math.round((to - from) * factor)));
    const start = Math.round(at - ((at - from) / (to - from)) * length);
    return along(frames, [start, start + length], 0);
}

/** A stretch moved by frames, as far as the shot goes. */
export function along(frames: Frames, [from, to]: readonly [number, number], by: number): readonly [number, number] | null {
    const length = to - from;
    const start = Math.min(frames.last - length, Math.max(frames.first, from + by));
    return start <= frames.first && start + length >= frames.last ? null : [start, start + length];
}
