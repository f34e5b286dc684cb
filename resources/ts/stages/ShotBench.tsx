import { useShot, useDocument } from '../data/shot';
import { rateInWords } from '../data/time';
import { hasMover } from '../data/motion';
import { useCatalogue } from '../data/useCatalogue';
import { KeyedNumber, KeyedTriple } from '../parts/KeyedField';
import { OptionField } from '../parts/OptionField';
import { Section, Select } from '../parts/controls';
import { BenchHead } from './BenchHead';
import { CameraAndPlate } from './CameraAndPlate';
import { Forces } from './Forces';
import { FrameRange } from './FrameRange';
import { Notes } from './Notes';

/** What belongs to the shot as a whole, whichever prop is chosen. */
export function ShotBench() {
    const document = useDocument();
    if (!document) return null;
    return (
        <>
            <BenchHead help="time-and-cues#the-camera-and-the-plate" title="The shot" under="Its name, frames, camera, plate, gravity, ground and forces" />
            <Section title="Name"><ShotName key={document.name} name={document.name} /></Section>
            <Section title="Frames" aside={rateInWords(document.frames.rate)}>
                <FrameRange />
            </Section>
            <CameraAndPlate />
            <World />
            <Forces />
            <Notes />
        </>
    );
}

function ShotName({ name }: { name: string }) {
    const take = (next: string) => next !== '' && next !== name && void useShot.getState().edit('Rename the shot', [{ op: 'replace', path: '/name', value: next }]);
    return (
        <input
            aria-label="Name of the shot"
            defaultValue={name}
            maxLength={120}
            className="mb-1 h-[27px] w-full border border-line bg-raised px-2 font-semibold"
            onBlur={(e) => take(e.target.value.trim())}
            onKeyDown={(e) => {
                e.stopPropagation();
                if (e.key === 'Escape') e.currentTarget.value = name;
                if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
            }}
        />
    );
}

function World() {
    const document = useDocument();
    const edit = useShot((s) => s.edit);
    const catalogue = useCatalogue();
    const options = catalogue?.settings.world ?? [];
    const grounds = catalogue?.grounds ?? {};
    if (!document) return null;
    const { ground } = document.world;
    const standing = document.props.filter((p) => !hasMover(p.motion));
    const lay = (kind: string) => void edit('Ground', [{ op: 'replace', path: '/world/ground', value: kind === 'prop' ? { kind, prop: standing[0]?.id ?? '' } : { kind, ...(grounds[kind]?.options.length ? { values: Object.fromEntries(grounds[kind]!.options.map((o) => [o.name, o.default])) } : {}) } }]);
    return (
        <Section title="Gravity, ground and pace">
            {options.filter((o) => o.name === 'gravity').map((o) => <KeyedTriple key={o.name} lane={`:world/${o.name}`} option={o} step={0.1} />)}
            <Select label="Ground" value={ground.kind} options={Object.entries(grounds).map(([value, { label }]) => ({ value, label }))} onChange={lay} />
            <p className="mb-1.5 text-soft">{grounds[ground.kind]?.meaning}.</p>
            {ground.kind === 'prop' && <Select label="Prop" value={ground.prop ?? ''} options={standing.map((p) => ({ value: p.id, label: p.name }))} onChange={(prop) => void edit('Ground', [{ op: 'replace', path: '/world/ground', value: { kind: 'prop', prop } }])} />}
            {(grounds[ground.kind]?.options ?? []).map((o) => <OptionField key={o.name} option={o} value={ground.values?.[o.name] ?? o.default} onChange={(v) => void edit(`${o.label} of the ground`, [{ op: 'add', path: `/world/ground/values`, value: { ...ground.values, [o.name]: v } }])} />)}
            {ground.kind !== 'none' && ground.kind !== 'prop' && options.filter((o) => o.name !== 'gravity' && o.name !== 'pace').map((o) => <KeyedNumber key={o.name} lane={`:world/${o.name}`} option={o} />)}
            {options.filter((o) => o.name === 'pace').map((o) => <KeyedNumber key={o.name} lane={`:world/${o.name}`} option={o} />)}
            {document.world.pace !== undefined && document.world.pace !== 1 && <Select label="Keyed props" value={document.world.keysFollow ? 'follow' : 'keep'} options={[{ value: 'keep', label: 'keep to their frames' }, { value: 'follow', label: 'follow the pace' }]} onChange={(v) => void edit('Keyed props and the pace', [{ op: 'add', path: '/world/keysFollow', value: v === 'follow' }])} />}
            <Select label="Quality" value={document.quality ?? 'normal'} options={[{ value: 'fast', label: 'Fast: a first look' }, { value: 'normal', label: 'Normal' }, { value: 'final', label: 'Final: tighter contacts' }]} onChange={(v) => void edit('Quality', [{ op: 'add', path: '/quality', value: v }])} />
        </Section>
    );
}
