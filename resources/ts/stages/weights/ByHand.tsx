import { useQuery } from '@tanstack/react-query';
import { api } from '../../data/api';
import { brushSize, useBrush, type BrushHow, type Mirror, type Stroke } from '../../data/brush';
import type { Prop, WeightSource } from '../../data/document';
import { useMaps } from '../../data/maps';
import { usePieces } from '../../data/pieces';
import { editProp } from '../../data/shot';
import { useUi } from '../../data/ui';
import { Button, Choice, Select, Toggle } from '../../parts/controls';
import { NumberField } from '../../parts/NumberField';

const HOW: readonly { value: BrushHow; label: string; hint: string }[] = [
    { value: 'paint', label: 'Paint', hint: 'Towards full' },
    { value: 'erase', label: 'Erase', hint: 'Towards none' },
    { value: 'smooth', label: 'Smooth', hint: 'Towards what is round it' },
];

const MIRRORS: readonly { value: Mirror; label: string }[] = [{ value: '', label: 'not' }, { value: 'x', label: 'left and right (x)' }, { value: 'y', label: 'above and below (y)' }, { value: 'z', label: 'front and back (z)' }];

/** A source that is made by hand in the picture: painted, or picked. */
export function ByHand({ prop, source, path }: { prop: Prop; source: WeightSource; path: string }) {
    return source.source === 'brush' ? <Painted prop={prop} source={source} path={path} /> : <Picked prop={prop} source={source} path={path} />;
}

function Brush({ prop, words, hows }: { prop: Prop; words: string; hows: typeof HOW }) {
    const brush = useBrush();
    const whole = useMaps((s) => s.wholes[prop.id]);
    const set = useBrush.setState;
    return (
        <>
            <Toggle label={words} hint="Presses on the prop in the picture; beside it they turn the view, as with Alt" value={brush.on} onChange={(on) => set({ on })} />
            <div className="flex min-h-[33px] items-center gap-2">
                <span className="w-[108px] shrink-0">Brush</span>
                <Choice label="What the brush does" value={hows.some((h) => h.value === brush.how) ? brush.how : 'paint'} options={hows} onChange={(how) => set({ how })} />
            </div>
            <NumberField label="Size" hint="From its middle to where it does nothing" unit="m" least={0.0001} most={1000} value={brush.size ?? brushSize(whole)} onChange={(size) => set({ size })} />
        </>
    );
}

function Painted({ prop, source, path }: { prop: Prop; source: WeightSource; path: string }) {
    const brush = useBrush();
    const strokes = (source.values as { strokes?: Stroke[] }).strokes ?? [];
    return (
        <>
            <Brush prop={prop} words="Paint in the picture" hows={HOW} />
            <NumberField slider label="Strength" hint="How far one dab goes" unit="%" least={0} most={1} value={brush.strength} onChange={(strength) => useBrush.setState({ strength })} />
            <Select label="Mirrored" value={brush.mirror} options={MIRRORS} onChange={(mirror) => useBrush.setState({ mirror })} />
            <div className="mt-1 flex items-center gap-2">
                <span className="figure flex-1 text-[12px] text-soft">{strokes.length === 0 ? 'nothing painted yet' : `${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}, ${strokes.reduce((n, s) => n + s.dabs.length, 0)} dabs`}</span>
                {strokes.length > 0 && <Button onClick={() => void editProp(prop.id, 'Paint nothing', { [`/${path}/values/strokes`]: [] })}>Clear</Button>}
            </div>
        </>
    );
}

function Picked({ prop, source, path }: { prop: Prop; source: WeightSource; path: string }) {
    const picked = useUi((s) => s.picked);
    const pieces = usePieces((s) => s.byProp[prop.id]?.pieces) ?? [];
    const parts = useMaps((s) => s.wholes[prop.id]?.fitness?.parts ?? 1);
    const values = source.values as { faces?: number[]; pieces?: string[]; parts?: number[]; points?: number[]; groups?: string[]; materials?: string[] };
    const file = prop.source.kind === 'mesh' ? prop.source : null;
    const { groups, materials } = useQuery({ queryKey: ['names', file?.asset], queryFn: () => api.names(file!.asset, file!.file), enabled: file !== null, staleTime: Infinity }).data ?? { groups: [], materials: [] };
    const set = (label: string, change: Record<string, unknown>) => void editProp(prop.id, label, Object.fromEntries(Object.entries(change).map(([name, v]) => [`/${path}/values/${name}`, v])));
    const names = picked.flatMap((k) => pieces[k]?.name ?? []);
    const own = values.parts ?? [];
    const said = [[values.faces, 'faces'], [values.pieces, 'pieces'], [values.parts, 'parts'], [values.groups, 'groups'], [values.materials, 'materials'], [values.points, 'points']].filter(([list]) => ((list as unknown[] | undefined) ?? []).length > 0).map(([list, word]) => `${(list as unknown[]).length} ${word as string}`);
    return (
        <>
            <Brush prop={prop} words="Pick faces in the picture" hows={HOW.filter((h) => h.value !== 'smooth').map((h) => ({ ...h, label: h.value === 'paint' ? 'Pick' : 'Take out', hint: '' }))} />
            {names.length > 0 && <Button className="my-1 w-full" onClick={() => set('A region of pieces', { pieces: names })}>{names.length === 1 ? `The picked piece ${names[0]}` : `The ${names.length} picked pieces`}</Button>}
            {pieces.length > 1 && names.length === 0 && <p className="text-soft">Pieces picked on the Break stage can be taken here.</p>}
            {parts > 1 && parts <= PARTS && <Chips label="Parts that hang together" chips={Array.from({ length: parts }, (_, k) => ({ id: k, name: `part ${k + 1}` }))} on={own} onChange={(next) => set('Parts of the region', { parts: [...next].sort((a, b) => a - b) })} />}
            {groups.length > 1 && <Chips label="Groups of its file" chips={groups.map((name) => ({ id: name, name }))} on={values.groups ?? []} onChange={(next) => set('Groups of the region', { groups: next })} />}
            {materials.length > 1 && <Chips label="Materials of its file" chips={materials.map((name) => ({ id: name, name }))} on={values.materials ?? []} onChange={(next) => set('Materials of the region', { materials: next })} />}
            <div className="mt-1 flex items-center gap-2">
                <span className="figure flex-1 text-[12px] text-soft">{said.length === 0 ? 'nothing picked yet' : said.join(', ')}</span>
                {said.length > 0 && <Button onClick={() => set('Pick nothing', { faces: [], pieces: [], parts: [], points: [], groups: [], materials: [] })}>Clear</Button>}
            </div>
        </>
    );
}

function Chips<T extends string | number>({ label, chips, on, onChange }: { label: string; chips: readonly { id: T; name: string }[]; on: readonly T[]; onChange: (on: T[]) => void }) {
    return (
        <div className="my-1 flex flex-wrap gap-1" role="group" aria-label={label}>
            {chips.map(({ id, name }) => (
                <button key={id} type="button" aria-pressed={on.includes(id)} className={`quick figure h-[25px] border px-2 text-[12px] ${on.includes(id) ? 'border-chosen bg-chosen text-on-chosen' : 'border-line bg-raised hover:border-ink'}`} onClick={() => onChange(on.includes(id) ? on.filter((o) => o !== id) : [...on, id])}>{name}</button>
            ))}
        </div>
    );
}

/** Parts that are listed; of more one would not know which is which. */
const PARTS = 40;
