import { useRef, useState } from 'react';
import { showNumber } from '../data/quantity';

const SIZE = 300;

/** The outline of a lathe prop: drag points, double-click the line to add one, Delete to remove. */
export function ProfileEditor({ value, onChange }: { value: number[][]; onChange: (v: number[][]) => void }) {
    const [moving, setMoving] = useState<{ at: number; points: number[][] } | null>(null);
    const svg = useRef<SVGSVGElement>(null);
    const points = moving?.points ?? value;
    const reach = Math.max(0.05, ...value.map((p) => Math.max(p[0]!, p[1]!))) * 1.12;
    const k = SIZE / reach;
    const toScreen = (p: number[]) => [8 + p[0]! * k * 0.92, SIZE - 8 - p[1]! * k * 0.92] as const;
    const fromEvent = (e: React.PointerEvent | React.MouseEvent): [number, number] => {
        const box = svg.current!.getBoundingClientRect();
        const s = SIZE / box.width;
        const x = ((e.clientX - box.left) * s - 8) / (k * 0.92);
        const y = (SIZE - 8 - (e.clientY - box.top) * s) / (k * 0.92);
        return [Math.max(0, Number(x.toFixed(4))), Number(Math.max(0, y).toFixed(4))];
    };
    return (
        <div className="mb-2">
            <p className="mb-1 text-soft">Profile: from the foot up the outside and back down the inside. Double-click adds a point.</p>
            <svg
                ref={svg}
                viewBox={`0 0 ${SIZE} ${SIZE}`}
                className="block w-full touch-none border border-line bg-raised"
                onPointerMove={(e) => {
                    if (!moving) return;
                    const next = moving.points.map((p) => [...p]);
                    const p = fromEvent(e);
                    const onAxis = value[moving.at]![0] === 0 && (moving.at === 0 || moving.at === value.length - 1);
                    next[moving.at] = onAxis ? [0, p[1]] : p;
                    setMoving({ ...moving, points: next });
                }}
                onPointerUp={() => {
                    if (moving) onChange(moving.points);
                    setMoving(null);
                }}
                onDoubleClick={(e) => {
                    const p = fromEvent(e);
                    let best = 1;
                    let least = Infinity;
                    for (let i = 1; i < value.length; i++) {
                        const a = value[i - 1]!;
                        const b = value[i]!;
                        const d = Math.hypot(p[0] - a[0]!, p[1] - a[1]!) + Math.hypot(p[0] - b[0]!, p[1] - b[1]!) - Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!);
                        if (d < least) {
                            least = d;
                            best = i;
                        }
                    }
                    onChange([...value.slice(0, best), p, ...value.slice(best)]);
                }}
            >
                <line x1={8} x2={8} y1={0} y2={SIZE} stroke="var(--line)" strokeDasharray="4 3" />
                <polyline points={points.map((p) => toScreen(p).join(',')).join(' ')} fill="none" stroke="var(--ink)" strokeWidth={1.5} strokeLinejoin="round" />
                {points.map((p, i) => {
                    const [x, y] = toScreen(p);
                    return (
                        <circle
                            key={i}
                            cx={x}
                            cy={y}
                            r={5}
                            tabIndex={0}
                            role="button"
                            aria-label={`Point ${i + 1}: radius ${showNumber(p[0]!)} m, height ${showNumber(p[1]!)} m`}
                            fill="var(--paper)"
                            stroke="var(--ink)"
                            strokeWidth={1.5}
                            className="cursor-grab"
                            onPointerDown={(e) => {
                                svg.current!.setPointerCapture(e.pointerId);
                                setMoving({ at: i, points: value });
                            }}
                            onKeyDown={(e) => {
                                if ((e.key === 'Delete' || e.key === 'Backspace') && value.length > 3) onChange(value.filter((_, j) => j !== i));
                            }}
                        />
                    );
                })}
            </svg>
        </div>
    );
}
