/** How finely the picture is drawn. */
export interface Fineness {
    /** Pixels drawn for one of the screen's, at most. */
    ratio: number;
    /** Places looked at for light taken away in corners. */
    occlusion: number;
    /** Pixels a side of the shadow map. */
    shadow: number;
}

/** From the finest down. The geometry is the same in all of them. */
export const STEPS: readonly Fineness[] = [
    { ratio: 2, occlusion: 20, shadow: 2048 },
    { ratio: 2, occlusion: 10, shadow: 2048 },
    { ratio: 1.5, occlusion: 10, shadow: 2048 },
    { ratio: 1, occlusion: 10, shadow: 1024 },
    { ratio: 1, occlusion: 0, shadow: 1024 },
    { ratio: 0.75, occlusion: 0, shadow: 512 },
    { ratio: 0.5, occlusion: 0, shadow: 512 },
];

/** Frames looked at before deciding, and milliseconds of the middle one beyond which it is too slow, or far from it. */
const WATCHED = 12;
const SLOW = 20;
const EASY = 9;

/** Decides from measured times how finely to draw: coarser as soon as it stutters, finer only after a long easy stretch. */
export class Pace {
    private step = 0;
    private times: number[] = [];
    private easy = 0;

    get fineness(): Fineness {
        return STEPS[this.step]!;
    }

    /** Milliseconds from one drawn frame to the next; whether the fineness has changed. */
    took(milliseconds: number): boolean {
        this.times.push(milliseconds);
        if (this.times.length < WATCHED) return false;
        const middle = this.times.sort((a, b) => a - b)[WATCHED >> 1]!;
        this.times = [];
        const before = this.step;
        if (middle > SLOW) {
            this.step = Math.min(STEPS.length - 1, this.step + (middle > 4 * SLOW ? 3 : 1));
            this.easy = 0;
        } else if (middle < EASY) {
            // Screens of 60 a second never get here: what was too slow once stays put away.
            if (++this.easy >= 10) {
                this.step = Math.max(0, this.step - 1);
                this.easy = 0;
            }
        } else this.easy = 0;
        return this.step !== before;
    }

    /** Drawing has paused: what came before says nothing of the next frame. */
    rest(): void {
        this.times = [];
    }
}
