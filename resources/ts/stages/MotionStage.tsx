import { bakeShot, freeMotion } from '../data/fall';
import type { Motion, Prop } from '../data/document';
import { editProp, useDocument, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Choice, Section, Select, Toggle } from '../parts/controls';
import { NumberField } from '../parts/NumberField';
import { poseAt } from '../data/pose';
import { BenchHead, ChooseFirst } from './BenchHead';
import { setKey } from '../data/keys';
import { currentMoments } from '../data/moments';
import { useCatalogue } from '../data/useCatalogue';
import { KeyedNumber, KeyedTriple } from '../parts/KeyedField';
import { CameraAndPlate } from './CameraAndPlate';
import { PlaceFields, PropField } from './PropFields';
import { useChosen } from '../data/useChosen';

const KINDS: readonly { value: Motion['kind']; label: string; hint: string }[] = [
    { value: 'fixed', label: 'Fixed', hint: 'Does not move; others collide with it' },
    { value: 'keyed', label: 'Keyed', hint: 'Moves by its keys; others collide with it' },
    { value: 'free', label: 'Free', hint: 'Moves by physics once released' },
];

export function MotionStage() {
    const prop = useChosen();
    return (
        <>
            <BenchHead title={prop ? `Motion of ${prop.name}` : 'Motion'} under="What moves, from when, and how" />
            {prop ? <PropMotion key={prop.id} prop={prop} /> : <ChooseFirst what="say how it moves" />}
            <CameraAndPlate />
            <World />
        </>
    );
}

function PropMotion({ prop }: { prop: Prop }) {
    const m = prop.motion;
    const frame = useUi((s) => s.frame);
    const kind = (value: Motion['kind']) => {
        const { shot } = useShot.getState();
        // What is fixed stands where its keys had it at the playhead.
        const stand = poseAt(prop, useUi.getState().frame, currentMoments(), shot?.document.frames.first);
        void editProp(prop.id, `${prop.name} is ${value}`, value === 'fixed' ? { '/motion': { kind: value }, '/place/position': stand.position, '/place/turn': stand.turn } : { '/motion': value === 'keyed' ? { kind: value } : freeMotion(prop) });
    };
    return (
        <>
            <Section title="Moves">
                <Choice fill label="How it moves" value={m.kind} options={KINDS} onChange={kind} />
                <p className="mt-1.5 text-soft">{KINDS.find((k) => k.value === m.kind)!.hint}.</p>
            </Section>
            {m.kind === 'free' && <Release prop={prop} />}
            <Section title="Place" aside={`at frame ${frame}`}>
                <PlaceFields prop={prop} />
                <Button className="mt-1.5 w-full" onClick={() => setKey(prop.id, frame)}>Key position and turn at frame {frame}</Button>
            </Section>
        </>
    );
}

function Release({ prop }: { prop: Prop }) {
    const m = prop.motion;
    const release = m.release ?? { on: 'frame' as const, frame: 0 };
    const broken = prop.break != null;
    const cues = useDocument()?.cues ?? [];
    const options = useCatalogue()?.settings.motion ?? [];
    return (
        <>
            <Section title="Release">
                {broken && (
                    <div className="mb-1">
                        <p className="mb-1">Until released its pieces</p>
                        <Choice label="Until released" value={m.held ?? 'still'} onChange={(v) => void editProp(prop.id, 'Until released', { '/motion/held': v })} options={[{ value: 'still', label: 'stay in place', hint: 'or follow its keys' }, { value: 'whole', label: 'move as one', hint: 'falls as the unbroken prop' }]} />
                    </div>
                )}
                <p className="mt-2 mb-1">They are let go</p>
                <Choice label="Released by" value={release.on} onChange={(on) => void editProp(prop.id, 'Release', { '/motion/release': on === 'frame' ? { on, frame: useUi.getState().frame } : on === 'cue' ? { on, cue: cues[0]?.id ?? '', offset: 0 } : { on, reach: null } })} options={[{ value: 'frame', label: 'at a frame' }, ...(cues.length > 0 ? [{ value: 'cue' as const, label: 'at a cue' }] : []), { value: 'touch', label: 'on touch' }]} />
                {release.on === 'frame' && <NumberField whole label="Frame" least={-100000} most={200000} value={release.frame} onChange={(v) => void editProp(prop.id, `Release at frame ${v}`, { '/motion/release/frame': v })} />}
                {release.on === 'cue' && (
                    <>
                        <Select label="Cue" value={release.cue} options={cues.map((c) => ({ value: c.id, label: c.name }))} onChange={(cue) => void editProp(prop.id, 'Release at a cue', { '/motion/release/cue': cue })} />
                        <NumberField label="Frames after" hint="Below 0: before it" least={-100000} most={100000} value={release.offset} onChange={(v) => void editProp(prop.id, 'Frames after the cue', { '/motion/release/offset': v })} />
                    </>
                )}
                {release.on === 'touch' && broken && (
                    <>
                        <Toggle label="Only near the touch" value={release.reach != null} onChange={(on) => void editProp(prop.id, 'Reach of the touch', { '/motion/release/reach': on ? 0.3 : null })} />
                        {release.reach != null && <NumberField slider label="Reach" unit="m" least={0.01} most={20} value={release.reach} onChange={(v) => void editProp(prop.id, 'Reach of the touch', { '/motion/release/reach': v })} />}
                    </>
                )}
            </Section>
            <Groups prop={prop} />
            <Section title="Push at release">
                {options.filter((o) => o.keyable).map((o) => <PropField key={o.name} prop={prop} group="motion" option={o} />)}
            </Section>
        </>
    );
}

/** Pieces let go at a frame of their own; they are put together on the Break stage. */
function Groups({ prop }: { prop: Prop }) {
    const groups = prop.motion.groups ?? [];
    if (groups.length === 0) return null;
    return (
        <Section title="Release groups" aside={`${groups.length}`}>
            {groups.map((g, i) => (
                <div key={i} className="flex items-center gap-2">
                    <div className="min-w-0 flex-1"><NumberField whole label={g.name} hint={`${g.pieces.length} pieces`} least={-100000} most={200000} value={g.frame ?? 0} onChange={(v) => void editProp(prop.id, `${g.name} at frame ${v}`, { [`/motion/groups/${i}/frame`]: v })} /></div>
                    <span className="figure text-[11px] text-soft">{g.pieces.length === 1 ? '1 piece' : `${g.pieces.length} pieces`}</span>
                    <button type="button" className="px-1 text-soft hover:text-ink" aria-label={`Remove ${g.name}`} onClick={() => void editProp(prop.id, `Remove ${g.name}`, { '/motion/groups': groups.filter((_, k) => k !== i) })}>✕</button>
                </div>
            ))}
        </Section>
    );
}

function World() {
    const document = useDocument();
    const edit = useShot((s) => s.edit);
    const options = useCatalogue()?.settings.world ?? [];
    if (!document) return null;
    const { ground } = document.world;
    return (
        <Section title="World">
            {options.filter((o) => o.name === 'gravity').map((o) => <KeyedTriple key={o.name} lane={`:world/${o.name}`} option={o} step={0.1} />)}
            <Toggle label="Ground" value={ground} onChange={(v) => void edit(v ? 'Ground on' : 'Ground off', [{ op: 'replace', path: '/world/ground', value: v }])} />
            {ground && options.filter((o) => o.name !== 'gravity').map((o) => <KeyedNumber key={o.name} lane={`:world/${o.name}`} option={o} />)}
            <Select label="Quality" value={document.quality ?? 'normal'} options={[{ value: 'fast', label: 'Fast: a first look' }, { value: 'normal', label: 'Normal' }, { value: 'final', label: 'Final: tighter contacts' }]} onChange={(v) => void edit('Quality', [{ op: 'add', path: '/quality', value: v }])} />
            <Button className="mt-2 w-full" tone="loud" onClick={() => { useUi.getState().set({ stage: 'bake' }); void bakeShot(); }}>Bake</Button>
        </Section>
    );
}
