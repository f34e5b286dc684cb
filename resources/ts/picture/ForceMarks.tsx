import { useEffect, useState } from 'react';
import type { Option } from '../data/api';
import type { Force, ShotDocument, Value } from '../data/document';
import { askAir, useAir, useForecast } from '../data/forces';
import { setValues } from '../data/keys';
import { currentMoments } from '../data/moments';
import { applies } from '../data/options';
import type { Triple } from '../data/pieces';
import type { Pose } from '../data/pose';
import { show } from '../data/quantity';
import { useDocument, useShot } from '../data/shot';
import { valueAt } from '../data/track';
import { useCatalogue } from '../data/useCatalogue';
import { useUi } from '../data/ui';
import { DragPoint } from './DragPoint';
import { useLens } from './lens';
import { roundStep } from './fit';

const HERE: Pose = { position: [0, 0, 0], turn: [0, 0, 0], size: 1 };

/** Share of the picture's width that the plane of arrows is wide. */
const WIDE = 0.62;

/** How long the fastest arrow is, between two places. */
const LONGEST = 1.5;

/** m above the ground where nothing says how high. */
const UP = 0.3;

/** Pixels that an arrow is long which shows where a force goes. */
const ARROW = 90;

/** Forces in the picture: arrows over a level plane, and their points to be dragged. */
export default function ForceMarks() {
    useLens((s) => s.seen);
    const document = useDocument();
    const { stage, frame } = useUi();
    const shown = useAir((s) => s.shown);
    if (!document || (stage !== 'shot' && stage !== 'motion')) return null;
    if ((document.forces ?? []).length === 0) return <Flight />;
    const [x, z] = middleOf(document);
    return (
        <>
            <Flight />
            {shown && <Arrows document={document} frame={frame} />}
            {stage === 'shot' && document.forces!.map((force, at) => <Grips key={force.id} force={force} at={at} frame={frame} middle={[x, UP, z]} />)}
        </>
    );
}

/** The middle of where props stand, x and z. */
function middleOf(document: ShotDocument): [number, number] {
    const moments = currentMoments();
    const stand = document.props.filter((p) => !p.hidden).map((p) => p.place.position.map((v) => valueAt(v, document.frames.first, moments)));
    const middle = (axis: number) => (stand.length === 0 ? 0 : (Math.min(...stand.map((p) => p[axis]!)) + Math.max(...stand.map((p) => p[axis]!))) / 2);
    return [middle(0), middle(2)];
}

function Arrows({ document, frame }: { document: ShotDocument; frame: number }) {
    const shot = useShot((s) => s.shot?.id);
    const revision = useShot((s) => s.shot?.revision);
    const playing = useUi((s) => s.playing);
    const { arrows, lined, height } = useAir();
    const { project, metre } = useLens.getState();
    const wide = window.document.getElementById('picture')?.clientWidth ?? 800;
    const half = roundStep(Math.max(0.05, (0.5 * WIDE * wide) / metre));
    const [x, z] = middleOf(document);
    const y = height ?? UP;
    useEffect(() => {
        if (shot === undefined || playing) return;
        let stop = () => {};
        const wait = setTimeout(() => { stop = askAir(shot, frame, y, [x - half, x + half, z - half, z + half]); }, 200);
        return () => { clearTimeout(wait); stop(); };
        // Only a saved revision counts.
    }, [shot, revision, frame, playing, x, y, z, half, lined]);
    const air = arrows.air.length > 0;
    const list = air ? arrows.air : arrows.pull;
    const count = list.length / 6;
    if (count === 0) return null;
    const side = Math.sqrt(count);
    const speeds = Array.from({ length: count }, (_, k) => Math.hypot(list[6 * k + 3]!, list[6 * k + 4]!, list[6 * k + 5]!));
    const top = Math.max(...speeds);
    const long = (LONGEST * 2 * half) / (side - 1) / top;
    return (
        <>
            <svg className="pointer-events-none absolute inset-0 size-full overflow-visible" role="img" aria-label={`How the ${air ? 'air goes' : 'pull acts'}, at most ${show(top, air ? 'm/s' : 'm/s²', 2)}`}>
                {air && lined && arrows.lines.map((line, k) => <Line key={k} line={line} top={top} />)}
                {!(air && lined) && speeds.map((speed, k) => {
                    if (speed < 0.02 * top) return null;
                    const at = [list[6 * k]!, list[6 * k + 1]!, list[6 * k + 2]!] as const;
                    const to: Triple = [at[0] + long * list[6 * k + 3]!, at[1] + long * list[6 * k + 4]!, at[2] + long * list[6 * k + 5]!];
                    const [a, b] = [project([...at]), project(to)];
                    if (!inSight(a) || !inSight(b)) return null;
                    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
                    const l = Math.hypot(dx, dy) || 1;
                    const [ux, uy] = [(dx / l) * Math.min(7, 0.5 * l), (dy / l) * Math.min(7, 0.5 * l)];
                    const line = `M${a[0].toFixed(1)} ${a[1].toFixed(1)}L${b[0].toFixed(1)} ${b[1].toFixed(1)}M${(b[0] - ux - 0.5 * uy).toFixed(1)} ${(b[1] - uy + 0.5 * ux).toFixed(1)}L${b[0].toFixed(1)} ${b[1].toFixed(1)}L${(b[0] - ux + 0.5 * uy).toFixed(1)} ${(b[1] - uy - 0.5 * ux).toFixed(1)}`;
                    return (
                        <g key={k} fill="none" strokeLinejoin="round" strokeLinecap="round">
                            <path d={line} stroke="#f6f4ef" strokeWidth={3} strokeOpacity={0.45} />
                            <path d={line} stroke={colour(speed / top)} strokeWidth={1.4} />
                        </g>
                    );
                })}
            </svg>
            <output className="figure pointer-events-none absolute right-3 bottom-[54px] bg-[#1d2327]/85 px-2 py-0.5 text-[12px] text-[#f6f4ef]">{air ? 'air' : 'pull'} up to {show(top, air ? 'm/s' : 'm/s²', 2)}, {show(y, 'm', 2)} up</output>
        </>
    );
}

/** A line that follows the air, with a point at its end. */
function Line({ line, top }: { line: readonly number[]; top: number }) {
    const { project } = useLens.getState();
    const points = Array.from({ length: line.length / 4 }, (_, k) => project([line[4 * k]!, line[4 * k + 1]!, line[4 * k + 2]!]));
    const speed = Math.max(...Array.from({ length: line.length / 4 }, (_, k) => line[4 * k + 3]!));
    const path = drawn(points);
    const [x, y] = points.findLast(inSight) ?? [NaN, NaN];
    if (path === '') return null;
    return (
        <g fill="none" strokeLinejoin="round" strokeLinecap="round">
            <path d={path} stroke="#f6f4ef" strokeWidth={3} strokeOpacity={0.45} />
            <path d={path} stroke={colour(speed / top)} strokeWidth={1.4} />
            <circle cx={x} cy={y} r={2.2} fill={colour(speed / top)} />
        </g>
    );
}

/** How a picked piece would fly if it were let go alone. */
function Flight() {
    const { path } = useForecast();
    const { project } = useLens.getState();
    if (path.length < 2) return null;
    const points = path.map((p) => project(p));
    const [x, y] = points.findLast(inSight) ?? [NaN, NaN];
    const line = drawn(points);
    if (line === '') return null;
    return (
        <svg className="pointer-events-none absolute inset-0 size-full overflow-visible" role="img" aria-label="How the picked piece would fly">
            <g fill="none" strokeLinejoin="round">
                <path d={line} stroke="#f6f4ef" strokeWidth={4} strokeOpacity={0.6} />
                <path d={line} stroke="#b5422b" strokeWidth={1.6} strokeDasharray="5 3" />
                {points.slice(0, -1).filter(inSight).map(([a, b], k) => <circle key={k} cx={a} cy={b} r={1.6} fill="#b5422b" />)}
                <circle cx={x} cy={y} r={4} stroke="#b5422b" strokeWidth={1.6} fill="#f6f4ef" />
            </g>
        </svg>
    );
}

/** Pixels off the picture beyond which nothing is drawn: what lies behind the camera has no place in it at all. */
const FAR = 20_000;

const inSight = ([x, y]: readonly [number, number]): boolean => Math.abs(x) < FAR && Math.abs(y) < FAR;

/** A line through points, broken where one is not in sight. */
function drawn(points: readonly (readonly [number, number])[]): string {
    return points.map((p, k) => (!inSight(p) ? '' : `${k === 0 || !inSight(points[k - 1]!) ? 'M' : 'L'}${p[0].toFixed(1)} ${p[1].toFixed(1)}`)).join('');
}

/** From calm to fast: teal to deep blue, as weights are. */
function colour(share: number): string {
    return `hsl(${Math.round(175 + 50 * share)} ${Math.round(45 + 35 * share)}% ${Math.round(52 - 27 * share)}%)`;
}

/** What of a force is taken hold of in the picture: its points, and the tips of arrows that show its ways. */
function Grips({ force, at, frame, middle }: { force: Force; at: number; frame: number; middle: Triple }) {
    const options = useCatalogue()?.forces[force.kind]?.options ?? [];
    const { metre } = useLens.getState();
    const values = force.values as Record<string, unknown>;
    const moments = currentMoments();
    const used = options.filter((o) => o.type === 'point' && applies(o, options, values));
    const now = (o: Option) => ((values[o.name] ?? o.default) as Value[]).map((v) => valueAt(v, frame, moments)) as Triple;
    const set = (o: Option, label: string, to: Triple) => void (values[o.name] === undefined
        ? useShot.getState().edit(label, [{ op: 'add', path: `/forces/${at}/values/${o.name}`, value: to }])
        : setValues(label, to.map((value, axis) => ({ lane: `:forces/${at}/values/${o.name}`, axis, frame, value }))));
    const places = used.filter((o) => o.unit !== '');
    const from = places[0] === undefined ? middle : now(places[0]);
    return (
        <>
            {used.filter((o) => o.unit === '').map((o) => <Way key={o.name} from={from} way={now(o)} long={ARROW / metre} label={`Turn ${force.name}`} onSet={(way) => set(o, `Turn ${force.name}`, way)} />)}
            {places.map((o) => <DragPoint key={o.name} pose={HERE} at={now(o)} label={`Move ${force.name}`} onSet={(to) => set(o, `Move ${force.name}`, to)} />)}
        </>
    );
}

/** An arrow that is turned by its tip. */
function Way({ from, way, long, label, onSet }: { from: Triple; way: Triple; long: number; label: string; onSet: (way: Triple) => void }) {
    const [held, setHeld] = useState<Triple | null>(null);
    const { project } = useLens.getState();
    const size = Math.hypot(...way) || 1;
    const tip = held ?? (from.map((v, axis) => v + (long / size) * way[axis]!) as Triple);
    const line = drawn([project(from), project(tip)]);
    const toward = (to: Triple): Triple => {
        const off = to.map((v, axis) => v - from[axis]!);
        const far = Math.hypot(...off);
        // At the foot of the arrow there is no way to point.
        return far === 0 ? way : (off.map((v) => Math.round((1000 * v) / far) / 1000) as Triple);
    };
    return (
        <>
            <svg className="pointer-events-none absolute inset-0 size-full overflow-visible" aria-hidden="true">
                <path d={line} stroke="#f6f4ef" strokeWidth={5} strokeOpacity={0.6} />
                <path d={line} stroke="#1d2327" strokeWidth={2} />
            </svg>
            <DragPoint small pose={HERE} at={tip} label={label} title="Drag it to where this goes, or move it by the arrow keys" words={(to) => toward(to).map((v) => v.toFixed(2)).join(', ')} onHeld={setHeld} onSet={(to) => onSet(toward(to))} />
        </>
    );
}
