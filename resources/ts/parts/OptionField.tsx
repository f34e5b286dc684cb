import { FileUp, Plus, X } from 'lucide-react';
import { useRef, type ComponentType, type ReactNode } from 'react';
import { toast } from 'sonner';
import { api, type Option, type Outline } from '../data/api';
import type { Course } from '../data/dust';
import { currentMoments } from '../data/moments';
import { usePieces } from '../data/pieces';
import { said } from '../data/said';
import { useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { words } from '../data/options';
import { Button, Choice, Colour, Select, Toggle } from './controls';
import { NumberField, TripleField } from './NumberField';
import { PicturedChoice } from './PicturedChoice';
import { CourseField } from './CourseField';
import { ProfileEditor } from './ProfileEditor';
import { PropField, WeightField } from './WeightField';

interface Props {
    option: Option;
    /** Which value of the shot it is, as `prop:break/values/count`, where it can be the same as another. */
    lane?: string;
    value: unknown;
    onChange: (value: unknown) => void;
    /** Where a point that is switched on starts. */
    start?: readonly number[];
    /** What else belongs to a drawing: drawing it by hand. */
    extra?: ReactNode;
    /** The prop whose weight maps it may go by; the chosen one if not said. */
    mapsOf?: string;
}

function NumberOption({ option: o, lane, value, onChange }: Props) {
    const share = o.type === 'number' && o.least === 0 && o.most <= 1 && o.unit === '';
    return <NumberField lane={lane} slider={o.name !== 'seed' && o.unit !== 'frame'} label={o.label} hint={o.meaning} unit={share ? '%' : o.unit} least={o.least} most={o.most} whole={o.type === 'whole'} value={Number(value ?? o.default)} usual={typeof o.default === 'number' ? o.default : undefined} onChange={onChange} />;
}

function ChoiceOption({ option: o, value, onChange }: Props) {
    if (o.pictures) return <PicturedChoice option={o} value={String(value ?? o.default)} onChange={onChange} />;
    const options = o.choices.map((c) => ({ value: c, label: words(c) }));
    if (o.choices.length > 3 || o.choices.join('').length > 22) return <Select label={o.label} value={String(value ?? o.default)} options={options} onChange={onChange} />;
    return (
        <div className="flex min-h-[33px] items-center gap-2" title={o.meaning}>
            <span className="w-[108px] shrink-0">{o.label}</span>
            <Choice label={o.label} value={String(value ?? o.default)} options={options} onChange={onChange} />
        </div>
    );
}

function SizesOption({ option: o, lane, value, onChange }: Props) {
    return <TripleField lane={lane} label={o.label} unit={o.unit} step={o.unit === '' ? 1 : 0.005} value={(value ?? o.default) as number[]} onChange={onChange} />;
}

function PointOption({ option: o, lane, value, onChange, start = ORIGIN }: Props) {
    const at = (value ?? o.default) as number[] | null;
    const point = o.type === 'point';
    const step = point ? 0.01 : 0.1;
    if (o.default !== null) return <TripleField lane={lane} label={o.label} unit={o.unit} step={step} value={at!} onChange={onChange} />;
    return (
        <div>
            <Toggle label={o.label} hint={o.meaning} value={at !== null} onChange={(on) => onChange(on ? (point ? start : [0, 0, 1]) : null)} />
            {at !== null && <TripleField lane={lane} label={point ? 'At' : 'Towards'} unit={o.unit} step={step} value={at} onChange={onChange} />}
        </div>
    );
}

function PointsOption({ option, value, onChange, start = ORIGIN }: Props) {
    return <Points option={option} value={(value ?? option.default) as number[][] | null} onChange={onChange} start={start} />;
}

function TextOption({ option: o, value, onChange }: Props) {
    return (
        <label className="flex h-[33px] items-center gap-2" title={o.meaning}>
            <span className="w-[108px] shrink-0">{o.label}</span>
            <input key={String(value)} aria-label={o.label} defaultValue={String(value ?? o.default)} maxLength={o.most} onKeyDown={(e) => { e.stopPropagation(); if (e.key === 'Enter') e.currentTarget.blur(); }} onBlur={(e) => e.target.value !== value && e.target.value.length >= o.least && onChange(e.target.value)} className="h-[26px] min-w-0 flex-1 border border-line bg-raised px-2" />
        </label>
    );
}

function WeightOption({ option, value, onChange, start, mapsOf }: Props) {
    return <WeightField option={option} value={(value ?? option.default) as Parameters<typeof WeightField>[0]['value']} onChange={onChange} start={start ?? ORIGIN} mapsOf={mapsOf} field={(inner, v, change) => <OptionField key={inner.name} option={inner} value={v} start={start} onChange={change} />} />;
}

function PropOption({ option, value, onChange }: Props) {
    return <PropField option={option} value={(value ?? option.default) as string | null} onChange={onChange} />;
}

function ProfileOption({ value, onChange }: Props) {
    return <ProfileEditor value={(value as number[][] | undefined) ?? []} onChange={onChange} />;
}

function DrawingOption({ option, value, onChange, extra }: Props) {
    return <DrawingField option={option} value={(value ?? option.default) as Outline} onChange={onChange} extra={extra} />;
}

const ORIGIN = [0, 0, 0] as const;

/** What is set in the picture or in a drawing of its own has no field here. */
function Elsewhere() {
    return null;
}

function MapOption({ option: o, value, onChange, mapsOf }: Props) {
    const props = useDocument()?.props.filter((p) => mapsOf === undefined || p.id === mapsOf) ?? [];
    const options = props.flatMap((p) => (p.weights ?? []).map((m) => ({ value: m.id, label: mapsOf === undefined ? `${m.name} (${p.name})` : `the map ${m.name}` })));
    const none = o.choices[0] ?? (mapsOf !== undefined ? 'everywhere' : options.length === 0 ? 'no map yet' : 'choose…');
    return <Select label={o.label} value={String(value ?? '')} options={[{ value: '', label: none }, ...options]} onChange={onChange} />;
}

function CourseOption({ option, value, onChange }: Props) {
    return <CourseField option={option} value={(value ?? option.default) as Course} onChange={onChange} />;
}

/** A colour, or none. */
function ColourOption({ option: o, value, onChange }: Props) {
    const colour = String(value ?? o.default ?? '');
    return (
        <>
            <Toggle label={o.label} hint={o.meaning} value={colour !== ''} onChange={(on) => onChange(on ? '#8a8278' : '')} />
            {colour !== '' && <Colour label="Colour" value={colour} onChange={onChange} />}
        </>
    );
}

/** At a frame, or so many frames from a cue. */
function MomentOption({ option: o, value, onChange }: Props) {
    const cues = useDocument()?.cues ?? [];
    const tied = typeof value === 'object' && value !== null ? (value as { cue: string; offset: number }) : null;
    const frame = tied ? (currentMoments().frames[tied.cue] ?? 0) + tied.offset : Number(value ?? o.default);
    return (
        <>
            {(cues.length > 0 || tied) && <Select label={o.label} value={tied?.cue ?? ''} options={[{ value: '', label: 'at a frame' }, ...cues.map((c) => ({ value: c.id, label: `at the cue ${c.name}` }))]} onChange={(cue) => onChange(cue === '' ? frame : { cue, offset: 0 })} />}
            <NumberField label={tied ? 'Frames after' : cues.length > 0 ? 'Frame' : o.label} hint={tied ? 'Below 0: before it' : o.meaning} unit="frame" least={o.least} most={o.most} value={tied ? tied.offset : frame} onChange={(v) => onChange(tied ? { ...tied, offset: v } : v)} />
        </>
    );
}

/** Numbers of points, faces or parts, as `3, 7, 10–20`. */
function NumbersOption({ option: o, value, onChange }: Props) {
    const list = (value ?? []) as number[];
    return (
        <TextOption
            option={{ ...o, least: 0, most: 100000 }}
            value={spans(list)}
            onChange={(text) => {
                const read = readSpans(String(text));
                if (read !== null) onChange(read);
            }}
        />
    );
}

function NamesOption({ option: o, value, onChange }: Props) {
    const list = (value ?? []) as string[];
    const picked = useUi((s) => s.picked);
    const chosen = useUi((s) => s.chosen);
    const pieces = usePieces((s) => (chosen === null ? undefined : s.byProp[chosen]?.pieces));
    const names = picked.flatMap((k) => pieces?.[k]?.name ?? []);
    return (
        <div className="py-1" title={o.meaning}>
            <div className="flex items-baseline justify-between">
                <span>{o.label}</span>
                <span className="figure text-[11px] text-soft">{list.length === 0 ? 'none' : `${list.length} picked`}</span>
            </div>
            <div className="mt-1 flex gap-1.5">
                <Button disabled={names.length === 0} onClick={() => onChange([...new Set([...list, ...names])])} hint="Pick pieces in the picture first: click, and Shift for more">{names.length === 0 ? 'Pick pieces first' : `Add ${names.length} picked`}</Button>
                {list.length > 0 && <Button onClick={() => onChange([])}>Clear</Button>}
            </div>
        </div>
    );
}

/** One picture, or several whose names end in the number of a frame. */
function PicturesOption({ option: o, value, onChange }: Props) {
    const list = (value ?? []) as { frame: number; asset: string; file: string }[];
    const input = useRef<HTMLInputElement>(null);
    const take = async (files: File[]) => {
        try {
            const got = await Promise.all(files.map(async (file) => ({ ...(await api.bringPicture(file)), frame: files.length === 1 ? 0 : Number(/(\d+)\D*$/.exec(file.name)?.[1] ?? 0) })));
            onChange(got.map(({ asset, file, frame }) => ({ frame, asset, file })));
        } catch (e) {
            said(e);
        }
    };
    return (
        <div className="py-1" title={o.meaning}>
            <div className="mb-1 flex items-baseline justify-between">
                <span>{o.label}</span>
                <span className="figure truncate text-[11px] text-soft">{list.length === 0 ? 'none yet' : list.length === 1 ? list[0]!.file : `${list.length} pictures`}</span>
            </div>
            <input ref={input} type="file" accept=".png" multiple className="sr-only" tabIndex={-1} aria-label={`${o.label}: files`} onChange={(e) => {
                const files = [...(e.target.files ?? [])];
                e.target.value = '';
                if (files.length > 0) void take(files);
            }} />
            <Button onClick={() => input.current?.click()} hint="PNG; bright is full. Several that end in a number each stand for that frame"><FileUp size={13} aria-hidden /> Picture…</Button>
        </div>
    );
}

function spans(list: readonly number[]): string {
    const out: string[] = [];
    for (let i = 0; i < list.length; i++) {
        let j = i;
        while (list[j + 1] === list[j]! + 1) j++;
        out.push(j > i + 1 ? `${list[i]}–${list[j]}` : list.slice(i, j + 1).join(', '));
        i = j;
    }
    return out.join(', ');
}

/** Null where it cannot be read; why is said. */
function readSpans(text: string): number[] | null {
    const out: number[] = [];
    for (const part of text.split(',').map((t) => t.trim()).filter((t) => t !== '')) {
        const read = /^(\d+)(?:\s*[–-]\s*(\d+))?$/.exec(part);
        const to = Number(read?.[2] ?? read?.[1]);
        if (read === null || to - Number(read[1]) > 200000) {
            toast.error(`"${part}" is no number.`, { description: 'Write whole numbers with commas between, or a stretch as 10–20.' });
            return null;
        }
        for (let k = Number(read[1]); k <= to; k++) out.push(k);
    }
    return [...new Set(out)].sort((a, b) => a - b);
}

const FIELDS: Record<Option['type'], ComponentType<Props>> = {
    whole: NumberOption,
    number: NumberOption,
    choice: ChoiceOption,
    sizes: SizesOption,
    point: PointOption,
    direction: PointOption,
    points: PointsOption,
    path: PointsOption,
    text: TextOption,
    weight: WeightOption,
    prop: PropOption,
    profile: ProfileOption,
    outline: DrawingOption,
    lines: DrawingOption,
    map: MapOption,
    numbers: NumbersOption,
    names: NamesOption,
    pictures: PicturesOption,
    curve: Elsewhere,
    strokes: Elsewhere,
    moment: MomentOption,
    course: CourseOption,
    colour: ColourOption,
};

/** The control for one option of a shape, a step or a pattern, whatever its kind. */
export function OptionField(props: Props) {
    const Field = FIELDS[props.option.type];
    return <Field {...props} />;
}

function Points({ option: o, value, onChange, start }: { option: Option; value: number[][] | null; onChange: (v: unknown) => void; start: readonly number[] }) {
    const points = value ?? [];
    const least = o.type === 'path' ? 2 : 0;
    return (
        <div className="py-1">
            <div className="flex items-center justify-between" title={o.meaning}>
                <span>{o.label}</span>
                <button type="button" aria-label={`Add a point: ${o.label}`} className="flex items-center gap-1 text-soft hover:text-ink" onClick={() => onChange([...points, points.at(-1)?.map((c, i) => (i === 0 ? Number((c + 0.1).toFixed(3)) : c)) ?? start])}>
                    <Plus size={13} aria-hidden /> point
                </button>
            </div>
            {points.map((p, i) => (
                <div key={i} className="flex items-center gap-1">
                    <div className="min-w-0 flex-1"><TripleField label={points.length > 1 ? `At ${i + 1}` : 'At'} unit={o.unit} step={0.01} value={p} onChange={(v) => onChange(points.map((q, j) => (j === i ? v : q)))} /></div>
                    {points.length > least && <button type="button" aria-label={`Remove point ${i + 1}`} className="text-soft hover:text-ink" onClick={() => onChange(points.length === 1 ? null : points.filter((_, j) => j !== i))}><X size={13} aria-hidden /></button>}
                </div>
            ))}
        </div>
    );
}

function DrawingField({ option: o, value, onChange, extra }: { option: Option; value: Outline; onChange: (v: unknown) => void; extra?: ReactNode }) {
    const input = useRef<HTMLInputElement>(null);
    const count = value.lines.reduce((n, l) => n + l.points.length, 0);
    const take = async (file: File) => {
        try {
            onChange(await api.outline(file));
        } catch (e) {
            said(e);
        }
    };
    return (
        <div className="py-1" title={o.meaning}>
            <div className="mb-1 flex items-baseline justify-between">
                <span>{o.label}</span>
                <span className="figure text-[11px] text-soft">{value.lines.length === 1 ? '1 line' : `${value.lines.length} lines`}, {count} points</span>
            </div>
            <OutlineDrawing outline={value} />
            <input ref={input} type="file" accept=".svg,.png" className="sr-only" tabIndex={-1} aria-label={`${o.label}: drawing file`} onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = '';
                if (file) void take(file);
            }} />
            <div className="mt-1.5 flex flex-wrap gap-1.5">
                {extra}
                <Button onClick={() => input.current?.click()} hint="An SVG drawing, or a PNG picture whose shapes are traced"><FileUp size={13} aria-hidden /> Drawing…</Button>
                {o.type === 'lines' && value.lines.length > 0 && <Button onClick={() => onChange({ unit: 'm', lines: [] })}>Clear</Button>}
            </div>
        </div>
    );
}

/** A drawing, fitted into a small frame. */
function OutlineDrawing({ outline }: { outline: Outline }) {
    const all = outline.lines.flatMap((l) => l.points);
    if (all.length === 0) return <p className="border border-dashed border-line bg-raised px-3 py-4 text-center text-soft">No line yet.</p>;
    const u = all.map((p) => p[0]);
    const v = all.map((p) => p[1]);
    const [left, right, low, high] = [Math.min(...u), Math.max(...u), Math.min(...v), Math.max(...v)];
    const size = Math.max(right - left, high - low, 1e-6);
    const pad = 0.06 * size;
    return (
        <svg viewBox={`${left - pad} ${-high - pad} ${right - left + 2 * pad} ${high - low + 2 * pad}`} className="block h-[92px] w-full border border-line bg-raised" role="img" aria-label={`${outline.lines.length} lines`}>
            <path
                d={outline.lines.map((l) => `M${l.points.map((p) => `${p[0]} ${-p[1]}`).join('L')}${l.closed ? 'Z' : ''}`).join('')}
                fill={outline.lines.some((l) => l.closed) ? 'var(--wash)' : 'none'}
                fillRule="evenodd"
                stroke="var(--ink)"
                strokeWidth={1.3}
                vectorEffect="non-scaling-stroke"
                strokeLinejoin="round"
            />
        </svg>
    );
}
