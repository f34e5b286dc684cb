import type { Motion, Prop, WeightMap } from './document';
import { usePieces } from './pieces';
import { editProp, useShot } from './shot';
import { useUi } from './ui';
import { freeMapId, freeMapName } from './weights';

/** How a prop drifts that is told to: upwards and turning, by the first of its maps. */
export function driftMotion(prop: Prop, map = prop.weights?.[0]?.id ?? ''): Motion {
    return { kind: 'drift', drift: { map, ease: 'smooth', moves: [{ move: 'offset', values: { by: [0, 1, 0], random: 0.3, strewn: 0.2, seed: 1 } }, { move: 'turn', values: { axis: [0, 1, 0], angle: 90, random: 0.5, tumble: 60, seed: 1 } }] } };
}

/** Lets a prop drift that has no map yet: by pieces that come one after the other, over the whole shot. */
export async function driftAtOnce(prop: Prop): Promise<void> {
    const document = useShot.getState().shot?.document;
    if (!document) return;
    const { first, last } = document.frames;
    const name = freeMapName(document, `${prop.name} comes`);
    const map: WeightMap = {
        id: freeMapId(document, name), name,
        sources: [{ source: 'pieces', operation: 'add', amount: 1, values: { order: 'random', from: [0, 0, 0], share: { keys: [{ frame: first, value: 0 }, { frame: last, value: 1 }] }, soft: 0.25, seed: 1 } }],
    };
    await editProp(prop.id, `${prop.name} drifts`, { '/weights': [...(prop.weights ?? []), map], '/motion': driftMotion(prop, map.id) });
    useUi.getState().set({ map: map.id });
}

/** The number of a piece by its name. */
export function pieceNumber(prop: string, name: string): number {
    return usePieces.getState().byProp[prop]?.pieces.findIndex((p) => p.name === name) ?? -1;
}
