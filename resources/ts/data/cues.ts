import { toast } from 'sonner';
import type { Mark } from './api';
import type { AtFrame, AtReaching, AtTouch, Cue, ShotDocument } from './document';
import { currentMoments } from './moments';
import { useShot } from './shot';
import { useUi } from './ui';

/** Makes a cue at a frame; says its id. */
export function addCue(frame: number, wanted = 'Cue'): string | null {
    const { shot, edit } = useShot.getState();
    if (!shot) return null;
    const cues = shot.document.cues ?? [];
    let n = cues.length + 1;
    while (cues.some((c) => c.id === `cue-${n}` || c.name.toLowerCase() === `${wanted} ${n}`.toLowerCase())) n++;
    const cue: Cue = { id: `cue-${n}`, name: `${wanted} ${n}`, at: { on: 'frame', frame } };
    void edit(`Cue at frame ${frame}`, [{ op: 'add', path: '/cues', value: [...cues, cue] }]);
    return cue.id;
}

/** Makes a cue at the first touch of two props, which follows it through every bake; where there is one already it is named. */
function cueAtTouch({ prop, other }: Pick<Mark, 'prop' | 'other'>): void {
    const { shot, edit } = useShot.getState();
    if (!shot) return;
    const cues = shot.document.cues ?? [];
    const there = cues.find((c) => c.at.on === 'touch' && (c.at.speed ?? 0) === 0 && [c.at.one, c.at.other].sort().join() === [prop, other].sort().join());
    if (there) {
        toast(`The cue ${there.name} is at this touch already.`);
        return;
    }
    const name = (id: string) => (id === 'ground' ? 'the ground' : (shot.document.props.find((p) => p.id === id)?.name ?? id));
    const wanted = `${name(prop)} meets ${name(other)}`.slice(0, 55);
    let n = 1;
    while (cues.some((c) => c.id === `touch-${n}`)) n++;
    const taken = (words: string) => cues.some((c) => c.name.toLowerCase() === words.toLowerCase());
    let called = wanted;
    for (let k = 2; taken(called); k++) called = `${wanted} ${k}`;
    const [one, with_] = prop === 'ground' ? [other, prop] : [prop, other];
    void edit(`Cue where ${wanted}`, [{ op: 'add', path: '/cues', value: [...cues, { id: `touch-${n}`, name: called, at: { on: 'touch', one, other: with_, speed: 0 } }] }]);
    toast.success(`"${called}" is a cue now.`, { description: 'It follows the touch through every bake; keys and releases can be tied to it.' });
}

/** Goes to the frame of a touch; where that is shown already, makes a cue of it. */
export function pressMark(frame: number, mark: Mark): void {
    const { frame: at, set } = useUi.getState();
    if (frame === at) cueAtTouch(mark);
    else set({ frame, playing: false });
}

export function editCue(id: string, label: string, change: Partial<{ name: string; at: AtFrame | AtTouch | AtReaching }>): Promise<boolean> {
    const { shot, edit } = useShot.getState();
    const k = shot?.document.cues?.findIndex((c) => c.id === id) ?? -1;
    return !shot || k < 0 ? Promise.resolve(false) : edit(label, [{ op: 'replace', path: `/cues/${k}`, value: { ...shot.document.cues![k]!, ...change } }]);
}

/** Takes a cue away; what was tied to it stays where it is. */
export function removeCue(id: string): void {
    const { shot, edit } = useShot.getState();
    const k = shot?.document.cues?.findIndex((c) => c.id === id) ?? -1;
    if (!shot || k < 0) return;
    const anchor = currentMoments().frames[id] ?? 0;
    void edit(`Remove the cue ${shot.document.cues![k]!.name}`, [...tiedTo(shot.document, id).map(({ path, node }) => ({ op: 'replace' as const, path, value: untied(node, anchor) })), { op: 'remove', path: `/cues/${k}` }]);
}

/** All that hangs on a cue: keys, releases and release groups, by their place in the document. */
export function tiedTo(document: ShotDocument, id: string): { path: string; node: Record<string, unknown> }[] {
    const out: { path: string; node: Record<string, unknown> }[] = [];
    const walk = (node: unknown, path: string): void => {
        if (typeof node !== 'object' || node === null) return;
        if ((node as { cue?: string }).cue === id) out.push({ path, node: node as Record<string, unknown> });
        for (const [name, part] of Object.entries(node)) walk(part, `${path}/${name}`);
    };
    walk(document.world, '/world');
    walk(document.camera, '/camera');
    walk(document.plate, '/plate');
    walk(document.props, '/props');
    return out;
}

function untied(node: Record<string, unknown>, anchor: number): Record<string, unknown> {
    const { offset, on, ...rest } = node;
    delete rest.cue;
    const frame = anchor + Number(offset ?? 0);
    // A release goes at a whole frame.
    if (on === undefined) return { frame, ...rest };
    return { on: on === 'cue' ? 'frame' : on, frame: Math.round(frame), ...rest };
}
