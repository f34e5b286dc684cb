import { editProp, useShot } from '../data/shot';
import type { Pose } from '../picture/pose';
import { poseAt } from '../picture/pose';

/** Sets a key for a prop where it stands at a frame, or with the given pose. */
export function setKey(id: string, frame: number, pose?: Pose): void {
    const prop = useShot.getState().shot?.document.props.find((p) => p.id === id);
    if (!prop) return;
    const { position, turn } = pose ?? poseAt(prop, frame);
    const keys = (prop.motion.keys ?? []).filter((k) => k.frame !== frame);
    keys.push({ frame, position: [...position], turn: [...turn] });
    keys.sort((a, b) => a.frame - b.frame);
    void editProp(id, `Key at frame ${frame}`, prop.motion.kind === 'fixed' ? { '/motion': { kind: 'keyed', keys } } : { '/motion/keys': keys });
}

export function moveKey(id: string, from: number, to: number): void {
    const prop = useShot.getState().shot?.document.props.find((p) => p.id === id);
    const keys = prop?.motion.keys;
    if (!keys || from === to || keys.some((k) => k.frame === to)) return;
    void editProp(id, `Move a key to frame ${to}`, { '/motion/keys': keys.map((k) => (k.frame === from ? { ...k, frame: to } : k)).sort((a, b) => a.frame - b.frame) });
}

export function removeKey(id: string, frame: number): void {
    const prop = useShot.getState().shot?.document.props.find((p) => p.id === id);
    const keys = (prop?.motion.keys ?? []).filter((k) => k.frame !== frame);
    if (!prop) return;
    void editProp(id, 'Remove a key', keys.length === 0 && prop.motion.kind === 'keyed' ? { '/motion': { kind: 'fixed' } } : { '/motion/keys': keys });
}
