import { Quaternion, Vector3 } from 'three';
import { useBake } from './bake';
import type { PatchStep } from './api';
import type { Motion, Prop } from './document';
import { usePieces, type PropPieces } from './pieces';
import { poseAt, turnOf } from './pose';
import { askFor } from './question';
import { isKeyed } from './track';
import { propPath, useShot, visibleProps } from './shot';
import { useUi } from './ui';

/** Height of a prop's lowest point over its origin, and of its highest, as it is turned. */
export function uprightSpan(pieces: Pick<PropPieces, 'positions' | 'pieceOf' | 'pieces'>, turn: Quaternion): [number, number] {
    const up = new Vector3(0, 1, 0).applyQuaternion(turn.clone().invert());
    let [low, high] = [Infinity, -Infinity];
    const p = pieces.positions;
    pieces.pieceOf.forEach((piece, v) => {
        const c = pieces.pieces[piece]!.centre;
        const y = (p[3 * v]! + c[0]) * up.x + (p[3 * v + 1]! + c[1]) * up.y + (p[3 * v + 2]! + c[2]) * up.z;
        low = Math.min(low, y);
        high = Math.max(high, y);
    });
    return [low, high];
}

/** How what is broken comes apart where it lands. */
export type FallWay = 'clumps' | 'near' | 'all';

/** What the pieces of a prop come to, as far as it is known. */
export interface FallSize {
    pieces: number;
    /** Metres from its lowest point to its highest. */
    height: number;
}

const CLUMPS = 20;
const NEAR = 0.3;
const CRUMBLES_FROM = 1;

/** How a prop moves that is given to physics: what is broken falls as one and comes apart where it is hit. */
export function freeMotion(prop: Prop, way: FallWay, { pieces, height }: FallSize): Motion {
    if (!prop.break) return { kind: 'free', release: { on: 'frame', frame: 0 } };
    if (way === 'near') return { kind: 'free', values: { held: 'whole' }, release: { on: 'touch', reach: Number((NEAR * height).toPrecision(2)), speed: CRUMBLES_FROM } };
    return { kind: 'free', values: way === 'all' ? { held: 'whole' } : { held: 'whole', clump: Math.max(2, Math.round(pieces / CLUMPS)) }, release: { on: 'touch', reach: null } };
}

/** The way a motion makes a prop come apart; null where it is none of these. */
export function fallWay({ kind, values, release }: Motion): FallWay | null {
    if (kind !== 'free' || values?.held !== 'whole' || release?.on !== 'touch') return null;
    return release.reach != null ? 'near' : Number(values.clump ?? 1) > 1 ? 'clumps' : 'all';
}

/** The edit that lets a prop fall as one and come apart where it lands, from its own height at least. */
export function fallPatch(path: string, prop: Prop, way: FallWay, span: readonly [number, number] | null, pieces: number): PatchStep[] {
    const height = span === null ? 0.5 : span[1] - span[0];
    const patch: PatchStep[] = [{ op: 'replace', path: `${path}/motion`, value: freeMotion(prop, way, { pieces, height }) }];
    const { position } = prop.place;
    const [, y] = position;
    if (span !== null && !isKeyed(y)) {
        const over = y + span[0];
        if (over < height) patch.push({ op: 'replace', path: `${path}/place/position`, value: [position[0], Number((y + height - over).toPrecision(6)), position[2]] });
    }
    return patch;
}

/** How large a prop stands there, as far as it was drawn. */
export function fallSize(prop: Prop): FallSize & { span: [number, number] | null } {
    const pieces = usePieces.getState().byProp[prop.id];
    const span = pieces ? uprightSpan(pieces, turnOf(poseAt(prop, 0).turn)) : null;
    return { pieces: pieces?.pieces.length ?? 1, height: span === null ? 0.5 : span[1] - span[0], span };
}

/** Lets a prop fall, and bakes it. */
export async function letFall(prop: Prop, way: FallWay = 'clumps'): Promise<void> {
    const { shot, edit } = useShot.getState();
    if (shot === null) return;
    const { span, pieces } = fallSize(prop);
    if (!(await edit(`Let ${prop.name} fall`, fallPatch(propPath(shot.document, prop.id), prop, way, span, pieces)))) return;
    useUi.getState().set({ stage: 'bake', frame: shot.document.frames.first, playing: false });
    await useBake.getState().start(shot.id);
}

/** Bakes the shot; where nothing in it can move, says so and offers to let a prop fall. */
export async function bakeShot(): Promise<void> {
    const shot = useShot.getState().shot;
    if (shot === null) return;
    const props = visibleProps(shot.document);
    if (props.length > 0 && props.every((p) => p.motion.kind === 'fixed' && (p.dust ?? []).length === 0)) {
        const chosen = props.find((p) => p.id === useUi.getState().chosen) ?? props[0]!;
        const answer = await askFor({
            title: 'Nothing can move yet',
            text: `Every prop of this shot is fixed, so all frames would be the same. ${chosen.name} can be let fall on the ground from its own height; anything else is set on the Motion stage.`,
            choices: [{ value: 'fall', label: 'Let it fall' }, { value: 'motion', label: 'Go to Motion' }],
            likely: 'fall',
        });
        if (answer === 'fall') await letFall(chosen);
        else if (answer === 'motion') useUi.getState().set({ stage: 'motion' });
        return;
    }
    await useBake.getState().start(shot.id);
}
