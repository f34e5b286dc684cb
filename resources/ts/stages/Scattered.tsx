import { useState } from 'react';
import type { Option } from '../data/api';
import type { Prop, ScatterSource } from '../data/document';
import { freeId, freeName } from '../data/make';
import { applies } from '../data/options';
import { editProp, useDocument, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Section, Select } from '../parts/controls';
import { OptionField } from '../parts/OptionField';

/** Begins a prop of copies of one prop, strewn over another. */
export function StrewSection({ options }: { options: readonly Option[] }) {
    const props = useDocument()?.props ?? [];
    const [of, setOf] = useState('');
    const [over, setOver] = useState('');
    if (props.length < 2) return <Section title="Strew copies"><p className="text-soft">With two props in the shot, copies of one can be strewn over the other.</p></Section>;
    const what = props.find((p) => p.id === of) ?? props[1]!;
    const ground = props.find((p) => p.id === over && p.id !== what.id) ?? props.find((p) => p.id !== what.id)!;
    const list = (all: readonly Prop[]) => all.map((p) => ({ value: p.id, label: p.name }));
    const strew = async () => {
        const document = useShot.getState().shot!.document;
        const name = freeName(document, `${what.name}s strewn`);
        const prop: Prop = { ...what, id: freeId(document, name), name, source: { kind: 'scatter', of: what.id, over: ground.id, values: { number: options.find((o) => o.name === 'number')?.default ?? 60 } }, prepare: [], place: ground.place, break: null, rework: [], motion: { kind: 'fixed' }, weights: [], appears: null, relief: null, material: { ...what.material, second: null }, hidden: false };
        if (await useShot.getState().edit(`Strew ${what.name} over ${ground.name}`, [{ op: 'add', path: '/props/-', value: prop }, { op: 'add', path: `/props/${document.props.findIndex((p) => p.id === what.id)}/hidden`, value: true }])) useUi.getState().set({ chosen: prop.id });
    };
    return (
        <Section title="Strew copies">
            <Select label="Copies of" value={what.id} options={list(props)} onChange={setOf} />
            <Select label="Over" value={ground.id} options={list(props.filter((p) => p.id !== what.id))} onChange={setOver} />
            <Button className="mt-1.5 w-full" onClick={() => void strew()}>Strew {what.name} over {ground.name}</Button>
        </Section>
    );
}

/** How copies are strewn. */
export function Scattered({ prop, source, options }: { prop: Prop; source: ScatterSource; options: readonly Option[] }) {
    const props = useDocument()?.props ?? [];
    const values = source.values as Record<string, unknown>;
    const list = (not: string) => props.filter((p) => p.id !== prop.id && p.id !== not).map((p) => ({ value: p.id, label: p.name }));
    return (
        <Section title="Strewn">
            <Select label="Copies of" value={source.of} options={list(source.over)} onChange={(of) => void editProp(prop.id, 'What is copied', { '/source/of': of })} />
            <Select label="Over" value={source.over} options={list(source.of)} onChange={(over) => void editProp(prop.id, 'What it is strewn over', { '/source/over': over })} />
            {options.filter((o) => applies(o, options, values)).map((o) => (
                <OptionField key={o.name} option={o} value={values[o.name]} mapsOf={source.over} onChange={(v) => void editProp(prop.id, `${o.label} of ${prop.name}`, { [`/source/values/${o.name}`]: v })} />
            ))}
        </Section>
    );
}
