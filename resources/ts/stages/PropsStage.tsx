import { useQuery } from '@tanstack/react-query';
import { Copy, CopyPlus, Trash2, Upload } from 'lucide-react';
import { useRef } from 'react';
import { api, type Fitness } from '../data/api';
import type { MeshSource, Prop } from '../data/document';
import { freeId, freeName, materialOf, newProp } from '../data/make';
import { usePieces } from '../data/pieces';
import { editProp, useShot } from '../data/shot';
import { copyProp, removeProp, takeCopy } from '../data/wholeProps';
import { useUi } from '../data/ui';
import { bringIn } from '../data/bringIn';
import { Button, Choice, Colour, Fact, Fault, Section, Select } from '../parts/controls';
import { show, showAll } from '../data/quantity';
import { NumberField } from '../parts/NumberField';
import { MaterialField, PlaceFields } from './PropFields';
import { applies } from '../data/options';
import { OptionField } from '../parts/OptionField';
import { BenchHead } from './BenchHead';
import { MaterialUsual } from './MaterialUsual';
import { PresetPlate } from './PresetPlate';
import { CopiedProp } from './CopiedProp';
import { PictureOn } from './PictureOn';
import { Preparation } from './Preparation';
import { Scattered, StrewSection } from './Scattered';
import { Swap } from './Swap';
import { SHAPE_DRAWINGS } from './drawings';
import { useCatalogue } from '../data/useCatalogue';
import { useChosen } from '../data/useChosen';

// A plain vase, so that a new lathe prop shows what a profile does.
const FIRST_PROFILE = [[0, 0], [0.16, 0], [0.24, 0.16], [0.2, 0.36], [0.12, 0.46], [0.15, 0.55], [0.12, 0.55], [0.09, 0.46], [0.17, 0.35], [0.21, 0.17], [0.14, 0.03], [0, 0.03]];

export function PropsStage() {
    const prop = useChosen();
    return prop === null ? <AddProp /> : <OneProp key={prop.id} prop={prop} />;
}

function AddProp() {
    const catalogue = useCatalogue();
    const input = useRef<HTMLInputElement>(null);
    const build = async (shape: string) => {
        const document = useShot.getState().shot!.document;
        const prop = newProp(document, catalogue!.shapes[shape]!.label, { kind: 'shape', shape, values: shape === 'lathe' ? { profile: FIRST_PROFILE } : {} }, 'concrete', catalogue!.materials.concrete!);
        if (await useShot.getState().edit(`Build: ${catalogue!.shapes[shape]!.label.toLowerCase()}`, [{ op: 'add', path: '/props/-', value: prop }])) useUi.getState().set({ chosen: prop.id });
    };
    return (
        <>
            <BenchHead help="props" title="Add a prop" under="What breaks, what it falls on, and what hits it" />
            <Section title="Bring in a mesh, drawing or picture">
                <input ref={input} type="file" accept=".obj,.stl,.ply,.glb,.svg,.png" multiple className="sr-only" tabIndex={-1} aria-label="Mesh file" onChange={async (e) => {
                    const files = [...(e.target.files ?? [])];
                    e.target.value = '';
                    for (const file of files) await bringIn(file, catalogue!.materials);
                }} />
                <Button onClick={() => input.current?.click()} disabled={!catalogue} className="w-full"><Upload size={14} aria-hidden /> Choose a file…</Button>
                <p className="mt-1.5 text-soft">Or drop it on the stage. OBJ, STL, PLY or GLB, up to 200 MB; an SVG drawing or a PNG picture becomes a slab of its outline.</p>
            </Section>
            <Section title="Build a shape">
                <div className="grid grid-cols-4 gap-1.5">
                    {Object.keys(catalogue?.shapes ?? {}).map((shape) => (
                        <button key={shape} type="button" onClick={() => void build(shape)} className="quick flex h-[66px] flex-col items-center justify-center gap-1 border border-line bg-raised hover:border-ink">
                            {SHAPE_DRAWINGS[shape]}
                            <span className="font-narrow text-[12px]">{catalogue!.shapes[shape]!.label}</span>
                        </button>
                    ))}
                </div>
            </Section>
            {catalogue && <StrewSection options={catalogue.scatter} />}
            <CopiedProp prop={null} />
        </>
    );
}

function OneProp({ prop }: { prop: Prop }) {
    const catalogue = useCatalogue();
    const problem = usePieces((s) => s.problems[prop.id]);
    const source = prop.source;
    return (
        <>
            <BenchHead help="props" aside={<PresetPlate bench="material" prop={prop} />} title={prop.name} under={source.kind === 'shape' ? `Built here: ${catalogue?.shapes[source.shape]?.label.toLowerCase() ?? source.shape}` : source.kind === 'mesh' ? `From ${source.file}` : 'Copies strewn over another prop'} />
            {problem && <div className="px-4 pb-3"><Fault message={problem.message} remedy={problem.remedy} /></div>}
            {source.kind === 'shape' && catalogue && (
                <Section title="Shape">
                    {(catalogue.shapes[source.shape]?.options ?? []).filter((o) => applies(o, catalogue.shapes[source.shape]!.options, source.values)).map((o) => (
                        <OptionField key={o.name} option={o} lane={`${prop.id}:source/values/${o.name}`} value={source.values[o.name]} onChange={(v) => void editProp(prop.id, `${o.label} of ${prop.name}`, { [`/source/values/${o.name}`]: v })} />
                    ))}
                </Section>
            )}
            {source.kind === 'scatter' && catalogue && <Scattered prop={prop} source={source} options={catalogue.scatter} />}
            {source.kind === 'mesh' && (
                <Section title="How the file is read">
                    <Groups prop={prop} source={source} />
                    <div className="flex h-[33px] items-center gap-2"><span className="w-[108px]">Up is</span><Choice label="Up axis" value={source.up} options={[{ value: 'y', label: 'y' }, { value: 'z', label: 'z' }]} onChange={(v) => void editProp(prop.id, 'Up axis', { '/source/up': v })} /></div>
                    <Select label="One unit is" value={source.unit} options={[{ value: 'm', label: 'a metre' }, { value: 'cm', label: 'a centimetre' }, { value: 'mm', label: 'a millimetre' }, { value: 'km', label: 'a kilometre' }, { value: 'in', label: 'an inch' }, { value: 'ft', label: 'a foot' }]} onChange={(v) => void editProp(prop.id, 'Unit of the file', { '/source/unit': v })} />
                    <NumberField label="Crease" hint="Faces that meet at more than this are shaded as two surfaces, where the file has no normals" unit="°" slider least={0} most={180} value={source.crease ?? 40} onChange={(v) => void editProp(prop.id, 'Crease angle', { '/source/crease': v })} />
                </Section>
            )}
            <Swap prop={prop} />
            <FitnessTable prop={prop} />
            {catalogue && <Preparation prop={prop} catalogue={catalogue} />}
            <Section title="Place">
                <PlaceFields prop={prop} />
            </Section>
            <Section title="Material">
                <Select label="Made of" value={prop.material.name} options={[...Object.entries(catalogue?.materials ?? {}).map(([value, m]) => ({ value, label: m.label })), ...(catalogue && !catalogue.materials[prop.material.name] ? [{ value: prop.material.name, label: prop.material.name }] : [])]} onChange={(name) => {
                    void editProp(prop.id, `Material of ${prop.name}`, { '/material': materialOf(name, catalogue!.materials[name]!) });
                }} />
                {catalogue && <MaterialUsual prop={prop} materials={catalogue.materials} />}
                <Colour label="Outside" value={prop.material.colour} onChange={(v) => void editProp(prop.id, 'Outside colour', { '/material/colour': v })} />
                <Colour label="Inside" value={prop.material.inner} onChange={(v) => void editProp(prop.id, 'Inside colour', { '/material/inner': v })} />
                {catalogue && <MaterialField prop={prop} name="roughness" fallback={0.8} slider />}
                {catalogue && <MaterialField prop={prop} name="tint" fallback={0} slider />}
                {prop.material.tint !== undefined && <Colour label="Tint" value={prop.material.tintColour ?? '#1d2327'} onChange={(v) => void editProp(prop.id, 'Tint colour', { '/material/tintColour': v })} />}
                <PictureOn prop={prop} side="outer" />
                <NumberField label="Inner roughness" hint="Of what a break lays open" unit="%" slider least={0} most={1} value={prop.material.innerRoughness ?? 0.95} onChange={(v) => void editProp(prop.id, 'Inner roughness', { '/material/innerRoughness': v })} />
                <PictureOn prop={prop} side="inner" />
                <NumberField label="Density" unit="kg/m³" least={1} most={30000} value={prop.material.density} onChange={(v) => void editProp(prop.id, 'Density', { '/material/density': v })} />
                {catalogue && <MaterialField prop={prop} name="friction" fallback={0.5} />}
                {catalogue && <MaterialField prop={prop} name="bounce" fallback={0.1} />}
            </Section>
            <Section title="Name">
                <input aria-label="Name of the prop" defaultValue={prop.name} maxLength={60} onKeyDown={(e) => { e.stopPropagation(); if (e.key === 'Enter') e.currentTarget.blur(); }} onBlur={(e) => e.target.value.trim() && e.target.value !== prop.name && void editProp(prop.id, 'Rename a prop', { '/name': e.target.value.trim() })} className="mb-2 h-[27px] w-full border border-line bg-raised px-2" />
                <div className="flex flex-wrap gap-1.5">
                    <Button hint="To be pasted here or in another shot (Ctrl C)" onClick={() => takeCopy(prop.id)}><Copy size={13} aria-hidden /> Copy</Button>
                    <Button hint="With its break, maps, motion and dust (Ctrl D)" onClick={() => void copyProp(prop.id)}><CopyPlus size={13} aria-hidden /> One more beside it</Button>
                    <Button onClick={() => void removeProp(prop.id)}><Trash2 size={13} aria-hidden /> Remove from the shot</Button>
                </div>
            </Section>
            <CopiedProp prop={prop} />
        </>
    );
}

/** A file of several groups can be used whole, by one of them, or as a prop for each. */
function Groups({ prop, source }: { prop: Prop; source: MeshSource }) {
    const groups = useQuery({ queryKey: ['names', source.asset], queryFn: () => api.names(source.asset, source.file), staleTime: Infinity }).data?.groups ?? [];
    if (groups.length < 2) return null;
    const split = () => {
        const document = useShot.getState().shot!.document;
        const made: Prop[] = [];
        for (const group of groups.slice(0, 64 - document.props.length + 1)) {
            const so = { ...document, props: [...document.props, ...made] };
            made.push({ ...prop, id: freeId(so, group), name: freeName(so, group), source: { ...source, group } });
        }
        const at = document.props.findIndex((p) => p.id === prop.id);
        void useShot.getState().edit(`${prop.name} as ${made.length} props`, [{ op: 'remove', path: `/props/${at}` }, ...made.map((value) => ({ op: 'add' as const, path: '/props/-', value }))]);
        useUi.getState().set({ chosen: made[0]!.id });
    };
    return (
        <>
            <Select label="Use" value={source.group ?? ''} options={[{ value: '', label: 'all of the file' }, ...groups.map((g) => ({ value: g, label: g }))]} onChange={(v) => void editProp(prop.id, v === '' ? 'Use all of the file' : `Use the group ${v}`, { '/source/group': v === '' ? null : v })} />
            {source.group == null && <Button className="mb-1" onClick={split}>A prop for each of its {groups.length} groups</Button>}
        </>
    );
}

function FitnessTable({ prop }: { prop: Prop }) {
    const pieces = usePieces((s) => s.byProp[prop.id]);
    const working = usePieces((s) => s.working[prop.id] ?? null) !== null;
    if (!pieces) return null;
    const f: Fitness | null = pieces.fitness;
    const mended = pieces.mended.length > 0 && <p className="mb-1.5 border-l-4 border-fine bg-raised px-3 py-1.5"><span className="font-medium text-fine">Mended.</span> {pieces.mended.join(' ')}</p>;
    if (f === null) {
        return (
            <Section title="Fitness">
                {mended}
                <Fact name="solid" tone="fine">closed, {pieces.figures.watertight} of {pieces.figures.pieces} shards</Fact>
                <Fact name="volume">{show(pieces.figures.volume, 'm³')}</Fact>
            </Section>
        );
    }
    const size = f.bounds[1].map((v, i) => v - f.bounds[0][i]!);
    const repair = (step: string) => void editProp(prop.id, step === 'repair' ? `Repair ${prop.name}` : step === 'rebuild' ? `Rebuild ${prop.name}` : `Repair ${prop.name}: ${step}`, { '/prepare': [...(prop.prepare ?? []), { step, values: {} }] });
    return (
        <Section title="Fitness" aside={working ? 'being prepared…' : f.crosses ? 'passes through itself' : f.can_break ? 'can be broken' : 'not yet'}>
            {mended}
            {!f.can_break && !working && (
                <div className="mb-1.5 flex gap-1.5">
                    {f.faults.some((fault) => fault.repair !== null && fault.repair !== 'rebuild') && <Button tone="loud" className="flex-1" onClick={() => repair('repair')}>Repair</Button>}
                    <Button className="flex-1" title="A new closed skin round what is inside, where no repair helps" onClick={() => repair('rebuild')}>Rebuild</Button>
                </div>
            )}
            {f.faults.map((fault) => (
                <div key={fault.fault} className="flex items-center justify-between gap-2 py-1 text-wrong">
                    <span>✕ {fault.fault}</span>
                    {fault.repair && !working && <Button onClick={() => repair(fault.repair!)}>{fault.repair}</Button>}
                </div>
            ))}
            <Fact name="closed" tone={f.closed ? 'fine' : 'wrong'}>{f.closed ? 'yes' : `${f.boundary_edges} open edges`}</Fact>
            <Fact name="faces outwards" tone={f.oriented ? 'fine' : 'wrong'}>{f.oriented ? 'yes' : 'no'}</Fact>
            <Fact name="parts">{f.parts}</Fact>
            <Fact name="faces">{f.faces.toLocaleString('en')}</Fact>
            <Fact name="size">{showAll(size, 'm')}</Fact>
            <Fact name="volume">{show(f.volume, 'm³')}</Fact>
            <Fact name="edges">{show(f.edges.shortest, 'm')} – {show(f.edges.longest, 'm')}</Fact>
            {!f.faults.some((x) => x.repair === 'weld') && !f.closed && !working && <Button className="mt-2" onClick={() => repair('weld')}>Weld points</Button>}
        </Section>
    );
}
