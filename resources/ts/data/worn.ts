import { create } from 'zustand';
import { fill, heldAt, watchMap, type Followed, type MapFrame } from './maps';

/** A map as the pieces of its prop wear it, where that is looked at together with what it does. */
export const useWorn = create<Followed & { of: string | null }>(() => ({ of: null, told: null, revision: -1, problem: null }));

/** By piece, or by point of these where their surface goes by maps; null as long as it is not here. */
export function wornAt(frame: number): MapFrame | null {
    return heldAt(useWorn.getState().told, frame);
}

/** Follows a map on the pieces of its prop. */
export function followWorn(shot: string, map: string, kind: 'pieces' | 'skin'): () => void {
    const control = new AbortController();
    const { of, told } = useWorn.getState();
    // What was shown stays until the change is worked out.
    useWorn.setState({ of: map, told: of === map ? told : null, revision: -1, problem: null });
    void watchMap(shot, map, kind, control.signal, (now) => {
        useWorn.setState(now);
        void fillWorn();
    });
    return () => control.abort();
}

export function forgetWorn(): void {
    useWorn.setState({ of: null, told: null, problem: null });
}

/** Fetches its frames, the one at the playhead first. */
export function fillWorn(): Promise<void> {
    const { told } = useWorn.getState();
    return fill(told, () => useWorn.getState().told === told);
}
