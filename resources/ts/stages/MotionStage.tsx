import { bakeShot, freeMotion } from '../data/fall';
import type { Motion, Prop } from '../data/document';
import { editProp, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Choice, Section } from '../parts/controls';
import { poseAt } from '../data/pose';
import { driftAtOnce, driftMotion } from '../data/driftMotion';
import { BenchHead, ChooseFirst } from './BenchHead';
import { DriftBench } from './drift/DriftBench';
import { ReleaseBench } from './release/ReleaseBench';
import { setKey } from '../data/keys';
import { currentMoments } from '../data/moments';
import { PlaceFields } from './PropFields';
import { useChosen } from '../data/useChosen';

const KINDS: readonly { value: Motion['kind']; label: string; hint: string }[] = [
    { value: 'fixed', label: 'Fixed', hint: 'Does not move; others collide with it' },
    { value: 'keyed', label: 'Keyed', hint: 'Moves by its keys; others collide with it' },
    { value: 'free', label: 'Free', hint: 'Moves by physics once released' },
    { value: 'drift', label: 'Drift', hint: 'Its pieces move by a weight map, without physics' },
];

export function MotionStage() {
    const prop = useChosen();
    return (
        <>
            <BenchHead title={prop ? `Motion of ${prop.name}` : 'Motion'} under="What moves, from when, and how" />
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
    const kind = (value: Motion['kind']) => {
        if (value === 'drift' && (prop.weights ?? []).length === 0) {
            void driftAtOnce(prop);
            return;
        }
        const { shot } = useShot.getState();
        // What is fixed stands where its keys had it at the playhead.
        const stand = poseAt(prop, useUi.getState().frame, currentMoments(), shot?.document.frames.first);
        void editProp(prop.id, `${prop.name} is ${value}`, value === 'fixed' ? { '/motion': { kind: value }, '/place/position': stand.position, '/place/turn': stand.turn } : { '/motion': value === 'keyed' ? { kind: value } : value === 'drift' ? driftMotion(prop) : freeMotion(prop) });
    };
    return (
        <>
            <Section title="Kind of motion">
                <Choice fill label="How it moves" value={m.kind} options={KINDS} onChange={kind} />
                <p className="mt-1.5 text-soft">{KINDS.find((k) => k.value === m.kind)!.hint}.</p>
            </Section>
            {m.kind === 'drift' && <DriftBench prop={prop} />}
            {(m.kind === 'free' || (m.kind === 'drift' && m.drift?.handOver)) && <ReleaseBench prop={prop} />}
            <Section title="Place" aside={`at frame ${frame}`}>
                <PlaceFields prop={prop} />
                <Button className="mt-1.5 w-full" onClick={() => setKey(prop.id, frame)}>Key position and turn at frame {frame}</Button>
            </Section>
        </>
    );
}
