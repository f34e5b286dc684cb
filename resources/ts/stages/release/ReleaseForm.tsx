import type { Prop, Release } from '../../data/document';
import { currentMoments } from '../../data/moments';
import { editProp, useDocument } from '../../data/shot';
import { useUi } from '../../data/ui';
import { Choice, Select, Toggle } from '../../parts/controls';
import { NumberField, TripleField } from '../../parts/NumberField';

type On = Release['on'];

const WORDS: Record<On, string> = { frame: 'at a frame', cue: 'at a cue', touch: 'on touch', weight: 'by a weight map', shockwave: 'as a shockwave reaches them' };

/** What lets some pieces go: the prop's, or those of a group. `path` is below the prop. */
export function ReleaseForm({ prop, release, path }: { prop: Prop; release: Release; path: string }) {
    const document = useDocument()!;
    const cues = document.cues ?? [];
    const maps = prop.weights ?? [];
    const said = path !== 'motion/release' || prop.motion.release !== undefined;
    // Where the document says nothing yet, what is shown becomes part of it with the first change.
    const set = (label: string, change: Record<string, unknown>) => void editProp(prop.id, label, said ? Object.fromEntries(Object.entries(change).map(([name, value]) => [`/${path}/${name}`, value])) : { [`/${path}`]: { ...release, ...change } });
    const turn = (on: On) => {
        const frame = useUi.getState().frame;
        const keep = { ...(release.wait === undefined ? {} : { wait: release.wait }), ...(release.seed === undefined ? {} : { seed: release.seed }) };
        const next: Release =
            on === 'frame' ? { on, frame, ...keep }
            : on === 'cue' ? { on, cue: cues[0]?.id ?? '', offset: 0, ...keep }
            : on === 'touch' ? { on, reach: null, ...keep }
            : on === 'weight' ? { on, map: maps[0]?.id ?? '', level: 0.5, ...keep }
            : { on, at: null, wave: 2, ...keep };
        void editProp(prop.id, `Released ${WORDS[on]}`, { [`/${path}`]: next });
    };
    const ways: On[] = ['frame', ...(cues.length > 0 || release.on === 'cue' ? ['cue' as const] : []), 'touch', ...(maps.length > 0 || release.on === 'weight' ? ['weight' as const] : []), ...(prop.break != null ? ['shockwave' as const] : [])];
    const broken = prop.break != null;
    return (
        <>
            <Select label="Let go" value={release.on} options={ways.map((on) => ({ value: on, label: WORDS[on] }))} onChange={turn} />
            {release.on === 'frame' && <NumberField whole label="Frame" least={-100000} most={200000} value={release.frame} onChange={(v) => set(`Release at frame ${v}`, { frame: v })} />}
            {release.on === 'cue' && <AtCue cue={release.cue} offset={release.offset} onChange={set} />}
            {release.on === 'touch' && broken && (
                <>
                    <Toggle label="Only near the touch" value={release.reach != null} onChange={(on) => set('Reach of the touch', { reach: on ? 0.3 : null })} />
                    {release.reach != null && <NumberField slider label="Reach" unit="m" least={0.01} most={20} value={release.reach} onChange={(v) => set('Reach of the touch', { reach: v })} />}
                </>
            )}
            {release.on === 'weight' && (
                <>
                    <Select label="Map" value={release.map} options={[...(maps.some((m) => m.id === release.map) ? [] : [{ value: release.map, label: 'choose…' }]), ...maps.map((m) => ({ value: m.id, label: m.name }))]} onChange={(map) => set('Release by another map', { map })} />
                    <NumberField slider label="From weight" hint="As high a weight as this lets a piece go" least={0.001} most={1} value={release.level ?? 0.5} onChange={(v) => set('Level of the release', { level: v })} />
                </>
            )}
            {release.on === 'shockwave' && <Shockwave release={release} set={set} />}
            {(release.on === 'touch' || (release.on === 'shockwave' && release.at == null)) && <Touchers prop={prop} release={release} set={set} />}
            {broken && (
                <div className="flex items-center gap-2">
                    <div className="min-w-0 flex-1"><NumberField label="Random wait" hint="Each piece waits a while of its own, at most this long" unit="s" least={0} most={1000} step={0.05} value={release.wait ?? 0} onChange={(v) => set('Random wait', { wait: v })} /></div>
                </div>
            )}
            {broken && (release.wait ?? 0) > 0 && <NumberField whole label="Seed" hint="Another number lets others wait longer" least={0} most={999999} value={release.seed ?? 1} onChange={(v) => set('Another seed', { seed: v })} />}
        </>
    );
}

type Set = (label: string, change: Record<string, unknown>) => void;

function AtCue({ cue, offset, onChange }: { cue: string; offset: number; onChange: Set }) {
    const cues = useDocument()?.cues ?? [];
    return (
        <>
            <Select label="Cue" value={cue} options={cues.map((c) => ({ value: c.id, label: c.name }))} onChange={(v) => onChange('Release at a cue', { cue: v })} />
            <NumberField label="Frames after" hint="Below 0: before it" least={-100000} most={100000} value={offset} onChange={(v) => onChange('Frames after the cue', { offset: v })} />
        </>
    );
}

function Shockwave({ release, set }: { release: Extract<Release, { on: 'shockwave' }>; set: Set }) {
    const cues = useDocument()?.cues ?? [];
    const fixed = release.at != null;
    const tied = fixed && release.cue !== undefined;
    const start = (how: string) => {
        const now = Math.round(tied ? (currentMoments().frames[release.cue!] ?? 0) + (release.offset ?? 0) : (release.frame ?? useUi.getState().frame));
        const gone = (...names: ('cue' | 'offset' | 'frame')[]) => Object.fromEntries(names.filter((name) => release[name] !== undefined).map((name) => [name, undefined]));
        set('Start of the shockwave', how === 'frame' ? { ...gone('cue', 'offset'), frame: now } : { ...gone('frame'), cue: how, offset: 0 });
    };
    return (
        <>
            <div className="flex min-h-[33px] items-center gap-2">
                <span className="w-[108px] shrink-0">Starts</span>
                <Choice label="Shockwave starts" value={fixed ? 'point' : 'touch'} options={[{ value: 'touch', label: 'at the touch' }, { value: 'point', label: 'at a point' }]} onChange={(v) => set('Start of the shockwave', { at: v === 'touch' ? null : [0, 0, 0], ...(v === 'point' && release.frame === undefined && release.cue === undefined ? { frame: useUi.getState().frame } : {}) })} />
            </div>
            {fixed && <TripleField label="Point" hint="In the prop’s own coordinates" unit="m" step={0.01} value={release.at!} onChange={(at) => set('Point of the shockwave', { at })} />}
            {fixed && cues.length > 0 && <Select label="When" value={tied ? release.cue! : 'frame'} options={[{ value: 'frame', label: 'at a frame' }, ...cues.map((c) => ({ value: c.id, label: c.name }))]} onChange={start} />}
            {fixed && !tied && <NumberField label="Frame" least={-100000} most={200000} value={release.frame ?? 0} onChange={(v) => set(`Shockwave at frame ${v}`, { frame: v })} />}
            {tied && <NumberField label="Frames after" least={-100000} most={100000} value={release.offset ?? 0} onChange={(v) => set('Frames after the cue', { offset: v })} />}
            <NumberField label="Speed" hint="How fast its radius grows" unit="m/s" least={0.001} most={100000} value={release.wave} onChange={(v) => set('Speed of the shockwave', { wave: v })} />
            <Toggle label="Ends at a radius" value={release.reach != null} onChange={(on) => set('Reach of the shockwave', { reach: on ? 1 : null })} />
            {release.reach != null && <NumberField label="Reach" unit="m" least={0} most={10000} value={release.reach} onChange={(v) => set('Reach of the shockwave', { reach: v })} />}
        </>
    );
}

/** Whose touch counts, and from what speed on. */
function Touchers({ prop, release, set }: { prop: Prop; release: Extract<Release, { on: 'touch' | 'shockwave' }>; set: Set }) {
    const document = useDocument()!;
    const by = release.by ?? [];
    const others = [...document.props.filter((p) => p.id !== prop.id).map((p) => ({ value: p.id, label: p.name })), ...(document.world.ground.kind !== 'none' ? [{ value: 'ground', label: 'the ground' }] : [])];
    return (
        <>
            <Select label="Touched by" value={by.length === 0 ? '' : by.length === 1 ? by[0]! : 'some'} options={[{ value: '', label: 'anything' }, ...(by.length > 1 ? [{ value: 'some', label: `${by.length} of them` }] : []), ...others]} onChange={(v) => v !== 'some' && set('Whose touch counts', { by: v === '' ? [] : [v] })} />
            {by.length > 0 && others.length > 1 && (
                <div className="mb-1 flex flex-wrap gap-x-3 pl-[116px]">
                    {others.map((o) => <Toggle key={o.value} label={o.label} value={by.includes(o.value)} onChange={(on) => set('Whose touch counts', { by: on ? [...by, o.value] : by.filter((id) => id !== o.value) })} />)}
                </div>
            )}
            <NumberField label="Faster than" hint="Slower touches do not count" unit="m/s" least={0} most={10000} value={release.speed ?? 0} onChange={(v) => set('Speed of the touch', { speed: v })} />
        </>
    );
}
