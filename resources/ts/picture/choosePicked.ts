import { useUi } from '../data/ui';

/** What a click in the picture means: pieces are picked on the Break stage, props are chosen everywhere. */
export function choosePicked(hit: { prop: string; piece: number } | null, add: boolean, pieces: number): void {
    const { stage, chosen, picked, set } = useUi.getState();
    if (hit === null) {
        if (!add) set({ picked: [] });
        return;
    }
    if (hit.prop !== chosen) {
        set({ chosen: hit.prop, picked: [], lit: [] });
        return;
    }
    if (stage !== 'break' || pieces < 2) return;
    const had = picked.includes(hit.piece);
    if (add) set({ picked: had ? picked.filter((p) => p !== hit.piece) : [...picked, hit.piece] });
    else set({ picked: had && picked.length === 1 ? [] : [hit.piece] });
}
