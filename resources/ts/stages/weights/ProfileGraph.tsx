import { useRef, useState } from 'react';
import type { SourceEntry } from '../../data/api';
import type { WeightSource } from '../../data/document';
import { setValues } from '../../data/keys';
import { settleTrial, tryOut } from '../../data/maps';
import { useMoments } from '../../data/moments';
import { show } from '../../data/quantity';
import { editProp } from '../../data/shot';
import { isKeyed, valueAt } from '../../data/track';
import type { Value } from '../../data/document';
import { useUi } from '../../data/ui';
import { followPointer } from '../../parts/drag';

const WIDE = 306;
const HIGH = 112;
const PAD = 14;

/** From none to full, a share 0…1 to a weight: for drawing the graph only. */
const WAYS: Record<string, (t: number) => number> = {
    linear: (t) => t,
    smooth: (t) => t * t * (3 - 2 * t),
    sharp: (t) => t * t,
    root: Math.sqrt,
};

interface Props {
    prop: string;
    /** Path of the source below the prop, as `weights/0/sources/1`. */
    path: string;
    at: number;
    sources: readonly WeightSource[];
    entry: SourceEntry;
}

/** From distance to weight: the two distances and the handles of a curve are dragged, and the map follows. */
export function ProfileGraph({ prop, path, at, sources, entry }: Props) {
    const svg = useRef<SVGSVGElement>(null);
    const frame = useUi((s) => s.frame);
    const moments = useMoments();
    const [held, setHeld] = useState<Record<string, unknown> | null>(null);
    const [scale, setScale] = useState<readonly [number, number] | null>(null);
    const values = sources[at]!.values as Record<string, unknown>;
    const option = (name: string) => entry.options.find((o) => o.name === name)!;
    const stands = (name: string) => valueAt((values[name] ?? option(name).default) as Value, frame, moments);
    const full = Number(held?.full ?? stands('full'));
    const none = Number(held?.none ?? stands('none'));
    const falloff = String(values.falloff ?? 'smooth');
    const curve = (held?.curve ?? values.curve ?? option('curve').default) as [number, number, number, number];
    const unit = option('full').unit;
    const [low, high] = scale ?? stretch(full, none, option('full').least);
    const x = (d: number) => PAD + ((d - low) / (high - low)) * (WIDE - 2 * PAD);
    const y = (w: number) => HIGH - 20 - w * (HIGH - 34);
    const distance = (px: number) => low + ((px - PAD) / (WIDE - 2 * PAD)) * (high - low);
    const tried = (part: Record<string, unknown>) => tryOut({ sources: sources.map((s, i) => (i === at ? { ...s, values: { ...values, ...part } } : s)) });
    const drag = (name: 'full' | 'none' | 'curve', handle = 0) => (e: React.PointerEvent) => {
        e.preventDefault();
        e.stopPropagation();
        (e.currentTarget as SVGElement).focus();
        const box = svg.current!.getBoundingClientRect();
        const k = WIDE / box.width;
        setScale([low, high]);
        let part: Record<string, unknown> = {};
        followPointer(
            (m) => {
                const px = (m.clientX - box.left) * k;
                const d = Math.min(option('full').most, Math.max(option('full').least, distance(px)));
                if (name === 'curve') {
                    const next = [...curve] as [number, number, number, number];
                    next[2 * handle] = tidy(Math.min(1, Math.max(0, (distance(px) - none) / (full - none || 1))));
                    next[2 * handle + 1] = tidy(Math.min(1.2, Math.max(-0.2, (HIGH - 20 - (m.clientY - box.top) * k) / (HIGH - 34))));
                    part = { curve: next };
                } else part = { [name]: round(d, (high - low) / 200) };
                setHeld(part);
                tried(part);
            },
            () => {
                settleTrial(set(part));
                setHeld(null);
                setScale(null);
            },
        );
    };
    const set = (part: Record<string, unknown>): Promise<boolean> => {
        const [first] = Object.entries(part);
        if (first === undefined) return Promise.resolve(false);
        const [name, value] = first;
        const label = `${option(name).label} of ${entry.label}`;
        return isKeyed(values[name] as Value)
            ? setValues(label, [{ lane: `${prop}:${path}/values/${name}`, axis: 0, frame, value: value as number }])
            : editProp(prop, label, { [`/${path}/values/${name}`]: value });
    };
    const nudge = (name: 'full' | 'none', value: number) => (e: React.KeyboardEvent) => {
        const way = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (way === undefined) return;
        e.preventDefault();
        e.stopPropagation();
        const by = round((high - low) / 100, (high - low) / 200) * way * (e.shiftKey ? 10 : e.altKey ? 0.1 : 1);
        const part = { [name]: tidy(Math.min(option(name).most, Math.max(option(name).least, value + by))) };
        tried(part);
        settleTrial(set(part));
    };
    const steps = Array.from({ length: 49 }, (_, k) => k / 48);
    const bend = falloff === 'own' ? (t: number) => bezier(curve, t) : WAYS[falloff]!;
    const line = [[low, full <= none ? 1 : 0], ...steps.map((s) => [full + (none - full) * s, bend(1 - s)]), [high, full <= none ? 0 : 1]].sort((a, b) => a[0]! - b[0]!);
    const handles: readonly [number, number][] = falloff === 'own' ? [[none + (full - none) * curve[0], curve[1]], [none + (full - none) * curve[2], curve[3]]] : [];
    // At the rim a label is held within the picture, so that two far apart may come together there.
    const overlap = Math.abs(clamp(x(full), 40) - clamp(x(none), 46)) < 92;
    return (
        <div className="mb-1">
            <svg ref={svg} viewBox={`0 0 ${WIDE} ${HIGH}`} className="block w-full touch-none border border-line bg-raised" role="group" aria-label="Distance to weight">
                {[0, 0.25, 0.5, 0.75, 1].map((w) => <line key={w} x1={PAD} x2={WIDE - PAD} y1={y(w)} y2={y(w)} stroke="var(--line)" strokeWidth={0.700} strokeDasharray={w % 1 === 0 ? undefined : '2 3'} />)}
                {[full, none].map((d, k) => <line key={k} x1={x(d)} x2={x(d)} y1={y(1)} y2={y(0)} stroke="var(--ink)" strokeWidth={0.900} strokeDasharray="2 3" />)}
                <polyline points={line.map(([d, w]) => `${x(d!)},${y(w!)}`).join(' ')} fill="none" stroke="var(--ink)" strokeWidth={1.800} strokeLinejoin="round" />
                {handles.map(([d, w], k) => (
                    <g key={k}>
                        <line x1={x(d)} y1={y(w)} x2={x(k === 0 ? none : full)} y2={y(k)} stroke="var(--soft)" />
                        <circle cx={x(d)} cy={y(w)} r={4} fill="var(--soft)" className="cursor-grab" tabIndex={0} role="button" aria-label={`Handle ${k + 1} of the curve`} onPointerDown={drag('curve', k)} />
                    </g>
                ))}
                <Grip x={x(full)} y={y(1)} label={`Full within ${show(full, unit)}`} onPointerDown={drag('full')} onKeyDown={nudge('full', full)} />
                <Grip x={x(none)} y={y(0)} label={`None beyond ${show(none, unit)}`} onPointerDown={drag('none')} onKeyDown={nudge('none', none)} />
                <text x={clamp(x(full), 40)} y={HIGH - 6} fontSize={10.500} textAnchor="middle" fill="var(--soft)">{overlap ? '' : 'full within'}</text>
                <text x={clamp(x(none), 46)} y={HIGH - 6} fontSize={10.500} textAnchor="middle" fill="var(--soft)">{overlap ? 'full · none' : 'none beyond'}</text>
                {held !== null && held.curve === undefined && <text x={WIDE - PAD} y={12} fontSize={11} textAnchor="end" className="figure" fill="var(--ink)">{'full' in held ? `full within ${show(full, unit)}` : `none beyond ${show(none, unit)}`}</text>}
            </svg>
        </div>
    );
}

function Grip({ x, y, label, onPointerDown, onKeyDown }: { x: number; y: number; label: string; onPointerDown: (e: React.PointerEvent) => void; onKeyDown: (e: React.KeyboardEvent) => void }) {
    return <circle cx={x} cy={y} r={5.500} fill="var(--paper)" stroke="var(--ink)" strokeWidth={1.800} className="cursor-ew-resize" tabIndex={0} role="slider" aria-label={label} aria-valuetext={label} onPointerDown={onPointerDown} onKeyDown={onKeyDown} />;
}

/** The distances the graph shows: both, with room on either side. */
function stretch(full: number, none: number, least: number): readonly [number, number] {
    const [a, b] = [Math.min(full, none), Math.max(full, none)];
    const room = Math.max((b - a) * 0.45, Math.abs(b) * 0.1, 1e-4);
    return [least === 0 ? 0 : a - room, b + room];
}

function clamp(x: number, half: number): number {
    return Math.min(WIDE - half, Math.max(half, x));
}

function round(value: number, step: number): number {
    const neat = 10 ** Math.floor(Math.log10(step || 1e-6));
    return tidy(Math.round(value / neat) * neat);
}

function tidy(value: number): number {
    return Number(value.toPrecision(9));
}

/** The height of a curve from (0, 0) to (1, 1) over a share of its width. */
function bezier([x1, y1, x2, y2]: readonly [number, number, number, number], share: number): number {
    let [low, high] = [0, 1];
    const at = (a: number, b: number, s: number) => 3 * (1 - s) * (1 - s) * s * a + 3 * (1 - s) * s * s * b + s * s * s;
    for (let k = 0; k < 30; k++) {
        const s = (low + high) / 2;
        if (at(x1, x2, s) < share) low = s;
        else high = s;
    }
    return Math.min(1, Math.max(0, at(y1, y2, (low + high) / 2)));
}
