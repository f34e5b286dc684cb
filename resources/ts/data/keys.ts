import { toast } from 'sonner';
import type { PatchStep } from './api';
import type { Cutting } from './cutting';
import type { Ease, Key, Keyed, ShotDocument, Value } from './document';
import { axesOf, pointerOf, split } from './lanes';
import { applyPatch } from './patch';
import { poseAt, type Pose } from './pose';
import { propPath, useShot } from './shot';
import { currentMoments } from './moments';
import { onOthers } from './several';
import { frameOf, isKeyed, ownFrame, valueAt, type Moments } from './track';
import { useUi } from './ui';

/** How a key is named where keys are picked: its lane and its frame. */
export function keyName(lane: string, frame: number): string {
    return `${lane} ${frame}`;
}

export function readKey(name: string): { lane: string; frame: number } {
    const at = name.lastIndexOf(' ');
    return { lane: name.slice(0, at), frame: Number(name.slice(at + 1)) };
}

/** The name of a key so many frames on. */
export function moved(name: string, by: number): string {
    const { lane, frame } = readKey(name);
    return keyName(lane, frame + by);
}

/** What a change makes of one key; null removes it, a list puts several in its place. */
export type Change = (key: Key, frame: number) => Key | Key[] | null;

/** A change by the values that the keys to be changed have. */
export type ChangeOf = (own: readonly number[]) => Change;

/**
 * Sets a value of a lane at a frame: a key where it has keys already or `always`, else the plain number.
 *
 * @param usual what its axes are where the document does not say
 */
export function setAt(lane: string, axis: number, frame: number, value: number, always: boolean, label: string, usual: readonly number[] = [0]): void {
    const { shot, edit } = useShot.getState();
    if (!shot) return;
    const axes = axesOf(shot.document, { id: lane });
    const now = axes?.[axis] ?? usual[axis] ?? 0;
    const next = isKeyed(now) || always ? withKey(now, frame, value, currentMoments()) : value;
    const whole = usual.length === 1 ? next : usual.map((v, i) => (i === axis ? next : v));
    const own: PatchStep[] = [...(isKeyed(next) ? movable(shot.document, lane) : []), axes === undefined ? { op: 'add', path: pointerOf(shot.document, { id: lane }), value: whole } : { op: 'replace', path: at(shot.document, lane, axes, axis), value: next }];
    void edit(label, [...own, ...(isKeyed(next) ? keyedOnOthers(shot.document, lane, axis, frame, valueAt(now, frame, currentMoments()), value) : withOthers(shot.document, lane, axis, usual.length, next))]);
}

/** A key at the same frame of the props chosen with the one of a lane: places and turns moved by as much, sizes by the same factor, else with the same value. */
function keyedOnOthers(document: ShotDocument, lane: string, axis: number, frame: number, before: number, value: number): PatchStep[] {
    const [id, path] = split(lane);
    const moments = currentMoments();
    return othersOf(id).flatMap((other): PatchStep[] => {
        const own = `${other}:${path}`;
        const axes = axesOf(document, { id: own });
        const now = axes?.[axis];
        // What another has nothing of cannot be keyed there.
        if (axes === undefined || now === undefined) return [];
        const theirs = valueAt(now, frame, moments);
        const set = path === 'place/size' && before !== 0 ? (theirs * value) / before : path.startsWith('place/') ? theirs + value - before : value;
        const key = withKey(now, frame, set, moments);
        return [...movable(document, own), { op: 'replace', path: at(document, own, axes, axis), value: key }];
    });
}

/** The props chosen with one. */
function othersOf(id: string): readonly string[] {
    const { chosen, also } = useUi.getState();
    return id === chosen ? also.filter((other) => other !== id) : [];
}

/** The same of the props that are chosen with the one of a lane. */
function withOthers(document: ShotDocument, lane: string, axis: number, axes: number, value: Value): PatchStep[] {
    const [id, path] = split(lane);
    return onOthers(document, id, othersOf(id), { [`/${path}${axes > 1 ? `/${axis}` : ''}`]: value }, axes > 1 ? 'replace' : 'add');
}

/** Takes the key of an axis at a frame away. */
export function unsetAt(lane: string, axis: number, frame: number): void {
    const { shot, edit } = useShot.getState();
    const axes = shot && axesOf(shot.document, { id: lane });
    if (!shot || !axes || !isKeyed(axes[axis])) return;
    const next = changed(axes[axis], currentMoments(), (key, f) => (f === frame ? null : key));
    void edit('Remove a key', [{ op: 'replace', path: at(shot.document, lane, axes, axis), value: next }]);
}

/** Lanes that go by the prop's own frames where keyed props follow the pace. */
const OF_PLACE = ['place/position', 'place/turn', 'place/size'];

/** The times of a lane: where keyed props follow the pace and this is none of their lanes, the pace is nothing to it. */
export function momentsOn(lane: string, moments: Moments): Moments {
    return OF_PLACE.includes(split(lane)[1]) ? moments : { ...moments, pace: undefined };
}

/** The whole frame at which a key of a lane is set that is to act at a frame that is shown. */
export function keyFrame(lane: string, frame: number, moments: Moments): number {
    return Math.round(ownFrame(momentsOn(lane, moments), frame));
}

/** Sets keys on position and turn of a prop where it stands at a frame, or with the given pose. */
export function setKey(id: string, frame: number, pose?: Pose): void {
    const { shot, edit } = useShot.getState();
    if (!shot) return;
    const moments = currentMoments();
    const own = keyFrame(`${id}:place/position`, frame, moments);
    const all = (values: readonly Value[], now: readonly number[]) => values.map((v, i) => withKey(v, own, now[i]!, moments));
    // Those chosen with it are keyed where they stand.
    const steps = [id, ...othersOf(id)].flatMap((one): PatchStep[] => {
        const prop = shot.document.props.find((p) => p.id === one);
        if (prop === undefined) return [];
        const { position, turn } = (one === id ? pose : undefined) ?? poseAt(prop, own, { ...moments, pace: undefined }, shot.document.frames.first);
        return [
            ...movable(shot.document, `${one}:place/position`),
            { op: 'replace', path: `${propPath(shot.document, one)}/place/position`, value: all(prop.place.position, position) },
            { op: 'replace', path: `${propPath(shot.document, one)}/place/turn`, value: all(prop.place.turn, turn) },
        ];
    });
    void edit(`Key at frame ${own}`, steps);
}

export function removeKeys(picked: readonly string[]): void {
    apply(picked.length === 1 ? 'Remove a key' : `Remove ${picked.length} keys`, picked, () => null);
}

/** Moves keys, or copies them, by a number of frames; refused in words where they would land on others. */
export function shiftKeys(picked: readonly string[], by: number, copy: boolean): boolean {
    if (by === 0) return false;
    return move(`${copy ? 'Copy' : 'Move'} ${many(picked)} by ${signed(by)} frames`, picked, (frame) => frame + by, copy);
}

/** Stretches or squeezes keys in time about the first of them. */
export function scaleKeys(picked: readonly string[], factor: number): boolean {
    const pivot = Math.min(...picked.map((k) => readKey(k).frame));
    return move(`Stretch ${many(picked)} to ${Math.round(100 * factor)} %`, picked, (frame) => Math.round(pivot + (frame - pivot) * factor), false);
}

/** Runs keys the other way round between the first and the last of them. */
export function reverseKeys(picked: readonly string[]): boolean {
    const frames = picked.map((k) => readKey(k).frame);
    const ends = Math.min(...frames) + Math.max(...frames);
    return move(`Reverse ${many(picked)}`, picked, (frame) => ends - frame, false);
}

/** Turns the values of keys round about the middle between their lowest and highest, axis by axis. */
export function mirrorKeys(picked: readonly string[]): void {
    applyByAxis(`Mirror ${many(picked)}`, picked, mirrored);
}

export function setEase(picked: readonly string[], ease: Ease): void {
    apply(`Ease of ${many(picked)}`, picked, (key) => (ease === 'linear' ? without(key) : { ...key, ease }));
}

/** Ties keys to a cue, as far from it as they are now; or unties them. */
export function tieKeys(picked: readonly string[], cue: string | null): void {
    const anchor = cue === null ? null : (currentMoments().frames[cue] ?? null);
    apply(cue === null ? `Untie ${many(picked)}` : `Tie ${many(picked)} to a cue`, picked, (key, frame) => {
        const { value, ease } = key;
        const rest = ease === undefined ? { value } : { value, ease };
        return cue === null ? { frame, ...rest } : { cue, offset: anchor === null ? 0 : frame - anchor, ...rest };
    });
}

export function copyKeys(picked: readonly string[]): Cutting[] {
    const document = useShot.getState().shot?.document;
    if (!document || picked.length === 0) return [];
    const moments = currentMoments();
    const first = Math.min(...picked.map((k) => readKey(k).frame));
    return byLane(picked).flatMap(([lane, frames]) =>
        (axesOf(document, { id: lane }) ?? []).flatMap((value, axis) =>
            isKeyed(value) ? value.keys.flatMap((key) => {
                const frame = frameOf(key, moments);
                return frame !== null && frames.has(frame) ? [{ prop: split(lane)[0], path: split(lane)[1], axis, frame: frame - first, key }] : [];
            }) : [],
        ),
    );
}

/** Puts copied keys at a frame; onto another prop where all of them came from one. Says which keys they are now. */
export function pasteKeys(cut: readonly Cutting[], frame: number, onto: string | null): string[] {
    const { shot, edit } = useShot.getState();
    if (!shot || cut.length === 0) return [];
    const moments = currentMoments();
    const from = new Set(cut.map((c) => c.prop));
    const target = (c: Cutting) => (from.size === 1 && onto !== null && c.prop !== '' ? onto : c.prop);
    let document = shot.document;
    const patch: PatchStep[] = [];
    const made = new Set<string>();
    for (const c of cut) {
        const lane = `${target(c)}:${c.path}`;
        const axes = axesOf(document, { id: lane });
        if (!axes || axes[c.axis] === undefined) continue;
        const value = withKey(axes[c.axis]!, frame + c.frame, c.key.value, moments, c.key.ease);
        const steps: PatchStep[] = [...movable(document, lane), { op: 'replace', path: at(document, lane, axes, c.axis), value }];
        document = applyPatch(document, steps);
        patch.push(...steps);
        made.add(keyName(lane, frame + c.frame));
    }
    void edit(`Paste ${cut.length === 1 ? 'a key' : `${cut.length} keys`}`, patch);
    return [...made];
}

/** The edit that changes the picked keys. */
export function keyPatch(document: ShotDocument, picked: readonly string[], moments: Moments, change: Change): PatchStep[] {
    return axisPatch(document, picked, moments, () => change);
}

/** The same where the change hangs on the values that the picked keys of an axis have. */
export function axisPatch(document: ShotDocument, picked: readonly string[], moments: Moments, changeOf: ChangeOf): PatchStep[] {
    return byLane(picked).flatMap(([lane, frames]) => {
        const axes = axesOf(document, { id: lane }) ?? [];
        return axes.flatMap((value, axis) => {
            const own = isKeyed(value) ? value.keys.filter((k) => frames.has(frameOf(k, moments) ?? NaN)).map((k) => k.value) : [];
            if (!isKeyed(value) || own.length === 0) return [];
            const change = changeOf(own);
            return [{ op: 'replace' as const, path: at(document, lane, axes, axis), value: changed(value, moments, (key, f) => (frames.has(f) ? change(key, f) : key)) }];
        });
    });
}

/** Round about the middle between the lowest and the highest. */
export function mirrored(own: readonly number[]): Change {
    const ends = Math.min(...own) + Math.max(...own);
    return (key) => ({ ...key, value: tidy(ends - key.value) });
}

/** All at their mean. */
export function flattened(own: readonly number[]): Change {
    const mean = tidy(own.reduce((a, b) => a + b, 0) / own.length);
    return (key) => ({ ...key, value: mean });
}

/** The edit that moves or copies the picked keys; null where one would land on a key that stays. */
export function movedKeys(document: ShotDocument, picked: readonly string[], moments: Moments, to: (frame: number) => number, copy: boolean): PatchStep[] | null {
    for (const [lane, frames] of byLane(picked)) {
        for (const value of axesOf(document, { id: lane }) ?? []) {
            if (!isKeyed(value)) continue;
            const stay = value.keys.map((k) => frameOf(k, moments)).filter((f) => f !== null && (copy || !frames.has(f)));
            const moved = value.keys.map((k) => frameOf(k, moments)).filter((f): f is number => f !== null && frames.has(f)).map(to);
            if (new Set([...stay, ...moved]).size < stay.length + moved.length) return null;
        }
    }
    return keyPatch(document, picked, moments, (key, frame) => {
        const there = key.cue === undefined ? { ...key, frame: to(frame) } : { ...key, offset: (key.offset ?? 0) + to(frame) - frame };
        return copy ? [key, there] : there;
    });
}

/** A value with a key put at a frame, in place of one that is there. */
export function withKey(value: Value, frame: number, now: number, moments: Moments, ease?: Ease): Keyed {
    const key: Key = { frame, value: tidy(now), ...(ease === undefined ? {} : { ease }) };
    if (!isKeyed(value)) return { keys: [key] };
    const there = value.keys.findIndex((k) => frameOf(k, moments) === frame);
    if (there >= 0) return { ...value, keys: value.keys.map((k, i) => (i === there ? { ...k, value: tidy(now), ...(ease === undefined ? {} : { ease }) } : k)) as [Key, ...Key[]] };
    // The curve before and after keeps its ease.
    const before = value.keys.filter((k) => (frameOf(k, moments) ?? Infinity) < frame).at(-1);
    return { ...value, keys: inOrder([...value.keys, ease === undefined && before?.ease !== undefined ? { ...key, ease: before.ease } : key], moments) };
}

function changed(value: Keyed, moments: Moments, change: Change): Value {
    const keys = value.keys.flatMap((key) => {
        const frame = frameOf(key, moments);
        return frame === null ? [key] : (change(key, frame) ?? []);
    });
    // What loses its last key stays as that had it.
    return keys.length === 0 ? value.keys[0].value : { ...value, keys: inOrder(keys, moments) };
}

function apply(label: string, picked: readonly string[], change: Change): void {
    applyByAxis(label, picked, () => change);
}

function applyByAxis(label: string, picked: readonly string[], changeOf: ChangeOf): void {
    const document = useShot.getState().shot?.document;
    if (document) void useShot.getState().edit(label, axisPatch(document, picked, currentMoments(), changeOf));
}

function move(label: string, picked: readonly string[], to: (frame: number) => number, copy: boolean): boolean {
    const document = useShot.getState().shot?.document;
    if (!document || picked.length === 0) return false;
    const patch = movedKeys(document, picked, currentMoments(), to, copy);
    if (patch === null) {
        toast.error('Another key is already there.', { description: 'Drop it at a frame without one, or remove that one first.' });
        return false;
    }
    void useShot.getState().edit(label, patch);
    return true;
}

function byLane(picked: readonly string[]): [string, Set<number>][] {
    const out = new Map<string, Set<number>>();
    for (const name of picked) {
        const { lane, frame } = readKey(name);
        out.set(lane, (out.get(lane) ?? new Set()).add(frame));
    }
    return [...out];
}

/** A prop that stands fixed becomes keyed with its first key. */
function movable(document: ShotDocument, lane: string): PatchStep[] {
    const [id, path] = split(lane);
    const prop = document.props.find((p) => p.id === id);
    return prop?.motion.kind === 'fixed' && path.startsWith('place/') && path !== 'place/seen' ? [{ op: 'replace', path: `${propPath(document, id)}/motion`, value: { ...prop.motion, kind: 'keyed' } }] : [];
}

function at(document: ShotDocument, lane: string, axes: readonly Value[], axis: number): string {
    return pointerOf(document, { id: lane }) + (axes.length === 3 ? `/${axis}` : '');
}

function inOrder(keys: Key[], moments: Moments): [Key, ...Key[]] {
    return keys.sort((a, b) => (frameOf(a, moments) ?? Infinity) - (frameOf(b, moments) ?? Infinity)) as [Key, ...Key[]];
}

function without(key: Key): Key {
    const plain = { ...key };
    delete plain.ease;
    return plain;
}

function tidy(value: number): number {
    return Number(value.toPrecision(12));
}

function many(picked: readonly string[]): string {
    return picked.length === 1 ? 'a key' : `${picked.length} keys`;
}

function signed(by: number): string {
    return `${by > 0 ? '+' : '−'}${Math.abs(by)}`;
}

/** Moves one key of one axis to a frame and a value; refused in words where another is there. */
export function setKeyAt(lane: string, axis: number, frame: number, to: number, value: number): boolean {
    const { shot, edit } = useShot.getState();
    const axes = shot && axesOf(shot.document, { id: lane });
    const moments = currentMoments();
    if (!shot || !axes || !isKeyed(axes[axis])) return false;
    if (to !== frame && axes[axis].keys.some((k) => frameOf(k, moments) === to)) {
        toast.error('Another key is already there.', { description: 'Drop it at a frame without one, or remove that one first.' });
        return false;
    }
    const next = changed(axes[axis], moments, (key, f) => (f !== frame ? key : { ...key, value: tidy(value), ...(key.cue === undefined ? { frame: to } : { offset: (key.offset ?? 0) + to - frame }) }));
    void edit(to === frame ? `Key at frame ${frame}` : `Move a key to frame ${to}`, [{ op: 'replace', path: at(shot.document, lane, axes, axis), value: next }]);
    return true;
}

/** Gives picked keys the mean of their values, axis by axis. */
export function flattenKeys(picked: readonly string[]): void {
    applyByAxis(`Flatten ${many(picked)}`, picked, flattened);
}

/** What the values of a lane do before their first key, or after their last. */
export function setOutside(lane: string, side: 'before' | 'after', how: 'hold' | 'repeat' | 'swing'): void {
    const { shot, edit } = useShot.getState();
    const axes = shot && axesOf(shot.document, { id: lane });
    if (!shot || !axes) return;
    void edit(`${side === 'before' ? 'Before' : 'After'} its keys`, axes.flatMap((value, axis) => (isKeyed(value) ? [{ op: 'replace' as const, path: at(shot.document, lane, axes, axis), value: { ...value, [side]: how } }] : [])));
}

/** Sets several values at once: a key where a value has keys, else the plain number. Of three axes none is set that is not there. */
export function setValues(label: string, values: readonly { lane: string; axis: number; frame: number; value: number }[]): Promise<boolean> {
    const { shot, edit } = useShot.getState();
    if (!shot) return Promise.resolve(false);
    return edit(label, values.flatMap(({ lane, axis, frame, value }): PatchStep[] => {
        const axes = axesOf(shot.document, { id: lane });
        const now = axes?.[axis];
        // What is one number and has not been said yet is said now.
        if (axes === undefined && values.filter((v) => v.lane === lane).length === 1) return [{ op: 'add' as const, path: pointerOf(shot.document, { id: lane }), value }];
        return axes === undefined || now === undefined ? [] : [{ op: 'replace' as const, path: at(shot.document, lane, axes, axis), value: isKeyed(now) ? withKey(now, frame, value, currentMoments()) : value }];
    }));
}
