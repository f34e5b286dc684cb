import { useEffect, useMemo, useRef, useState } from 'react';
import type { Outline } from '../data/api';
import type { Prop } from '../data/document';
import { usePieces } from '../data/pieces';
import { editProp, useDocument } from '../data/shot';
import { useUi, type View } from '../data/ui';
import { boardOf, type Board } from './board';
import { useLens } from './lens';
import { poseAt } from '../data/pose';

type Point = [number, number];
type Lines = Outline['lines'];

/** Pixels within which a press takes hold of a point. */
const NEAR = 10;

/** The line of a drawing a problem is about, so that it can be marked; −1 where it is about none of them. */
export function wrongLine(path: string | undefined, target: 'break' | number): number {
    const step = /rework\[(\d+)\]/.exec(path ?? '');
    if ((step === null ? 'break' : Number(step[1])) !== target) return -1;
    const found = /lines\[(\d+)\](?:\.points\[\d+\])?$/.exec(path ?? '');
    return found === null ? -1 : Number(found[1]);
}

/** A name no line has yet, so that the pieces it cuts off keep theirs whatever happens to other lines. */
export function freeLineName(lines: Lines): string {
    const taken = new Set(lines.map((l, i) => l.name ?? String(i + 1)));
    let n = lines.length + 1;
    while (taken.has(String(n))) n++;
    return String(n);
}

/** Lines drawn over the picture: those of a break that is scored, or of a step that scores its pieces. */
export default function ScoreBoard() {
    const document = useDocument();
    const { chosen, stage, drawing, frame } = useUi();
    const prop = document?.props.find((p) => p.id === chosen);
    const pieces = usePieces((s) => (prop ? s.byProp[prop.id] : undefined));
    // While nothing is drawn, the lines of the break are shown.
    const target = drawing ?? 'break';
    const scored = target === 'break' ? prop?.break : prop?.rework?.[target];
    const plan = target === 'break' ? pieces?.plans.break : pieces?.plans.rework[target];
    const board = useMemo(() => (stage === 'break' && scored?.pattern === 'score' && prop && pieces && plan ? boardOf(plan, pieces, poseAt(prop, frame)) : null), [stage, scored?.pattern, prop, pieces, plan, frame]);
    useEffect(() => {
        if (drawing === null || !plan) return;
        const w = plan.w.map(Math.abs);
        const name: View = w[2]! >= Math.max(w[0]!, w[1]!) ? 'front' : w[1]! > w[0]! ? 'top' : 'side';
        const { view, set } = useUi.getState();
        set({ view: { name, asked: view.asked + 1 }, spread: 0 });
        // Only the switch turns the view, not every new break.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [drawing]);
    if (board === null || !prop || !scored) return null;
    return <DrawnLines key={target} prop={prop} outline={(scored.values.lines ?? { unit: 'm', lines: [] }) as Outline} target={target} path={target === 'break' ? '/break/values/lines' : `/rework/${target}/values/lines`} board={board} drawing={drawing !== null} />;
}

function DrawnLines({ prop, outline, target, path: place, board, drawing }: { prop: Prop; outline: Outline; target: 'break' | number; path: string; board: Board; drawing: boolean }) {
    useLens((s) => s.seen);
    const { project, cast } = useLens.getState();
    const plate = prop.break?.plate ?? null;
    const wrong = wrongLine(usePieces((s) => s.problems[prop.id]?.path), target);
    const kept = outline.lines;
    const inMetres = outline.unit === 'm';
    const [open, setOpen] = useState<Point[]>([]);
    const [moving, setMoving] = useState<{ line: number; point: number; lines: Lines } | null>(null);
    const [picked, setPicked] = useState<{ line: number; point: number } | null>(null);
    const [over, setOver] = useState<Point | null>(null);
    const svg = useRef<SVGSVGElement>(null);
    const size = Math.max(board.box.high[0] - board.box.low[0], board.box.high[1] - board.box.low[1]);
    const middle: Point = [(board.box.high[0] + board.box.low[0]) / 2, (board.box.high[1] + board.box.low[1]) / 2];
    // A drawing from a file is laid over the prop's box; once a point is moved it is the artist's own, in metres.
    const lines: Lines = moving?.lines ?? (inMetres ? kept : kept.map((l) => ({ ...l, points: l.points.map((p): Point => [middle[0] + p[0] * size, middle[1] + p[1] * size]) })));
    const screen = (p: Point) => project(board.toScene(p));
    const at = (e: { clientX: number; clientY: number }): Point | null => {
        const box = svg.current!.getBoundingClientRect();
        const sight = cast(e.clientX - box.left, e.clientY - box.top);
        return board.fromSight(sight.from, sight.towards);
    };
    const save = (label: string, next: Lines) => void editProp(prop.id, label, { [place]: { unit: 'm', lines: next } });
    const named = lines.map((l, i) => ({ ...l, name: l.name ?? String(i + 1) }));
    const near = (e: { clientX: number; clientY: number }, p: Point) => {
        const box = svg.current!.getBoundingClientRect();
        const [x, y] = screen(p);
        return Math.hypot(e.clientX - box.left - x, e.clientY - box.top - y) < NEAR;
    };
    const finish = (closed: boolean) => {
        if (open.length > (closed ? 2 : 1)) save(closed ? 'Draw a closed line' : 'Draw a line', [...named, { points: open, closed, name: freeLineName(lines) }]);
        setOpen([]);
    };
    useEffect(() => {
        if (!drawing) setOpen([]);
    }, [drawing]);
    useEffect(() => {
        if (!drawing) return;
        const key = (e: KeyboardEvent) => {
            if (e.key === 'Enter') finish(false);
            else if (e.key === 'Escape' && open.length > 0) setOpen([]);
            else if ((e.key === 'Delete' || e.key === 'Backspace') && open.length > 0) setOpen(open.slice(0, -1));
            else if ((e.key === 'Delete' || e.key === 'Backspace') && picked !== null) {
                save('Remove a point', named.map((l, i) => (i === picked.line ? { ...l, points: l.points.filter((_, k) => k !== picked.point) } : l)).filter((l) => l.points.length > 1));
                setPicked(null);
            } else return;
            e.preventDefault();
            e.stopPropagation();
        };
        window.addEventListener('keydown', key, true);
        return () => window.removeEventListener('keydown', key, true);
    });
    const path = (points: Point[], closed: boolean) => `M${points.map((p) => screen(p).map((v) => v.toFixed(1)).join(' ')).join('L')}${closed ? 'Z' : ''}`;
    const corners = [screen([board.box.low[0], board.box.high[1]]), screen([board.box.high[0], board.box.low[1]])] as const;
    return (
        <>
            {plate && <img src={`api/pictures/${plate.asset}`} alt="" className="pointer-events-none absolute object-contain" style={{ opacity: plate.opacity, left: Math.min(corners[0][0], corners[1][0]), top: Math.min(corners[0][1], corners[1][1]), width: Math.abs(corners[1][0] - corners[0][0]), height: Math.abs(corners[1][1] - corners[0][1]) }} />}
            <svg
                ref={svg}
                aria-label={drawing ? 'Drawing board: press to add points, Enter ends a line' : 'Score lines'}
                className={`absolute inset-0 size-full ${drawing ? 'cursor-crosshair touch-none' : 'pointer-events-none'}`}
                onPointerDown={(e) => {
                    if (e.button !== 0) return;
                    for (const [i, line] of lines.entries()) {
                        const k = open.length > 0 ? -1 : line.points.findIndex((p) => near(e, p));
                        if (k >= 0) {
                            svg.current!.setPointerCapture(e.pointerId);
                            setPicked({ line: i, point: k });
                            setMoving({ line: i, point: k, lines });
                            return;
                        }
                    }
                    setPicked(null);
                    if (open.length > 2 && near(e, open[0]!)) return finish(true);
                    if (open.length > 0 && near(e, open.at(-1)!)) return finish(false);
                    const p = at(e);
                    if (p !== null) setOpen([...open, p]);
                }}
                onPointerMove={(e) => {
                    const p = at(e);
                    setOver(p);
                    if (moving === null || p === null) return;
                    setMoving({ ...moving, lines: moving.lines.map((l, i) => (i === moving.line ? { ...l, points: l.points.map((q, k) => (k === moving.point ? p : q)) } : l)) });
                }}
                onPointerUp={() => {
                    if (moving !== null) save('Move a point of a line', moving.lines);
                    setMoving(null);
                }}
                onPointerLeave={() => setOver(null)}
            >
                {lines.map((l, i) => <path key={i} d={path(l.points, l.closed)} fill="none" stroke={wrong === i ? 'var(--wrong)' : 'var(--ink)'} strokeWidth={wrong === i ? 3 : 1.6} strokeDasharray={drawing || wrong === i ? undefined : '5 4'} strokeLinejoin="round" />)}
                {open.length > 0 && <path d={path(over === null ? open : [...open, over], false)} fill="none" stroke="var(--wrong)" strokeWidth={1.6} strokeLinejoin="round" />}
                {drawing && [...lines.flatMap((l, i) => l.points.map((p, k) => ({ p, on: picked?.line === i && picked.point === k }))), ...open.map((p) => ({ p, on: true }))].map(({ p, on }, i) => {
                    const [x, y] = screen(p);
                    return <circle key={i} cx={x} cy={y} r={on ? 5 : 4} fill={on ? 'var(--wrong)' : 'var(--paper)'} stroke="var(--ink)" strokeWidth={1.4} />;
                })}
            </svg>
            {drawing && <p className="pointer-events-none absolute bottom-12 left-1/2 -translate-x-1/2 border border-ink bg-paper px-3 py-1 text-[12px] whitespace-nowrap">Press to add points. Enter ends a line, its first point closes it. Drag points to move them, Delete removes one.</p>}
        </>
    );
}
