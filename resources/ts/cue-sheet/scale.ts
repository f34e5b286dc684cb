/** Pixels the names of the lanes take. */
export const NAMES = 250;

/** Pixels a lane is high. */
export const ROW = 25;

/** From frames to pixels of the track and back. */
export interface Scale {
    x: (frame: number) => number;
    frameAt: (px: number) => number;
    /** How many frames a distance in pixels is. */
    framesIn: (px: number) => number;
}
