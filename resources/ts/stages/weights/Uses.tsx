import { Trash2 } from 'lucide-react';
import { standInOf, standsIn } from '../../data/standIn';
import type { Prop, WeightMap } from '../../data/document';
import { editProp, useDocument } from '../../data/shot';
import { useUi } from '../../data/ui';
import { movesBy } from '../../data/weights';
import { useCatalogue } from '../../data/useCatalogue';
import { Colour, Section, Select, Toggle } from '../../parts/controls';
import { KeyedNumber } from '../../parts/KeyedField';
import { NumberField } from '../../parts/NumberField';

/** What a map does: what it lets go or moves, what it shows, and what it changes about the surface. */
export function Uses({ prop, map }: { prop: Prop; map: WeightMap }) {
    return (
        <Section title="What it does">
            <p className="mb-1.5 text-soft">A map can let pieces go, drift them, say how much they are pushed (on Motion), and where pieces are dense (on Break); here it shows the prop, changes its surface, or brings another.</p>
            <Moves prop={prop} map={map} />
            <Shows prop={prop} map={map} />
            <Second prop={prop} map={map} />
            <Stands prop={prop} map={map} />
            <Blends prop={prop} map={map} />
            <StandIn prop={prop} map={map} />
        </Section>
    );
}

/** What the Motion stage does with it. */
function Moves({ prop, map }: { prop: Prop; map: WeightMap }) {
    const done = movesBy(prop, map.id);
    return (
        <p className="mb-1 flex items-baseline justify-between gap-2">
            <span className={done.length === 0 ? 'text-soft' : ''}>{done.length === 0 ? 'Moves nothing yet' : `It ${done.join(', ')}`}</span>
            <button type="button" className="underline underline-offset-2" onClick={() => useUi.getState().set({ stage: 'motion' })}>Motion</button>
        </p>
    );
}

const HOWS = [{ value: 'off', label: 'the prop is there all the time' }, { value: 'pieces', label: 'piece by piece' }, { value: 'grow', label: 'each piece growing' }, { value: 'surface', label: 'along the surface' }] as const;

function Shows({ prop, map }: { prop: Prop; map: WeightMap }) {
    const own = prop.appears?.map === map.id ? prop.appears : null;
    const set = (label: string, value: Prop['appears']) => void editProp(prop.id, label, { '/appears': value });
    return (
        <>
            <Select label="Shows it" value={own?.how ?? 'off'} options={HOWS} onChange={(how) => set(how === 'off' ? `${prop.name} is there all the time` : `${prop.name} appears`, how === 'off' ? null : { ...own, map: map.id, how })} />
            {own !== null && (
                <div className="mb-1 border-l-2 border-line pl-2.5">
                    {own.how !== 'grow' && <NumberField slider label="From weight" hint="What is at this weight or above is seen" least={0.001} most={1} value={own.level ?? 0.5} onChange={(level) => set('From which weight on it is seen', { ...own, level })} />}
                    <Toggle label="Goes as the map comes" hint="What was seen is not, and the other way round" value={own.invert ?? false} onChange={(invert) => set('Turn it round', { ...own, invert })} />
                </div>
            )}
        </>
    );
}

function Second({ prop, map }: { prop: Prop; map: WeightMap }) {
    const materials = useCatalogue()?.materials ?? {};
    const own = prop.material.second?.map === map.id ? prop.material.second : null;
    const set = (label: string, value: Prop['material']['second']) => void editProp(prop.id, label, { '/material/second': value });
    const colourOf = (name: string) => materials[name]?.colour ?? '#8a8a80';
    const first = Object.keys(materials).find((name) => name !== prop.material.name) ?? 'stone';
    return (
        <>
            <Toggle label="Turns into another surface" hint="The outside takes on a second material as the weight rises" value={own !== null} onChange={(on) => set(on ? 'A second surface' : 'No second surface', on ? { map: map.id, name: first, colour: colourOf(first) } : null)} />
            {own !== null && (
                <div className="mb-1 border-l-2 border-line pl-2.5">
                    <Select label="Into" value={own.name} options={Object.entries(materials).map(([value, m]) => ({ value, label: m.label }))} onChange={(name) => set(`It turns into ${name}`, { map: map.id, name, colour: colourOf(name) })} />
                    <Colour label="Its colour" value={own.colour} onChange={(colour) => set('Colour of the second surface', { ...own, colour })} />
                    <NumberField slider label="Its roughness" least={0} most={1} value={own.roughness ?? 0.8} onChange={(roughness) => set('Roughness of the second surface', { ...own, roughness })} />
                </div>
            )}
        </>
    );
}

function Stands({ prop, map }: { prop: Prop; map: WeightMap }) {
    const depth = useCatalogue()?.settings.relief.find((o) => o.name === 'depth');
    const own = prop.relief?.map === map.id;
    return (
        <>
            <Toggle label="Relief" hint="The surface stands out along its normal as the weight rises" value={own} onChange={(on) => void editProp(prop.id, on ? 'Relief' : 'No relief', { '/relief': on ? { map: map.id, depth: depth?.default ?? 0.02 } : null })} />
            {own && depth && <div className="mb-1 border-l-2 border-line pl-2.5"><KeyedNumber lane={`${prop.id}:relief/depth`} option={depth} /></div>}
        </>
    );
}

/** The props it goes over into, one after the other, as the weight rises. */
function Blends({ prop, map }: { prop: Prop; map: WeightMap }) {
    const document = useDocument()!;
    const own = prop.blend?.map === map.id ? prop.blend : null;
    const to: readonly string[] = own?.to ?? [];
    const others = document.props.filter((p) => p.id !== prop.id && p.source.kind === 'mesh' && p.source.kept === true);
    const set = (label: string, next: readonly string[]) => void editProp(prop.id, label, { '/blend': next.length === 0 ? null : { ...own, map: map.id, to: next } });
    const nameOf = (id: string) => document.props.find((p) => p.id === id)?.name ?? id;
    if (others.length === 0 && to.length === 0) return null;
    return (
        <>
            <Select label="Blends into" value="" options={[{ value: '', label: to.length === 0 ? 'nothing' : to.length === 1 ? 'one cast' : `${to.length} casts, in this order` }, ...others.filter((p) => !to.includes(p.id)).map((p) => ({ value: p.id, label: p.name }))]} onChange={(id) => id !== '' && set(`${prop.name} blends into ${nameOf(id)}`, [...to, id])} />
            {to.map((id) => (
                <div key={id} className="flex items-center gap-2 pl-2">
                    <span className="min-w-0 flex-1 truncate text-soft">{nameOf(id)}</span>
                    <button type="button" aria-label={`Blend no more into ${nameOf(id)}`} className="text-soft hover:text-ink" onClick={() => set('Blend otherwise', to.filter((t) => t !== id))}><Trash2 size={13} aria-hidden /></button>
                </div>
            ))}
        </>
    );
}

/** Another prop that comes as this one goes. */
function StandIn({ prop, map }: { prop: Prop; map: WeightMap }) {
    const document = useDocument()!;
    const other = standInOf(document, prop, map);
    const others = document.props.filter((p) => p.id !== prop.id);
    if (others.length === 0) return null;
    return (
        <>
            <p className="mt-1 text-soft">A stand-in is another prop that comes into view as this one goes.</p>
            <Select label="Stand-in" value={other?.id ?? ''} options={[{ value: '', label: 'nothing takes its place' }, ...others.map((p) => ({ value: p.id, label: p.name }))]} onChange={(id) => void standsIn(prop, map, other, others.find((p) => p.id === id) ?? null)} />
            {other !== null && <p className="mb-1 text-soft">{other.name} comes as {prop.name} goes; how is set where {other.name} is chosen.</p>}
        </>
    );
}
