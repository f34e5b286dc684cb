import { toast } from 'sonner';
import type { PatchStep } from './api';
import type { PoseKey, ShotDocument } from './document';
import { poseAt, type Pose } from './pose';
import { editProp, propPath, useShot } from './shot';

/** Sets a key for a prop where it stands at a frame, or with the given pose. */
export function setKey(id: string, frame: number, pose?: Pose): void {
    const prop = useShot.getState().shot?.document.props.find((p) => p.id === id);
    if (!prop) return;
    const { position, turn } = pose ?? poseAt(prop, frame);
    const keys = (prop.motion.keys ?? []).filter((k) => k.frame !== frame);
    keys.push({ frame, position: [...position], turn: [...turn] });
    void editProp(id, `Key at frame ${frame}`, prop.motion.kind === 'fixed' ? { '/motion': { kind: 'keyed', keys } } : { '/motion/keys': inOrder(keys) });
}

export function removeKeys(picked: readonly string[]): void {
    const document = useShot.getState().shot?.document;
    if (!document) return;
    void useShot.getState().edit(picked.length === 1 ? 'Remove a key' : `Remove ${picked.length} keys`, withoutKeys(document, picked));
}

/** Moves keys, or copies them, by a number of frames; refused in words where they would land on others. */
export function shiftKeys(picked: readonly string[], by: number, copy: boolean): boolean {
    const document = useShot.getState().shot?.document;
    if (!document || by === 0) return false;
    const patch = shiftedKeys(document, picked, by, copy);
    if (patch === null) {
        toast.error('Another key is already there.', { description: 'Drop it at a frame without one, or remove that one first.' });
        return false;
    }
    const what = picked.length === 1 ? 'a key' : `${picked.length} keys`;
    void useShot.getState().edit(`${copy ? 'Copy' : 'Move'} ${what} by ${by > 0 ? '+' : '−'}${Math.abs(by)} frames`, patch);
    return true;
}

/** How a key is named where keys are picked. */
export function keyName(prop: string, frame: number): string {
    return `${prop} ${frame}`;
}

/** The edit that moves or copies the picked keys; null where two would share a frame, or one would come before frame 0. */
export function shiftedKeys(document: ShotDocument, picked: readonly string[], by: number, copy: boolean): PatchStep[] | null {
    const patch: PatchStep[] = [];
    for (const prop of document.props) {
        const keys = prop.motion.keys ?? [];
        const chosen = keys.filter((k) => picked.includes(keyName(prop.id, k.frame)));
        if (chosen.length === 0) continue;
        const stay = copy ? keys : keys.filter((k) => !chosen.includes(k));
        const next = [...stay, ...chosen.map((k) => ({ ...k, frame: k.frame + by }))];
        if (new Set(next.map((k) => k.frame)).size < next.length || next.some((k) => k.frame < 0)) return null;
        patch.push({ op: 'replace', path: `${propPath(document, prop.id)}/motion/keys`, value: inOrder(next) });
    }
    return patch;
}

function withoutKeys(document: ShotDocument, picked: readonly string[]): PatchStep[] {
    const patch: PatchStep[] = [];
    for (const prop of document.props) {
        const keys = prop.motion.keys ?? [];
        const left = keys.filter((k) => !picked.includes(keyName(prop.id, k.frame)));
        if (left.length === keys.length) continue;
        const path = `${propPath(document, prop.id)}/motion`;
        // A keyed prop without a key stands still.
        patch.push(left.length === 0 && prop.motion.kind === 'keyed' ? { op: 'replace', path, value: { kind: 'fixed' } } : { op: 'replace', path: `${path}/keys`, value: left });
    }
    return patch;
}

function inOrder(keys: PoseKey[]): PoseKey[] {
    return keys.sort((a, b) => a.frame - b.frame);
}
