import { create } from 'zustand';
import { api } from './api';
import type { Camera, Prop } from './document';
import { setValues } from './keys';
import { currentMoments } from './moments';
import { inScene, poseAt } from './pose';
import type { Triple } from './pieces';
import { said } from './said';
import { useShot } from './shot';
import { useUi } from './ui';

export type Match = NonNullable<Camera['matches']>[number];

/** The camera that sees at a frame what it is matched to. */
export interface LinedUp {
    position: Triple;
    target: Triple;
    focal: number;
    roll: number;
    /** Pixels: the root of the mean square of what is left, and of each match. */
    residual: number;
    left: (number | null)[];
    /** By which share the focal length changes where a match is off by a pixel; null where it is not told at all. */
    sure: number | null;
}

/** What came of the last line-up, for as long as the matches are those. */
export const useLineUp = create<{ found: LinedUp | null; of: string }>(() => ({ found: null, of: '' }));

export function keyOf(matches: readonly Match[] | undefined): string {
    return JSON.stringify(matches ?? []);
}

/** Where in the scene a place of a match is. */
export function placeOf(prop: Prop, at: readonly number[], frame: number): Triple {
    return inScene(poseAt(prop, frame, currentMoments(), useShot.getState().shot?.document.frames.first), at);
}

export function setMatches(label: string, matches: readonly Match[]): Promise<boolean> {
    return useShot.getState().edit(label, [{ op: 'add', path: '/camera/matches', value: matches }]);
}

/** Finds the camera, and sets it at the playhead: as a key where it is keyed. */
export async function lineUp(): Promise<void> {
    const { shot } = useShot.getState();
    if (shot?.document.camera === undefined) return;
    const frame = useUi.getState().frame;
    const of = keyOf(shot.document.camera.matches);
    try {
        const found = await api.lineUp(shot.id, frame);
        const tidy = (v: number) => Number(v.toPrecision(9));
        const set = await setValues('Line the camera up', [
            ...(['position', 'target'] as const).flatMap((name) => found[name].map((value, axis) => ({ lane: `:camera/${name}`, axis, frame, value: tidy(value) }))),
            ...(['focal', 'roll'] as const).map((name) => ({ lane: `:camera/${name}`, axis: 0, frame, value: tidy(found[name]) })),
        ]);
        if (set) useLineUp.setState({ found, of });
    } catch (e) {
        said(e);
    }
}
