import { useEffect } from 'react';
import type { DriftEnd, Prop } from '../data/document';
import { currentMoments } from '../data/moments';
import { usePieces, type Triple } from '../data/pieces';
import { inScene, poseAt, type Pose } from '../data/pose';
import { show } from '../data/quantity';
import { editProp, useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { DragPoint } from './DragPoint';
import { onPlane, useLens } from './lens';

/** Ends that are drawn, at most; more are set by figures. */
const MOST = 60;

/** Where drifting pieces go, in the picture: ends placed by hand, and paths that are drawn. */
export default function DriftMarks() {
    useLens((s) => s.seen);
    const document = useDocument();
    const { chosen, stage, frame, picked, path } = useUi();
    const prop = document?.props.find((p) => p.id === chosen);
    const drift = stage === 'motion' && prop && !prop.hidden ? prop.motion.drift : undefined;
    if (!document || !prop || !drift || prop.motion.kind !== 'drift') return null;
    const pose = poseAt(prop, frame, currentMoments(), document.frames.first);
    return (
        <>
            <Ends prop={prop} pose={pose} ends={drift.ends ?? []} picked={picked} />
            {drift.moves.map((move, k) => {
                const { kind, points } = move.values as { kind?: string; points?: Triple[] | null };
                return move.move === 'path' && kind === 'line' ? <Path key={k} prop={prop} pose={pose} number={k} points={points ?? []} drawing={path === k} /> : null;
            })}
        </>
    );
}

function Ends({ prop, pose, ends, picked }: { prop: Prop; pose: Pose; ends: readonly DriftEnd[]; picked: readonly number[] }) {
    const pieces = usePieces((s) => s.byProp[prop.id]?.pieces) ?? [];
    const { project } = useLens.getState();
    const shown = ends.slice(0, MOST).flatMap((end) => {
        const number = pieces.findIndex((p) => p.name === end.piece);
        return number < 0 ? [] : [{ end, number, home: pieces[number]!.centre as Triple }];
    });
    const place = (from: DriftEnd, home: Triple, to: Triple) => {
        const by = to.map((v, a) => Number((v - home[a]!).toPrecision(6)));
        // All that are picked go along.
        const along = picked.length > 1 && picked.some((k) => pieces[k]?.name === from.piece) ? new Set(picked.map((k) => pieces[k]?.name)) : new Set([from.piece]);
        const more = by.map((v, a) => v - from.by[a]!);
        void editProp(prop.id, 'Place where pieces fly', { '/motion/drift/ends': ends.map((e) => (along.has(e.piece) ? { ...e, by: e.piece === from.piece ? by : e.by.map((v, a) => Number((v + more[a]!).toPrecision(6))) } : e)) });
    };
    return (
        <>
            <svg className="pointer-events-none absolute inset-0 size-full overflow-visible" aria-hidden>
                {shown.map(({ end, home }) => {
                    const [a, b] = [project(inScene(pose, home)), project(inScene(pose, plus(home, end.by)))];
                    return <line key={end.piece} x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} stroke="var(--ink)" strokeWidth={1.4} strokeDasharray="5 4" />;
                })}
            </svg>
            {shown.map(({ end, number, home }) => (
                <DragPoint key={end.piece} small={!picked.includes(number)} pose={pose} at={plus(home, end.by)} label={`Move where ${end.piece} flies`} title={`Where ${end.piece} flies to or comes from`} words={(at) => `${show(Math.hypot(...at.map((v, a) => v - home[a]!)), 'm')} off its place`} onSet={(to) => place(end, home, to)} />
            ))}
        </>
    );
}

/** A path is drawn from the middle of the prop; only the way between its points counts. */
function Path({ prop, pose, number, points, drawing }: { prop: Prop; pose: Pose; number: number; points: readonly Triple[]; drawing: boolean }) {
    const pieces = usePieces((s) => s.byProp[prop.id]?.pieces) ?? [];
    const { project } = useLens.getState();
    const all = pieces.reduce((n, p) => n + p.volume, 0) || 1;
    const middle = [0, 1, 2].map((a) => pieces.reduce((n, p) => n + (p.volume / all) * p.centre[a]!, 0)) as Triple;
    const first = points[0] ?? ([0, 0, 0] as Triple);
    const shown = (p: Triple): Triple => plus(middle, p.map((v, a) => v - first[a]!));
    const ways = points.length === 0 ? [middle] : points.map(shown);
    const save = (label: string, next: readonly Triple[]) => void editProp(prop.id, label, { [`/motion/drift/moves/${number}/values/points`]: next });
    const end = () => useUi.getState().set({ path: null });
    const add = (to: Triple) => save('Draw a path', [...(points.length === 0 ? [first] : points), plus(to, first.map((v, a) => v - middle[a]!))]);
    useEffect(() => {
        if (!drawing) return;
        const key = (e: KeyboardEvent) => {
            if (e.key !== 'Enter' && e.key !== 'Escape') return;
            e.preventDefault();
            e.stopPropagation();
            end();
        };
        window.addEventListener('keydown', key, true);
        return () => window.removeEventListener('keydown', key, true);
    }, [drawing]);
    return (
        <>
            <svg
                className={`absolute inset-0 size-full overflow-visible ${drawing ? 'cursor-crosshair touch-none' : 'pointer-events-none'}`}
                aria-label={drawing ? 'Draw the path: press to add points, Enter ends it' : 'Path of the drift'}
                onPointerDown={(e) => {
                    if (e.button !== 0) return;
                    const box = e.currentTarget.getBoundingClientRect();
                    add(onPlane(pose, ways.at(-1)!, e.clientX - box.left, e.clientY - box.top));
                }}
            >
                {/* What is not filled catches the pointer too. */}
                {drawing && <rect width="100%" height="100%" fill="transparent" />}
                <polyline points={ways.map((p) => project(inScene(pose, p)).map((v) => v.toFixed(1)).join(',')).join(' ')} fill="none" stroke="#f6f4ef" strokeOpacity={0.6} strokeWidth={4} />
                <polyline points={ways.map((p) => project(inScene(pose, p)).map((v) => v.toFixed(1)).join(',')).join(' ')} fill="none" stroke="#1d2327" strokeWidth={1.6} />
            </svg>
            {points.map((p, k) => (k === 0 ? null : (
                <DragPoint key={k} small pose={pose} at={shown(p)} label={`Move point ${k + 1} of the path`} onSet={(to) => save('Move a point of the path', points.map((q, i) => (i === k ? plus(to, first.map((v, a) => v - middle[a]!)) : q)))} />
            )))}
            {drawing && <p className="pointer-events-none absolute bottom-12 left-1/2 -translate-x-1/2 border border-ink bg-paper px-3 py-1 text-[12px] whitespace-nowrap">Press to add points; each lies as far away as the one before. Enter ends the path.</p>}
        </>
    );
}

function plus(a: Triple, b: readonly number[]): Triple {
    return [a[0] + b[0]!, a[1] + b[1]!, a[2] + b[2]!];
}
