import { Layers2 } from 'lucide-react';
import type { Catalogue } from '../data/api';
import type { PrepareStep, Prop } from '../data/document';
import { freeId, freeName } from '../data/make';
import { usePieces } from '../data/pieces';
import { editProp, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Section } from '../parts/controls';
import { defaultsOf } from '../data/options';
import { Stack } from './Stack';

/** Metres a shell stands off its core, so that the two do not touch, where the core's size asks for no other. */
const SHELL_GAP = 0.001;

/** What is done to the prop's mesh, in order, each time anew from its source. */
export function Preparation({ prop, catalogue }: { prop: Prop; catalogue: Catalogue }) {
    const steps = prop.prepare ?? [];
    const lengths = usePieces((s) => s.byProp[prop.id]?.lengths.steps);
    const change = (label: string, next: PrepareStep[]) => void editProp(prop.id, label, { '/prepare': next });
    const shell = async () => {
        const { shot, edit } = useShot.getState();
        const copy: Prop = {
            ...prop,
            id: freeId(shot!.document, `${prop.id}-shell`),
            name: freeName(shot!.document, `${prop.name} shell`),
            prepare: [...steps, { step: 'push', values: { distance: SHELL_GAP, ...lengths?.push } }],
        };
        if (await edit(`Copy ${prop.name} as a shell`, [{ op: 'add', path: '/props/-', value: copy }])) useUi.getState().set({ chosen: copy.id });
    };
    return (
        <Section title="Preparation">
            <Stack
                items={steps.map((s) => ({ name: s.step, entry: catalogue.steps[s.step], values: s.values }))}
                empty="Used as it comes. Steps are done in order, each time anew from the source."
                onValue={(i, option, label, value) => change(`${label} of ${prop.name}`, steps.map((s, k) => (k === i ? { ...s, values: { ...s.values, [option]: value } } : s)))}
                onMove={(from, to) => {
                    const next = [...steps];
                    next.splice(to, 0, ...next.splice(from, 1));
                    change('Change the order of preparation', next);
                }}
                onRemove={(i) => change(`Take back: ${catalogue.steps[steps[i]!.step]?.label}`, steps.filter((_, k) => k !== i))}
            />
            <div className="flex flex-wrap gap-1.5">
                <select aria-label="Add a step" value="" onChange={(e) => change(`${catalogue.steps[e.target.value]?.label} ${prop.name}`, [...steps, { step: e.target.value, values: defaultsOf(catalogue.steps[e.target.value], lengths?.[e.target.value]) }])} className="h-[29px] border border-line bg-raised px-1.5">
                    <option value="">Add a step…</option>
                    {Object.entries(catalogue.steps).map(([name, entry]) => <option key={name} value={name} title={entry.meaning}>{entry.label}</option>)}
                </select>
                <Button onClick={() => void shell()} hint="A second prop, pushed out by a hair, that can flake off this one"><Layers2 size={13} aria-hidden /> Copy as shell</Button>
            </div>
        </Section>
    );
}
