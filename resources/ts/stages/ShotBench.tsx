import { useShot, useDocument } from '../data/shot';
import { rateInWords } from '../data/time';
import { useCatalogue } from '../data/useCatalogue';
import { KeyedNumber, KeyedTriple } from '../parts/KeyedField';
import { Section, Select, Toggle } from '../parts/controls';
import { BenchHead } from './BenchHead';
import { CameraAndPlate } from './CameraAndPlate';
import { FrameRange } from './FrameRange';

/** What belongs to the shot as a whole, whichever prop is chosen. */
export function ShotBench() {
    const document = useDocument();
    if (!document) return null;
    return (
        <>
            <BenchHead title="The shot" under="Its name, frames, camera, plate, gravity and ground" />
            <Section title="Name"><ShotName key={document.name} name={document.name} /></Section>
            <Section title="Frames" aside={rateInWords(document.frames.rate)}>
                <FrameRange />
            </Section>
            <CameraAndPlate />
            <World />
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
    const options = useCatalogue()?.settings.world ?? [];
    if (!document) return null;
    const { ground } = document.world;
    return (
        <Section title="Gravity and ground">
            {options.filter((o) => o.name === 'gravity').map((o) => <KeyedTriple key={o.name} lane={`:world/${o.name}`} option={o} step={0.1} />)}
            <Toggle label="Ground" value={ground} onChange={(v) => void edit(v ? 'Ground on' : 'Ground off', [{ op: 'replace', path: '/world/ground', value: v }])} />
            {ground && options.filter((o) => o.name !== 'gravity').map((o) => <KeyedNumber key={o.name} lane={`:world/${o.name}`} option={o} />)}
            <Select label="Quality" value={document.quality ?? 'normal'} options={[{ value: 'fast', label: 'Fast: a first look' }, { value: 'normal', label: 'Normal' }, { value: 'final', label: 'Final: tighter contacts' }]} onChange={(v) => void edit('Quality', [{ op: 'add', path: '/quality', value: v }])} />
        </Section>
    );
}
