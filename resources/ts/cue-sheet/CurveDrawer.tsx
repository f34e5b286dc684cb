import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { api } from '../data/api';
import { useBake } from '../data/bake';
import type { Ease, Keyed, Value } from '../data/document';
import { flattenKeys, keyName, readKey, setEase, setKeyAt, setOutside } from '../data/keys';
import { axesOf, lanesOf, type Lane } from '../data/lanes';
import { useMoments } from '../data/moments';
import { show, showNumber } from '../data/quantity';
import { useDocument } from '../data/shot';
import { CURVES, isKeyed, knotsOf, valueAt, type Knot, type Moments } from '../data/track';
import { useCatalogue } from '../data/useCatalogue';
import { useUi } from '../data/ui';
import { followPointer } from '../parts/drag';
import { NumberField } from '../parts/NumberField';
import { NAMES, type Scale } from './scale';
import { plate } from './plate';

const INKS = ['#b5422b', '#1f7a5c', '#2f6690'] as const;
const AXES = ['x', 'y', 'z'] as const;
const PAD = 14;

/** One axis of a lane that is shown, with the range it is drawn in. */
interface Curve {
    lane: Lane;
    of: string;
    axis: number;
    name: string;
    ink: string;
    value: Value;
    ghost: Value | null;
    low: number;
    high: number;
}

/** The curves of the chosen lane and of those whose keys are picked, each lane in its own range. */
function useCurves(moments: Moments, first: number, last: number): Curve[] {
    const document = useDocument()!;
    const catalogue = useCatalogue();
    const chosen = useUi((s) => s.lane);
    const keys = useUi((s) => s.keys);
    const bake = useBake((s) => s.bake?.id);
    const then = useQuery({ queryKey: ['baked', bake], queryFn: () => api.bakedDocument(bake!), enabled: bake !== undefined, staleTime: Infinity }).data;
    return useMemo(() => {
        const ids = new Set([...(chosen === null ? [] : [chosen]), ...keys.map((k) => readKey(k).lane)].slice(0, 6));
        return !catalogue ? [] : lanesOf(document, catalogue).filter((l) => ids.has(l.id)).flatMap((lane) => {
            const axes = axesOf(document, lane) ?? [];
            const before = then ? (axesOf(then, lane) ?? []) : [];
            const seen = [...axes, ...before].flatMap((v) => (isKeyed(v) ? Array.from({ length: 65 }, (_, k) => valueAt(v, first + ((last - first) * k) / 64, moments)).concat(v.keys.map((k) => k.value)) : [v]));
            const [low, high] = [Math.min(...seen), Math.max(...seen)];
            const room = Math.max((high - low) * 0.08, high === low ? Math.max(0.5, Math.abs(high) * 0.1) : 0);
            const of = document.props.find((p) => p.id === lane.prop)?.name ?? 'Shot';
            return axes.map((value, axis): Curve => ({ lane, of, axis, value, name: axes.length === 1 ? lane.label : `${lane.label} ${AXES[axis]}`, ink: INKS[axes.length === 1 ? 0 : axis]!, ghost: before[axis] !== undefined && JSON.stringify(before[axis]) !== JSON.stringify(value) ? before[axis] : null, low: low - room, high: high + room }));
        });
    }, [document, catalogue, chosen, keys, then, moments, first, last]);
}

export function CurveDrawer({ scale, width }: { scale: Scale; width: number }) {
    const { first, last } = useDocument()!.frames;
    const frame = useUi((s) => s.frame);
    const keys = useUi((s) => s.keys);
    const moments = useMoments();
    const curves = useCurves(moments, first, last);
    const [height, setHeight] = useState(140);
    const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
    const measure = (e: SVGSVGElement | null): void => {
        if (e && e.clientHeight > 0 && Math.abs(e.clientHeight - height) > 1) setHeight(e.clientHeight);
    };
    const y = (c: Curve, v: number) => height - PAD - ((v - c.low) / (c.high - c.low)) * (height - 2 * PAD);
    const valueOf = (c: Curve, px: number) => c.low + ((height - PAD - px) / (height - 2 * PAD)) * (c.high - c.low);
    const near = pointer === null || curves.length === 0 ? null : curves.map((c) => ({ c, at: scale.frameAt(pointer.x), v: valueAt(c.value, scale.frameAt(pointer.x), moments) })).reduce((a, b) => (Math.abs(y(a.c, a.v) - pointer.y) <= Math.abs(y(b.c, b.v) - pointer.y) ? a : b));
    return (
        <div className="grid min-h-0 border-t border-line" style={{ gridTemplateColumns: `${NAMES}px 1fr` }} role="group" aria-label="Curves">
            <Entry curves={curves} moments={moments} />
            <svg ref={measure} width={width} height="100%" className="block h-full touch-none bg-raised select-none" aria-label="Curve drawer" onPointerMove={(e) => { const b = e.currentTarget.getBoundingClientRect(); setPointer({ x: e.clientX - b.left, y: e.clientY - b.top }); }} onPointerLeave={() => setPointer(null)} onPointerDown={(e) => boxPick(e, curves, moments, scale, y)}>
                {curves.length === 0 && <text x={PAD} y={28} fontSize={12.500} fill="var(--soft)">Choose a lane by its name, or pick keys, to see how the value runs.</text>}
                {curves.map((c) => (
                    <g key={`${c.lane.id} ${c.axis}`}>
                        {c.ghost !== null && <path d={line(c.ghost, scale, first, last, moments, (v) => y(c, v))} fill="none" stroke={c.ink} opacity={0.35} strokeDasharray="3 3" pointerEvents="none" data-ghost="" />}
                        <path d={line(c.value, scale, first, last, moments, (v) => y(c, v))} fill="none" stroke={c.ink} strokeWidth={1.6} pointerEvents="none" />
                        {isKeyed(c.value) && knotsOf(c.value, moments).map((knot, i, all) => (
                            <Point key={knot.frame} curve={c} value={c.value as Keyed} knot={knot} next={all[i + 1] ?? null} picked={keys.includes(keyName(c.lane.id, knot.frame))} scale={scale} y={(v) => y(c, v)} valueOf={(px) => valueOf(c, px)} />
                        ))}
                    </g>
                ))}
                <line x1={scale.x(frame)} x2={scale.x(frame)} y1={0} y2={height} stroke="var(--ink)" strokeWidth={1.5} pointerEvents="none" />
                {curves[0] && [curves[0].low, (curves[0].low + curves[0].high) / 2, curves[0].high].map((v, i) => <text key={i} x={width - 4} textAnchor="end" y={y(curves[0]!, v) + (i === 2 ? 9 : i === 0 ? -3 : 3)} fontSize={10.500} className="figure" fill="var(--soft)" stroke="var(--raised)" strokeWidth={6} strokeLinejoin="round" paintOrder="stroke">{show(v, curves[0]!.lane.unit, 3)}</text>)}
                {near && (
                    <g pointerEvents="none">
                        <circle cx={scale.x(near.at)} cy={y(near.c, near.v)} r={3.500} fill="none" stroke={near.c.ink} />
                        <text x={Math.min(scale.x(near.at) + 8, width - 150)} y={Math.max(14, y(near.c, near.v) - 8)} fontSize={11.500} className="figure" fill={near.c.ink} stroke="var(--raised)" strokeWidth={3} paintOrder="stroke">{`${near.c.name.toLowerCase()} ${show(near.v, near.c.lane.unit, 4)} at ${near.at}`}</text>
                    </g>
                )}
            </svg>
        </div>
    );
}

/** The curve as a line; where it is straight, only its corners. */
function line(value: Value, scale: Scale, first: number, last: number, moments: Moments, y: (v: number) => number): string {
    if (!isKeyed(value)) return `M${scale.x(first)} ${y(value)}H${scale.x(last)}`;
    const frames = new Set([first, last]);
    const knots = knotsOf(value, moments);
    knots.forEach((k, i) => {
        frames.add(k.frame);
        const next = knots[i + 1];
        if (!next) return;
        if (k.ease === 'hold') frames.add(next.frame - 1e-4);
        else if (k.ease !== 'linear') for (let s = 1; s < 24; s++) frames.add(k.frame + ((next.frame - k.frame) * s) / 24);
    });
    if (value.before !== undefined || value.after !== undefined) for (let f = first; f <= last; f += Math.max(0.25, (last - first) / 600)) frames.add(f);
    return `M${[...frames].filter((f) => f >= first && f <= last).sort((a, b) => a - b).map((f) => `${scale.x(f).toFixed(1)} ${y(valueAt(value, f, moments)).toFixed(1)}`).join('L')}`;
}

interface PointProps {
    curve: Curve;
    value: Keyed;
    knot: Knot;
    next: Knot | null;
    picked: boolean;
    scale: Scale;
    y: (v: number) => number;
    valueOf: (px: number) => number;
}

/** A key on its curve, with the handles of the ease that leaves it. */
function Point({ curve, value, knot, next, picked, scale, y, valueOf }: PointProps) {
    const [drag, setDrag] = useState<{ frame: number; value: number } | null>(null);
    const now = drag ?? knot;
    const key = value.keys[knot.at];
    const down = (e: React.PointerEvent) => {
        e.stopPropagation();
        const { keys, set } = useUi.getState();
        const name = keyName(curve.lane.id, knot.frame);
        set({ keys: e.shiftKey ? [...keys, name] : [name], lane: curve.lane.id, frame: Math.round(knot.frame), playing: false });
        const svg = e.currentTarget.closest('svg')!.getBoundingClientRect();
        let to: { frame: number; value: number } | null = null;
        followPointer(
            (m) => {
                const by = scale.framesIn(m.clientX - e.clientX);
                const v = Math.abs(m.clientY - e.clientY) < 2 ? knot.value : Number(Math.min(curve.lane.option.most, Math.max(curve.lane.option.least, valueOf(m.clientY - svg.top))).toPrecision(4));
                setDrag((to = { frame: knot.frame + by, value: v }));
            },
            () => {
                setDrag(null);
                if (to !== null && (to.frame !== knot.frame || to.value !== knot.value) && setKeyAt(curve.lane.id, curve.axis, knot.frame, to.frame, to.value)) set({ keys: [keyName(curve.lane.id, to.frame)] });
            },
        );
    };
    return (
        <>
            {picked && next !== null && next.value !== knot.value && knot.ease !== 'hold' && knot.ease !== 'linear' && knot.ease !== 'bounce' && <Grips lane={curve.lane.id} knot={knot} next={next} ink={curve.ink} scale={scale} y={y} valueOf={valueOf} />}
            <path d={`M${scale.x(now.frame)} ${y(now.value) - 5}l5 5-5 5-5-5z`} fill={picked ? '#c8f031' : key?.cue === undefined ? curve.ink : 'var(--raised)'} stroke={picked ? '#1d2327' : curve.ink} strokeWidth={1.4} className="cursor-move" role="button" tabIndex={-1} aria-label={`${curve.name} of ${curve.of} is ${showNumber(knot.value)} at frame ${knot.frame}`} onPointerDown={down} />
            {drag && <text x={scale.x(now.frame) + 9} y={y(now.value) - 8} fontSize={11.500} className="figure" fill="var(--ink)" stroke="var(--raised)" strokeWidth={3} paintOrder="stroke" pointerEvents="none">{`${show(now.value, curve.lane.unit, 4)} at ${now.frame}`}</text>}
        </>
    );
}

function Grips({ lane, knot, next, ink, scale, y, valueOf }: { lane: string; knot: Knot; next: Knot; ink: string; scale: Scale; y: (v: number) => number; valueOf: (px: number) => number }) {
    const given = typeof knot.ease === 'string' ? CURVES[knot.ease]! : (knot.ease as readonly [number, number, number, number]);
    const [handles, setHandles] = useState<readonly number[] | null>(null);
    const h = handles ?? given;
    const span = next.frame - knot.frame;
    const change = next.value - knot.value;
    const at = (k: 0 | 2): [number, number] => [scale.x(knot.frame + h[k]! * span), y(knot.value + h[k + 1]! * change)];
    const grip = (k: 0 | 2) => (e: React.PointerEvent) => {
        e.stopPropagation();
        const svg = e.currentTarget.closest('svg')!.getBoundingClientRect();
        let to: number[] = [...h];
        followPointer(
            (m) => {
                to = [...h];
                to[k] = Number(Math.min(1, Math.max(0, h[k]! + (m.clientX - e.clientX) / (scale.x(span) - scale.x(0)))).toFixed(3));
                to[k + 1] = Number(((valueOf(m.clientY - svg.top) - knot.value) / change).toFixed(3));
                setHandles(to);
            },
            () => {
                setHandles(null);
                setEase([keyName(lane, knot.frame)], to as Ease);
            },
        );
    };
    const [a, b] = [at(0), at(2)];
    const bent = handles === null ? null : `M${scale.x(knot.frame)} ${y(knot.value)}C${a[0]} ${a[1]} ${b[0]} ${b[1]} ${scale.x(next.frame)} ${y(next.value)}`;
    return (
        <>
            {bent && <path d={bent} fill="none" stroke={ink} opacity={0.6} />}
            <path d={`M${scale.x(knot.frame)} ${y(knot.value)}L${a[0]} ${a[1]}M${scale.x(next.frame)} ${y(next.value)}L${b[0]} ${b[1]}`} stroke={ink} strokeWidth={1} />
            <circle cx={a[0]} cy={a[1]} r={4.500} fill="var(--raised)" stroke={ink} strokeWidth={1.5} className="cursor-move" role="button" aria-label={`Handle after frame ${knot.frame}`} onPointerDown={grip(0)} />
            <circle cx={b[0]} cy={b[1]} r={4.500} fill="var(--raised)" stroke={ink} strokeWidth={1.5} className="cursor-move" role="button" aria-label={`Handle before frame ${next.frame}`} onPointerDown={grip(2)} />
        </>
    );
}

function boxPick(e: React.PointerEvent<SVGSVGElement>, curves: readonly Curve[], moments: Moments, scale: Scale, y: (c: Curve, v: number) => number): void {
    const { left, top } = e.currentTarget.getBoundingClientRect();
    const [x0, y0] = [e.clientX - left, e.clientY - top];
    followPointer(() => undefined, (m) => {
        const [x1, y1] = [m.clientX - left, m.clientY - top];
        if (Math.abs(x1 - x0) < 3 && Math.abs(y1 - y0) < 3) return;
        const inside = curves.flatMap((c) => (isKeyed(c.value) ? knotsOf(c.value, moments).filter((k) => {
            const [px, py] = [scale.x(k.frame), y(c, k.value)];
            return px >= Math.min(x0, x1) && px <= Math.max(x0, x1) && py >= Math.min(y0, y1) && py <= Math.max(y0, y1);
        }).map((k) => keyName(c.lane.id, k.frame)) : []));
        useUi.getState().set({ keys: [...new Set(inside)] });
    });
}

/** Frame and value of the picked key to be typed, and what can be done with a curve as a whole. */
function Entry({ curves, moments }: { curves: readonly Curve[]; moments: Moments }) {
    const keys = useUi((s) => s.keys);
    const set = useUi((s) => s.set);
    const one = keys.length === 1 ? readKey(keys[0]!) : null;
    const own = curves.filter((c) => c.lane.id === one?.lane && isKeyed(c.value) && knotsOf(c.value, moments).some((k) => k.frame === one.frame));
    const lane = curves[0]?.lane;
    const keyed = curves.find((c) => isKeyed(c.value))?.value;
    return (
        <div className="min-h-0 overflow-y-auto border-r border-line px-3 py-1.5">
            {lane && <p className="mb-1 truncate font-semibold">{curves[0]!.of} <span className="font-normal text-soft">{lane.label.toLowerCase()}</span></p>}
            {one && own.length > 0 && (
                <>
                    <NumberField tight label="Frame" hint="Of the picked key" value={one.frame} least={-100000} most={200000} onChange={(to) => setKeyAt(one.lane, own[0]!.axis, one.frame, to, valueAt(own[0]!.value, one.frame, moments)) && set({ keys: [keyName(one.lane, to)] })} />
                    {own.map((c) => <NumberField tight key={c.axis} label={c.name} unit={c.lane.unit} least={c.lane.option.least} most={c.lane.option.most} value={valueAt(c.value, one.frame, moments)} onChange={(v) => setKeyAt(one.lane, c.axis, one.frame, one.frame, v)} />)}
                </>
            )}
            {keys.length > 0 && (
                <div className="my-1 flex flex-wrap gap-1">
                    <button type="button" className={plate} onClick={() => setEase(keys, 'linear')}>Make linear</button>
                    <button type="button" className={plate} title="All picked keys take their mean value" onClick={() => flattenKeys(keys)}>Flatten</button>
                </div>
            )}
            {curves.some((c) => c.ghost !== null) && <p className="my-1 text-[12px] text-soft">Dashed: as it was baked.</p>}
            {lane && isKeyed(keyed) && (
                <div className="mt-1 flex gap-1.5">
                    <Outside label="Before" value={keyed.before ?? 'hold'} onChange={(v) => setOutside(lane.id, 'before', v)} />
                    <Outside label="After" value={keyed.after ?? 'hold'} onChange={(v) => setOutside(lane.id, 'after', v)} />
                </div>
            )}
        </div>
    );
}

function Outside({ label, value, onChange }: { label: string; value: string; onChange: (v: 'hold' | 'repeat' | 'swing') => void }) {
    return (
        <label className="flex items-center gap-1 text-[12px]">
            {label}
            <select aria-label={`${label} its keys`} value={value} className="h-[22px] border border-line bg-raised text-[12px]" onChange={(e) => onChange(e.target.value as 'hold')}>
                <option value="hold">holds</option>
                <option value="repeat">repeats</option>
                <option value="swing">swings</option>
            </select>
        </label>
    );
}

