import { useRef, useState } from 'react';
import type { Option } from '../data/api';
import type { Course } from '../data/dust';
import { show, showNumber } from '../data/quantity';

const WIDE = 300;
const TALL = 64;
const PAD = 7;

/** How a value goes over something: drag its points, double-click to add one, Delete to remove; the arrow keys move the one in focus. */
export function CourseField({ option, value, onChange }: { option: Option; value: Course; onChange: (v: Course) => void }) {
    const [moving, setMoving] = useState<{ at: number; points: Course } | null>(null);
    const svg = useRef<SVGSVGElement>(null);
    const points = moving?.points ?? value;
    const most = Math.min(option.most, Math.max(1, 1.15 * Math.max(...value.map((p) => p[1]))));
    const x = (share: number) => PAD + share * (WIDE - 2 * PAD);
    const y = (v: number) => TALL - PAD - ((v - option.least) / (most - option.least)) * (TALL - 2 * PAD);
    const placed = (points: Course, at: number, share: number, v: number): Course => {
        const from = points[at - 1]?.[0] ?? 0;
        const to = points[at + 1]?.[0] ?? 1;
        return points.map((p, k) => (k === at ? [Number(Math.min(to, Math.max(from, share)).toFixed(3)), Number(Math.min(option.most, Math.max(option.least, v)).toFixed(3))] : p));
    };
    const fromEvent = (e: React.PointerEvent | React.MouseEvent): [number, number] => {
        const box = svg.current!.getBoundingClientRect();
        const u = ((e.clientX - box.left) / box.width) * WIDE;
        const v = ((e.clientY - box.top) / box.height) * TALL;
        return [(u - PAD) / (WIDE - 2 * PAD), option.least + ((TALL - PAD - v) / (TALL - 2 * PAD)) * (most - option.least)];
    };
    const ends: Course = [[0, points[0]![1]], ...points, [1, points.at(-1)![1]]];
    const said = (p: readonly [number, number]) => `${showNumber(100 * p[0])} % of the way, ${show(p[1], '')}`;
    return (
        <div className="mt-1 mb-1.5" title={`${option.meaning} Double-click adds a point.`}>
            <div className="flex justify-between"><span>{option.label}</span><span className="figure text-[11px] text-soft">{moving ? said(points[moving.at]!) : `${show(points[0]![1], '')} → ${show(points.at(-1)![1], '')}`}</span></div>
            <svg
                ref={svg}
                viewBox={`0 0 ${WIDE} ${TALL}`}
                role="group"
                aria-label={option.label}
                className="block w-full touch-none border border-line bg-raised"
                onPointerMove={(e) => moving && setMoving({ ...moving, points: placed(moving.points, moving.at, ...fromEvent(e)) })}
                onPointerUp={() => {
                    if (moving) onChange(moving.points);
                    setMoving(null);
                }}
                onDoubleClick={(e) => {
                    const [share, v] = fromEvent(e);
                    const after = value.filter((p) => p[0] <= share).length;
                    const next = [...value.slice(0, after), [share, v] as const, ...value.slice(after)];
                    if (next.length <= 16) onChange(placed(next, after, share, v));
                }}
            >
                <line x1={PAD} x2={WIDE - PAD} y1={y(0)} y2={y(0)} stroke="var(--line)" />
                <polyline points={ends.map((p) => `${x(p[0])},${y(p[1])}`).join(' ')} fill="none" stroke="var(--ink)" strokeWidth={1.5} strokeLinejoin="round" />
                {points.map((p, k) => (
                    <circle
                        key={k}
                        cx={x(p[0])}
                        cy={y(p[1])}
                        r={4.5}
                        tabIndex={0}
                        role="button"
                        aria-label={`${option.label}, point ${k + 1}: ${said(p)}`}
                        fill="var(--paper)"
                        stroke="var(--ink)"
                        strokeWidth={1.5}
                        className="cursor-grab"
                        onPointerDown={(e) => {
                            svg.current!.setPointerCapture(e.pointerId);
                            setMoving({ at: k, points: value });
                        }}
                        onKeyDown={(e) => {
                            const step = { ArrowLeft: [-0.01, 0], ArrowRight: [0.01, 0], ArrowUp: [0, 0.05], ArrowDown: [0, -0.05] }[e.key];
                            if (step) {
                                e.preventDefault();
                                e.stopPropagation();
                                onChange(placed(value, k, p[0] + step[0]!, p[1] + step[1]!));
                            }
                            if ((e.key === 'Delete' || e.key === 'Backspace') && value.length > 1) onChange(value.filter((_, j) => j !== k));
                        }}
                    />
                ))}
            </svg>
        </div>
    );
}
