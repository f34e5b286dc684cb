import { useEffect, useState } from 'react';
import type { Prop, ShotDocument, Value, WeightSource } from '../data/document';
import { setValues } from '../data/keys';
import { currentMoments } from '../data/moments';
import { settleTrial, shownMap, tryOut } from '../data/maps';
import { inScene, poseAt, type Pose } from '../data/pose';
import type { Triple } from '../data/pieces';
import { usePlace } from '../data/place';
import { show } from '../data/quantity';
import { useDocument } from '../data/shot';
import { valueAt } from '../data/track';
import { useUi } from '../data/ui';
import { DragPoint } from './DragPoint';
import { within } from './grips';
import { along, cross, unit, useLens } from './lens';

const HERE: Pose = { position: [0, 0, 0], turn: [0, 0, 0], size: 1 };

/** Pixels that marks without a size of their own are wide, to either side. */
const MARK = 90;

/** The chosen source of a weight map in the picture: its shape, its two distances with their numbers, and its point to be dragged; the weight under the pointer; and a place that is pointed out. */
export default function SourceMarks() {
    useLens((s) => s.seen);
    const document = useDocument();
    const { stage, effect, show: look, chosen, map, layer, frame } = useUi();
    // Where only what the map does is looked at, nothing lies over that.
    const shown = stage === 'weights' && (!effect || look === 'weight') ? shownMap(document, chosen, map) : null;
    if (!document || shown === null) return null;
    const at = Math.min(layer, shown.map.sources.length - 1);
    const source = shown.map.sources[at];
    return (
        <>
            {source && <Mark document={document} prop={shown.prop} sources={shown.map.sources} at={at} path={`weights/${shown.at}/sources/${at}`} frame={frame} />}
            <WeightHere prop={shown.prop.id} />
            <PlaceMark document={document} frame={frame} />
        </>
    );
}

/** Where the coordinates of a source are in the scene. */
function stand(document: ShotDocument, prop: Prop, source: WeightSource, frame: number): Pose {
    const on = source.on ?? 'own';
    const carrier = on === 'world' ? undefined : on === 'own' ? prop : document.props.find((p) => p.id === on);
    return carrier === undefined ? HERE : poseAt(carrier, frame, currentMoments(), document.frames.first);
}

function Mark({ document, prop, sources, at, path, frame }: { document: ShotDocument; prop: Prop; sources: readonly WeightSource[]; at: number; path: string; frame: number }) {
    const source = sources[at]!;
    const [held, setHeld] = useState<Triple | null>(null);
    const values = source.values as Record<string, unknown>;
    const moments = currentMoments();
    const number = (name: string, usual: number) => valueAt((values[name] ?? usual) as Value, frame, moments);
    const three = (name: string, usual: Triple): Triple => ((values[name] as Value[] | undefined) ?? usual).map((v) => valueAt(v, frame, moments)) as Triple;
    const name = ['middle', 'point', 'from'].find((n) => Array.isArray(values[n]));
    const pose = stand(document, prop, source, frame);
    const point = held ?? (name === undefined ? null : three(name, [0, 0, 0]));
    const { project, metre } = useLens.getState();
    const to = (p: Triple) => project(inScene(pose, p));
    const [full, none] = [number('full', 0), number('none', 0)];
    const shapes: { points: readonly Triple[]; strong: boolean; label: string; at: Triple }[] = [];
    if (source.source === 'ball' && point !== null) {
        for (const [r, strong] of [[full, true], [none, false]] as const) for (const axis of [0, 1, 2]) shapes.push({ points: circle(point, r, axis), strong, label: axis === 0 ? distance(strong, r) : '', at: [point[0], point[1] + r, point[2]] });
    } else if (source.source === 'front' && point !== null) {
        const way = unit(three('direction', [0, 1, 0]));
        const wide = MARK / metre;
        for (const [d, strong] of [[full, true], [none, false]] as const) shapes.push({ points: square(point, way, d, wide), strong, label: distance(strong, d), at: along(point, way, d) });
        shapes.push({ points: [point, along(point, way, 0.6 * wide)], strong: true, label: '', at: point });
    } else if (source.source === 'box' && point !== null) {
        const size = three('size', [0.5, 0.5, 0.5]);
        for (const [d, strong] of [[full, true], [none, false]] as const) for (const edge of boxEdges(point, size.map((s) => s / 2 + d) as Triple)) shapes.push({ points: edge, strong, label: '', at: point });
    } else if (source.source === 'stripes' || source.source === 'facing') {
        const wide = MARK / metre;
        const middle: Triple = within(pose, inScene(poseAt(prop, frame, moments, document.frames.first), [0, 0, 0]));
        shapes.push({ points: [middle, along(middle, unit(three('direction', [0, 1, 0])), wide)], strong: true, label: source.source === 'stripes' ? `bands every ${show(number('spacing', 0.2), 'm')}` : 'this way', at: along(middle, unit(three('direction', [0, 1, 0])), wide) });
    } else if (source.source === 'proximity') {
        const target = document.props.find((p) => p.id === values.to);
        // Above it, so that it is not hidden.
        if (target) shapes.push({ points: [], strong: true, label: `full within ${show(full, 'm')}, none beyond ${show(none, 'm')}`, at: within(pose, useLens.getState().top(target.id) ?? poseAt(target, frame, moments, document.frames.first).position) });
    }
    const hold = (p: Triple | null) => {
        setHeld(p);
        if (p !== null && name !== undefined) tryOut({ sources: sources.map((s, k) => (k === at ? { ...s, values: { ...values, [name]: p } } : s)) });
    };
    const set = (p: Triple) => settleTrial(setValues(`Move ${source.source}`, p.map((value, axis) => ({ lane: `${prop.id}:${path}/values/${name}`, axis, frame, value }))));
    return (
        <>
            <svg className="pointer-events-none absolute inset-0 size-full overflow-visible" aria-hidden>
                {shapes.map((s, k) => {
                    const line = s.points.map((p) => to(p).map((v) => v.toFixed(1)).join(',')).join(' ');
                    return (
                        <g key={k} fill="none">
                            <polyline points={line} stroke="#f6f4ef" strokeWidth={s.strong ? 3.500 : 2.500} strokeOpacity={0.550} />
                            <polyline points={line} stroke="#1d2327" strokeWidth={s.strong ? 1.500 : 1} strokeDasharray={s.strong ? undefined : '5 4'} />
                        </g>
                    );
                })}
            </svg>
            {shapes.filter((s) => s.label !== '').map((s) => {
                const [x, y] = to(s.at);
                return <output key={s.label} className={`figure pointer-events-none absolute -translate-x-1/2 -translate-y-[150%] px-2 py-0.5 text-[12px] whitespace-pre ${s.strong ? 'bg-[#1d2327] text-[#f6f4ef]' : 'bg-[#1d2327]/75 text-[#f6f4ef]'}`} style={{ left: x, top: y }}>{s.label}</output>;
            })}
            {point !== null && name !== undefined && <DragPoint pose={pose} at={three(name, [0, 0, 0])} label={`Move the ${name} of ${source.source}`} onSet={set} onHeld={hold} />}
        </>
    );
}

/** The weight under the pointer. */
function WeightHere({ prop }: { prop: string }) {
    const [here, setHere] = useState<{ x: number; y: number; w: number } | null>(null);
    const shown = useUi((s) => s.show === 'weight');
    useEffect(() => {
        const picture = document.getElementById('picture');
        if (picture === null) return;
        const move = (e: PointerEvent) => {
            const box = picture.getBoundingClientRect();
            const w = e.buttons === 0 && e.target instanceof HTMLCanvasElement ? useLens.getState().weight(prop, e.clientX - box.left, e.clientY - box.top) : null;
            setHere(w === null ? null : { x: e.clientX - box.left, y: e.clientY - box.top, w });
        };
        const leave = () => setHere(null);
        picture.addEventListener('pointermove', move);
        picture.addEventListener('pointerleave', leave);
        return () => {
            picture.removeEventListener('pointermove', move);
            picture.removeEventListener('pointerleave', leave);
        };
    }, [prop]);
    if (here === null || !shown) return null;
    return <output aria-label="Weight under the pointer" className="figure pointer-events-none absolute translate-x-3 -translate-y-[130%] border border-ink bg-paper px-1.5 py-0.5 text-[12px] whitespace-pre" style={{ left: here.x, top: here.y }}>{here.w.toFixed(2)} here</output>;
}

/** A place that was asked to be shown. */
function PlaceMark({ document, frame }: { document: ShotDocument; frame: number }) {
    const shown = usePlace((s) => s.shown);
    const prop = document.props.find((p) => p.id === shown?.prop);
    useEffect(() => {
        if (shown === null) return;
        const end = setTimeout(() => usePlace.setState({ shown: null }), 8000);
        return () => clearTimeout(end);
    }, [shown]);
    if (shown === null || prop === undefined) return null;
    const [x, y] = useLens.getState().project(inScene(poseAt(prop, frame, currentMoments(), document.frames.first), shown.at));
    return <div role="status" aria-label="Here" className="pointer-events-none absolute size-[30px] -translate-1/2 rounded-full border-[3px] border-doubt" style={{ left: x, top: y }} />;
}

function distance(strong: boolean, metres: number): string {
    return `${strong ? 'full within' : 'none beyond'} ${show(metres, 'm')}`;
}

function circle(c: Triple, r: number, axis: number): Triple[] {
    return Array.from({ length: 65 }, (_, k) => {
        const a = (k / 64) * 2 * Math.PI;
        const p: Triple = [...c];
        p[(axis + 1) % 3]! += r * Math.cos(a);
        p[(axis + 2) % 3]! += r * Math.sin(a);
        return p;
    });
}

/** A square across a direction, at a distance along it. */
function square(c: Triple, way: Triple, d: number, half: number): Triple[] {
    const side = unit(Math.abs(way[1]) > 0.9 ? cross(way, [1, 0, 0]) : cross(way, [0, 1, 0]));
    const other = cross(way, side);
    const at = along(c, way, d);
    return [[1, 1], [1, -1], [-1, -1], [-1, 1], [1, 1]].map(([u, v]) => [0, 1, 2].map((k) => at[k]! + half * (u! * side[k]! + v! * other[k]!)) as Triple);
}

function boxEdges(c: Triple, half: Triple): Triple[][] {
    const corner = (k: number): Triple => [0, 1, 2].map((a) => c[a]! + (k & (1 << a) ? half[a]! : -half[a]!)) as Triple;
    const out: Triple[][] = [];
    for (let k = 0; k < 8; k++) for (let a = 0; a < 3; a++) if (!(k & (1 << a))) out.push([corner(k), corner(k | (1 << a))]);
    return out;
}
