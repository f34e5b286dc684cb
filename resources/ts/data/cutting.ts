import type { Key } from './document';

/** A key as it can be put elsewhere: path below the prop, axis, frames from the first that was copied with it. */
export interface Cutting {
    prop: string;
    path: string;
    axis: number;
    frame: number;
    key: Key;
}
