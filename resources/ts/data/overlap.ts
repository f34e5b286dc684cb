import { create } from 'zustand';
import { askUntilThere, ProblemError, type Problem } from './api';
import { useShot } from './shot';
import type { Triple } from './pieces';
import { useUi } from './ui';

interface PieceOf {
    prop: string;
    number: number;
    name: string;
}

/** A piece that lies in something at a frame. */
export interface Overlapping extends PieceOf {
    /** Metres along its longest side. */
    size: number;
    /** Metres, and that as a share of how thick the thinner of the two is. */
    depth: number;
    share: number;
    at: Triple;
    /** What it lies in; null for the ground. */
    other: PieceOf | null;
}

export interface Overlap {
    frame: number;
    /** Pieces that have been let go. */
    pieces: number;
    /** Share that 95 of 100 of them stay below. */
    most: number;
    /** The deepest first. */
    deepest: Overlapping[];
}

interface OverlapState {
    bake: string | null;
    found: Overlap | null;
    working: boolean;
    problem: Problem | null;
    measure: (bake: string, frame: number) => Promise<void>;
}

export const useOverlap = create<OverlapState>((set) => ({
    bake: null,
    found: null,
    working: false,
    problem: null,
    measure: async (bake, frame) => {
        set({ bake, found: null, working: true, problem: null });
        try {
            const response = await askUntilThere(`bakes/${bake}/overlap/${frame}`);
            set({ found: (await response.json()) as Overlap, working: false });
        } catch (e) {
            if (!(e instanceof ProblemError)) throw e;
            set({ problem: e.problem, working: false });
        }
    },
}));

/** Goes where a piece lies in something: the frame, the piece picked, the view close to the place. */
export function lookAtOverlap(frame: number, { prop, number, other, at, size }: Overlapping): void {
    const isThere = useShot.getState().shot?.document.props.some((p) => p.id === prop) === true;
    const { look, set } = useUi.getState();
    set({
        frame,
        playing: false,
        chosen: isThere ? prop : useUi.getState().chosen,
        picked: other !== null && other.prop === prop ? [number, other.number] : [number],
        look: { at, across: 1.5 * size, asked: look.asked + 1 },
    });
}
