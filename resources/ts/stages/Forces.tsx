import { Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { askForces, newForce, useAir, type ForceWords } from '../data/forces';
import type { Force } from '../data/document';
import { letsGo } from '../data/motion';
import { defaultsOf } from '../data/options';
import { show } from '../data/quantity';
import { useDocument, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { useCatalogue } from '../data/useCatalogue';
import { useChosen } from '../data/useChosen';
import { AddMenu } from '../parts/AddMenu';
import { KeyedNumber } from '../parts/KeyedField';
import { NumberField } from '../parts/NumberField';
import { Section, Select, Toggle } from '../parts/controls';
import { OptionFields } from './Options';

/** What pushes in the shot, each with what it acts on; and what all of them do to the chosen prop. */
export function Forces() {
    const document = useDocument();
    const catalogue = useCatalogue();
    const edit = useShot((s) => s.edit);
    const { shown, lined, height } = useAir();
    if (!document || !catalogue) return null;
    const forces = document.forces ?? [];
    return (
        <Section title="Forces" aside={<AddMenu label="force" entries={catalogue.forces} onAdd={(kind) => void edit(`Add ${catalogue.forces[kind]!.label.toLowerCase()}`, newForce(document, kind, catalogue.forces[kind]!.label, defaultsOf(catalogue.forces[kind])))} />}>
            {forces.length === 0 && <p className="text-soft">Nothing but gravity pushes. Add a wind, eddies, a swirl, still air or water, or a pull.</p>}
            {forces.map((force, at) => <ForceCard key={force.id} force={force} at={at} />)}
            {forces.length > 0 && (
                <>
                    <ForceFacts />
                    <Toggle label="Arrows in the picture" hint="How the air goes over a level plane, as long as each is fast" value={shown} onChange={(on) => useAir.setState({ shown: on })} />
                    {shown && <Toggle label="As lines that follow it" hint="Where the air goes from one place to the next" value={lined} onChange={(on) => useAir.setState({ lined: on })} />}
                    {shown && <NumberField label="At a height of" unit="m" step={0.05} least={-1000} most={1000} value={height ?? 0.3} onChange={(h) => useAir.setState({ height: h })} />}
                </>
            )}
        </Section>
    );
}

function ForceCard({ force, at }: { force: Force; at: number }) {
    const document = useDocument()!;
    const catalogue = useCatalogue()!;
    const edit = useShot((s) => s.edit);
    const entry = catalogue.forces[force.kind];
    const path = `/forces/${at}`;
    const moved = document.props.filter((p) => letsGo(p.motion));
    const maps = document.props.flatMap((p) => (p.weights ?? []).map((m) => ({ value: m.id, label: `${p.name}: ${m.name}` })));
    const on = force.on;
    const set = (label: string, part: string, value: unknown) => void edit(label, [value === undefined ? { op: 'remove', path: `${path}/${part}` } : { op: 'add', path: `${path}/${part}`, value }]);
    return (
        <div role="group" aria-label={force.name} className="mb-1.5 border border-line bg-raised px-2.5 py-1">
            <div className="flex items-center gap-2">
                <span className="font-medium">{force.name}</span>
                <span className="min-w-0 flex-1 truncate text-soft" title={entry?.meaning}>{entry?.meaning}</span>
                <button type="button" aria-label={`Remove ${force.name}`} className="text-soft hover:text-ink" onClick={() => void edit(`Remove ${force.name}`, [{ op: 'remove', path }])}><Trash2 size={13} aria-hidden /></button>
            </div>
            {(catalogue.settings.force ?? []).map((o) => <KeyedNumber key={o.name} lane={`:forces/${at}/${o.name}`} option={o} slider />)}
            <OptionFields lanes={`:forces/${at}/values`} options={entry?.options ?? []} values={force.values as Record<string, unknown>} onSet={(o, v) => set(`${o.label} of ${force.name}`, `values/${o.name}`, v)} />
            {moved.length > 0 && <Select label="Acts on" value={on === undefined ? '' : on.length === 1 ? on[0]! : 'some'} options={[{ value: '', label: 'everything that moves' }, ...moved.map((p) => ({ value: p.id, label: p.name })), ...(on !== undefined && on.length !== 1 ? [{ value: 'some', label: `${on.length} props` }] : [])]} onChange={(id) => (id === 'some' ? undefined : set(`${force.name} acts on`, 'on', id === '' ? undefined : [id]))} />}
            {maps.length > 0 && <Select label="As much as" value={force.map ?? ''} options={[{ value: '', label: 'all of it' }, ...maps]} onChange={(map) => set(`${force.name} within a map`, 'map', map === '' ? undefined : map)} />}
        </div>
    );
}

/** What forces do to the chosen prop, or to the first that moves, in words and as a strip. */
export function ForceFacts() {
    const document = useDocument();
    const chosen = useChosen();
    const prop = chosen && letsGo(chosen.motion) ? chosen : document?.props.find((p) => !p.hidden && letsGo(p.motion));
    const shot = useShot((s) => s.shot?.id);
    const revision = useShot((s) => s.shot?.revision);
    const frame = useUi((s) => s.frame);
    const id = prop?.id;
    const [told, setTold] = useState<ForceWords | null>(null);
    useEffect(() => {
        if (shot === undefined || id === undefined) return;
        let stop = () => {};
        // While the playhead runs nothing is asked.
        const wait = setTimeout(() => { stop = askForces(shot, id, frame, setTold); }, 250);
        return () => { clearTimeout(wait); stop(); };
        // Only a saved revision counts.
    }, [shot, id, revision, frame]);
    if (!prop) return <p className="mb-1.5 border-l-4 border-doubt bg-raised px-3 py-1.5">Nothing moves by physics, so forces do nothing: make a prop Free on Motion.</p>;
    if (told === null || told.words === null) return <p className="text-soft">What they do to {prop.name} is being worked out.</p>;
    return (
        <div className="mb-1.5" role="status" aria-label={`What forces do to ${prop.name}`}>
            <p className="font-medium">{prop.name} <span className="font-normal text-soft">at frame {frame}</span></p>
            {told.words.map((w) => <p key={w}>{w}</p>)}
            {told.strip.length > 0 && <Strip told={told} />}
        </div>
    );
}

/** How many pieces are carried off at each speed of the air; where it is now is marked. */
function Strip({ told }: { told: ForceWords }) {
    const n = told.strip.length - 1;
    const points = told.strip.map((s, k) => `${(300 * k) / n},${39 - 36 * s}`).join(' ');
    const now = (300 * Math.min(told.wind, told.fastest)) / told.fastest;
    return (
        <figure className="mt-1">
            <svg viewBox="0 0 300 40" preserveAspectRatio="none" className="block h-[40px] w-full border-b border-line" role="img" aria-label="Share of its pieces carried off, by the speed of the air">
                <polygon points={`0,39 ${points} 300,39`} fill="var(--fine)" opacity={0.3} />
                <polyline points={points} fill="none" stroke="var(--fine)" vectorEffect="non-scaling-stroke" />
                <line x1={now} x2={now} y1={0} y2={40} stroke="var(--ink)" vectorEffect="non-scaling-stroke" />
            </svg>
            <figcaption className="figure flex justify-between text-[11px] text-soft"><span>0</span><span>carried off by air of …</span><span>{show(told.fastest, 'm/s', 2)}</span></figcaption>
        </figure>
    );
}
