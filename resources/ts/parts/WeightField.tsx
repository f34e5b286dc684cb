import type { ReactNode } from 'react';
import type { Option } from '../data/api';
import { applies, defaultsOf } from '../data/options';
import { useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { useCatalogue } from '../data/useCatalogue';
import { Select, Toggle } from './controls';
import { NumberField } from './NumberField';

/** A weight as a document says it. */
interface WeightValue {
    source: string;
    values: Record<string, unknown>;
    invert?: boolean;
    /** Of a map: the frame it is taken as it is at. */
    frame?: number;
}

interface Props {
    option: Option;
    value: WeightValue | null;
    onChange: (value: WeightValue | null) => void;
    /** Where a weight that is switched on lies. */
    start: readonly number[];
    /** The prop whose maps it may go by; the chosen one if not said. */
    mapsOf?: string;
    /** The control for one of a source's own options. */
    field: (option: Option, value: unknown, onChange: (value: unknown) => void) => ReactNode;
}

/** Where something acts: off, a source with its settings, or a map as it is at a frame; possibly inverted. */
export function WeightField({ option: o, value, onChange, start, mapsOf, field }: Props) {
    const chosen = useUi((s) => s.chosen);
    const maps = useDocument()?.props.find((p) => p.id === (mapsOf ?? chosen))?.weights ?? [];
    const all = useCatalogue()?.weights ?? {};
    const sources = Object.fromEntries(Object.entries(all).filter(([, e]) => e.anywhere));
    const entry = value === null ? undefined : sources[value.source];
    const choose = (source: string): WeightValue => {
        if (source === 'map') return { source, values: { map: maps[0]!.id }, frame: useUi.getState().frame, invert: value?.invert ?? false };
        const values = defaultsOf(sources[source]);
        for (const name of ['middle', 'point']) if (name in values) values[name] = value?.values.middle ?? value?.values.point ?? [...start];
        return { source, values, invert: value?.invert ?? false };
    };
    return (
        <div>
            <Toggle label={o.label} hint={o.meaning} value={value !== null} onChange={(on) => onChange(on ? choose('ball') : null)} />
            {value !== null && (
                <div className="mb-1 border-l-2 border-line pl-2.5">
                    <Select label="Source" value={value.source} options={[...Object.entries(sources).map(([name, e]) => ({ value: name, label: `${e.label}: ${(e.meaning ?? '').toLowerCase()}` })), ...(maps.length > 0 || value.source === 'map' ? [{ value: 'map', label: 'A weight map' }] : [])]} onChange={(s) => onChange(choose(s))} />
                    {entry?.options.filter((x) => applies(x, entry.options, value.values)).map((x) => field(x, value.values[x.name], (v) => onChange({ ...value, values: { ...value.values, [x.name]: v } })))}
                    {value.source === 'map' && (
                        <>
                            <Select label="Map" value={String(value.values.map)} options={maps.map((m) => ({ value: m.id, label: m.name }))} onChange={(map) => onChange({ ...value, values: { map } })} />
                            <NumberField whole label="As at frame" hint="A break is the same at every frame: it goes by the map as it is at this one" least={-100000} most={200000} value={value.frame ?? 0} onChange={(frame) => onChange({ ...value, frame })} />
                        </>
                    )}
                    <Toggle label="Invert" hint="Where it was full it is none, and the other way round" value={value.invert ?? false} onChange={(invert) => onChange({ ...value, invert })} />
                </div>
            )}
        </div>
    );
}

/** One of the other props of the shot. */
export function PropField({ option: o, value, onChange }: { option: Option; value: string | null; onChange: (value: string | null) => void }) {
    const document = useDocument();
    const chosen = useUi((s) => s.chosen);
    const others = (document?.props ?? []).filter((p) => p.id !== chosen);
    return <Select label={o.label} value={value ?? ''} options={[{ value: '', label: others.length === 0 ? 'no other prop yet' : 'choose…' }, ...others.map((p) => ({ value: p.id, label: p.name }))]} onChange={(v) => onChange(v === '' ? null : v)} />;
}
