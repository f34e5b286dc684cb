import { bakeShot, freeMotion } from '../data/fall';
import type { Motion, Prop } from '../data/document';
import { editProp, useDocument, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Choice, Section, Select, Toggle } from '../parts/controls';
import { NumberField, TripleField } from '../parts/NumberField';
import { poseAt } from '../data/pose';
import { BenchHead, ChooseFirst } from './BenchHead';
import { keyName, removeKeys, setKey, shiftKeys } from '../data/keys';
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
            <World />
        </>
    );
}

function PropMotion({ prop }: { prop: Prop }) {
    const m = prop.motion;
    const kind = (value: Motion['kind']) => {
        const keys = m.keys ?? [];
        const next: Motion = value === 'fixed' ? { kind: value } : value === 'keyed' ? { kind: value, keys: keys.length > 0 ? keys : [{ frame: useUi.getState().frame, ...poseAt(prop, 0) }] } : { ...freeMotion(prop), keys };
        void editProp(prop.id, `${prop.name} is ${value}`, { '/motion': next });
    };
    return (
        <>
            <Section title="Moves">
                <Choice fill label="How it moves" value={m.kind} options={KINDS} onChange={kind} />
                <p className="mt-1.5 text-soft">{KINDS.find((k) => k.value === m.kind)!.hint}.</p>
            </Section>
            {m.kind === 'free' && <Release prop={prop} />}
            {m.kind !== 'fixed' && <Keys prop={prop} />}
        </>
    );
}

function Release({ prop }: { prop: Prop }) {
    const m = prop.motion;
    const release = m.release ?? { on: 'frame' as const, frame: 0 };
    const broken = prop.break != null;
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
                <Choice label="Released by" value={release.on} onChange={(on) => void editProp(prop.id, 'Release', { '/motion/release': on === 'frame' ? { on, frame: useUi.getState().frame } : { on, reach: null } })} options={[{ value: 'frame', label: 'at a frame' }, { value: 'touch', label: 'on touch' }]} />
                {release.on === 'frame' && <NumberField whole label="Frame" least={0} most={100000} value={release.frame ?? 0} onChange={(v) => void editProp(prop.id, `Release at frame ${v}`, { '/motion/release/frame': v })} />}
                {release.on === 'touch' && (m.held ?? 'still') === 'still' && broken && (
                    <>
                        <Toggle label="Only near the touch" value={release.reach != null} onChange={(on) => void editProp(prop.id, 'Reach of the touch', { '/motion/release/reach': on ? 0.3 : null })} />
                        {release.reach != null && <NumberField slider label="Reach" unit="m" least={0.01} most={20} value={release.reach} onChange={(v) => void editProp(prop.id, 'Reach of the touch', { '/motion/release/reach': v })} />}
                    </>
                )}
            </Section>
            <Groups prop={prop} />
            <Section title="Start">
                <TripleField label="Velocity" unit="m/s" step={0.1} value={m.velocity ?? [0, 0, 0]} onChange={(v) => void editProp(prop.id, 'Starting velocity', { '/motion/velocity': v })} />
                <TripleField label="Spin" unit="°/s" step={10} value={m.spin ?? [0, 0, 0]} onChange={(v) => void editProp(prop.id, 'Starting spin', { '/motion/spin': v })} />
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
                    <div className="min-w-0 flex-1"><NumberField whole label={g.name} hint={`${g.pieces.length} pieces`} least={0} most={100000} value={g.frame} onChange={(v) => void editProp(prop.id, `${g.name} at frame ${v}`, { [`/motion/groups/${i}/frame`]: v })} /></div>
                    <span className="figure text-[11px] text-soft">{g.pieces.length === 1 ? '1 piece' : `${g.pieces.length} pieces`}</span>
                    <button type="button" className="px-1 text-soft hover:text-ink" aria-label={`Remove ${g.name}`} onClick={() => void editProp(prop.id, `Remove ${g.name}`, { '/motion/groups': groups.filter((_, k) => k !== i) })}>✕</button>
                </div>
            ))}
        </Section>
    );
}

function Keys({ prop }: { prop: Prop }) {
    const frame = useUi((s) => s.frame);
    const set = useUi((s) => s.set);
    const keys = prop.motion.keys ?? [];
    const here = keys.find((k) => k.frame === frame);
    return (
        <Section title="Keys" aside={`${keys.length}`}>
            {keys.length > 0 && (
                <ul className="mb-1.5 max-h-40 overflow-auto">
                    {keys.map((k) => (
                        <li key={k.frame} className={`flex items-center gap-2 ${k.frame === frame ? 'font-semibold' : ''}`}>
                            <button type="button" className="text-[13px]" aria-label={`Go to the key at frame ${k.frame}`} onClick={() => set({ frame: k.frame, playing: false })}>◆</button>
                            <NumberField hideLabel whole label={`Frame of the key at ${k.frame}`} least={0} most={100000} value={k.frame} onChange={(v) => void shiftKeys([keyName(prop.id, k.frame)], v - k.frame, false)} />
                            <span className="figure flex-1 truncate text-[11px] text-soft">{k.position.map((v) => v.toFixed(2)).join(' ')}</span>
                            <button type="button" className="px-1 text-soft hover:text-ink" aria-label={`Remove the key at frame ${k.frame}`} onClick={() => removeKeys([keyName(prop.id, k.frame)])}>✕</button>
                        </li>
                    ))}
                </ul>
            )}
            <Button onClick={() => setKey(prop.id, frame)}>{here ? 'Key set at' : 'Set a key at'} frame {frame}</Button>
            {here && (
                <>
                    <TripleField label="Position" unit="m" step={0.01} value={here.position} onChange={(v) => setKey(prop.id, frame, { position: v, turn: here.turn })} />
                    <TripleField label="Turn" unit="°" step={1} value={here.turn} onChange={(v) => setKey(prop.id, frame, { position: here.position, turn: v })} />
                </>
            )}
        </Section>
    );
}

function World() {
    const document = useDocument();
    const edit = useShot((s) => s.edit);
    if (!document) return null;
    const { gravity, ground } = document.world;
    return (
        <Section title="World">
            <NumberField label="Gravity" hint="Downwards; 9.80665 on the ground" unit="m/s²" least={-200} most={200} value={-gravity[1]} onChange={(v) => void edit('Gravity', [{ op: 'replace', path: '/world/gravity', value: [gravity[0], -v, gravity[2]] }])} />
            <Toggle label="Ground" value={ground.on} onChange={(v) => void edit(v ? 'Ground on' : 'Ground off', [{ op: 'replace', path: '/world/ground/on', value: v }])} />
            {ground.on && (
                <>
                    <NumberField label="Ground friction" least={0} most={5} value={ground.friction} onChange={(v) => void edit('Ground friction', [{ op: 'replace', path: '/world/ground/friction', value: v }])} />
                    <NumberField label="Ground bounce" least={0} most={1} value={ground.bounce} onChange={(v) => void edit('Ground bounce', [{ op: 'replace', path: '/world/ground/bounce', value: v }])} />
                </>
            )}
            <Select label="Quality" value={document.quality ?? 'normal'} options={[{ value: 'fast', label: 'Fast: a first look' }, { value: 'normal', label: 'Normal' }, { value: 'final', label: 'Final: tighter contacts' }]} onChange={(v) => void edit('Quality', [{ op: 'add', path: '/quality', value: v }])} />
            <Button className="mt-2 w-full" tone="loud" onClick={() => { useUi.getState().set({ stage: 'bake' }); void bakeShot(); }}>Bake</Button>
        </Section>
    );
}
