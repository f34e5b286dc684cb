import { bakeShot, fallSize, freeMotion } from '../data/fall';
import type { Motion, Prop } from '../data/document';
import { editProp, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Choice, Section } from '../parts/controls';
import { NumberField } from '../parts/NumberField';
import { poseAt } from '../data/pose';
import { driftAtOnce, driftMotion } from '../data/driftMotion';
import { BenchHead, ChooseFirst } from './BenchHead';
import { PresetPlate } from './PresetPlate';
import { DriftBench } from './drift/DriftBench';
import { DustBench } from './DustBench';
import { ForceFacts } from './Forces';
import { ContactFacts } from './release/ContactFacts';
import { ReleaseBench } from './release/ReleaseBench';
import { keyFrame, setKey } from '../data/keys';
import { currentMoments } from '../data/moments';
import { PlaceFields } from './PropFields';
import { letsGo } from '../data/motion';
import { useCatalogue } from '../data/useCatalogue';
import { useChosen } from '../data/useChosen';

const BY_KEYS: readonly { value: Motion['kind']; label: string; hint: string }[] = [
    { value: 'fixed', label: 'Fixed', hint: 'Does not move; others collide with it' },
    { value: 'keyed', label: 'Keyed', hint: 'Moves by its keys; others collide with it' },
];

export function MotionStage() {
    const prop = useChosen();
    return (
        <>
            <BenchHead help={prop?.motion.kind === 'cloth' ? 'cloth' : prop?.motion.kind === 'drift' ? 'release-and-drift#drift-motion-without-physics' : 'release-and-drift'} aside={prop && <PresetPlate bench="motion" prop={prop} />} title={prop ? `Motion of ${prop.name}` : 'Motion'} under="What moves, from when, and how" />
            {prop ? <PropMotion key={prop.id} prop={prop} /> : <ChooseFirst what="say how it moves" />}
            <Section title="Look at it">
                <Button className="w-full" tone="loud" onClick={() => { useUi.getState().set({ stage: 'bake' }); void bakeShot(); }}>Bake</Button>
            </Section>
        </>
    );
}

function PropMotion({ prop }: { prop: Prop }) {
    const m = prop.motion;
    const frame = useUi((s) => s.frame);
    const movers = useCatalogue()?.movers ?? {};
    const forces = useShot((s) => s.shot?.document.forces?.length ?? 0);
    const kinds = [...BY_KEYS, ...Object.entries(movers).map(([value, { label, meaning }]) => ({ value, label, hint: meaning ?? '' }))];
    const kind = (value: Motion['kind']) => {
        if (value === 'drift' && (prop.weights ?? []).length === 0) {
            void driftAtOnce(prop);
            return;
        }
        const { shot } = useShot.getState();
        // What is fixed stands where its keys had it at the playhead.
        const stand = poseAt(prop, useUi.getState().frame, currentMoments(), shot?.document.frames.first);
        const met = { kind: value, ...(m.simplify ? { simplify: m.simplify } : {}) };
        void editProp(prop.id, `${prop.name} is ${value}`, value === 'fixed' ? { '/motion': met, '/place/position': stand.position, '/place/turn': stand.turn } : { '/motion': value === 'keyed' ? met : value === 'drift' ? driftMotion(prop) : value === 'free' ? freeMotion(prop, 'clumps', fallSize(prop)) : { kind: value } });
    };
    return (
        <>
            <Section title="Kind of motion">
                <Choice fill label="How it moves" value={m.kind} options={kinds} onChange={kind} />
                <p className="mt-1.5 text-soft">{kinds.find((k) => k.value === m.kind)?.hint ?? ''}.</p>
            </Section>
            {m.kind === 'drift' && <DriftBench prop={prop} />}
            {letsGo(m) ? <ReleaseBench prop={prop} /> : (
                <Section title="What others meet">
                    <NumberField label="May lie off it by" hint="Fewer faces make it quicker to fall on; 0 for its true surface" unit="m" least={0} most={1000} step={0.001} value={m.simplify ?? 0} onChange={(v) => void editProp(prop.id, 'What others meet', { '/motion/simplify': v })} />
                    <ContactFacts prop={prop} />
                </Section>
            )}
            <DustBench prop={prop} />
            {letsGo(m) && (
                <Section title="Forces on it" aside={<button type="button" className="underline-offset-2 hover:underline" onClick={() => useUi.getState().set({ stage: 'shot' })}>{forces > 0 ? 'change' : 'add'}</button>}>
                    {forces > 0 ? <ForceFacts /> : <p className="text-soft">Gravity alone. Wind, eddies, pulls and the like belong to the shot.</p>}
                </Section>
            )}
            <Section title="Place" aside={`at frame ${frame}`}>
                <PlaceFields prop={prop} />
                <Button className="mt-1.5 w-full" onClick={() => setKey(prop.id, frame)}>Key position and turn at frame {keyFrame(`${prop.id}:place/position`, frame, currentMoments())}</Button>
            </Section>
        </>
    );
}
