import { isPicking, useUi } from '../data/ui';

/** What a click in the picture means: pieces of the chosen prop are picked where they are broken, weighed and let go, props are chosen everywhere. */
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
    if (!isPicking(stage) || pieces < 2) return;
    const had = picked.includes(hit.piece);
    if (add) set({ picked: had ? picked.filter((p) => p !== hit.piece) : [...picked, hit.piece] });
    else set({ picked: had && picked.length === 1 ? [] : [hit.piece] });
}

/** What a box drawn over the picture means: pieces of the chosen prop that lie in it; elsewhere, or where it has one only, the props. */
export function chooseBoxed(boxed: Readonly<Record<string, readonly number[]>>, counts: Readonly<Record<string, number>>, add: boolean): void {
    const { stage, chosen, picked, also, set } = useUi.getState();
    if (isPicking(stage) && chosen !== null && (counts[chosen] ?? 0) > 1) {
        set({ picked: [...new Set([...(add ? picked : []), ...(boxed[chosen] ?? [])])].sort((a, b) => a - b) });
        return;
    }
    // A prop is in it with more than half of its pieces.
    const props = Object.keys(boxed).filter((id) => 2 * boxed[id]!.length > counts[id]!);
    const all = add && chosen !== null ? [...new Set([chosen, ...also, ...props])] : props;
    if (all.length > 0) set({ chosen: all[0]!, also: all.slice(1), picked: [], lit: [] });
}
