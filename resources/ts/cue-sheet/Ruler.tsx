import { useMemo } from 'react';
import { staleFrom, useBake } from '../data/bake';
import type { Frames } from '../data/document';
import { withEnd } from '../data/play';
import { timeShown } from '../data/time';
import { useUi } from '../data/ui';
import { followPointer } from '../parts/drag';
import { flagWidth, Playhead } from './Playhead';
import type { Scale } from './scale';

/** Pixels of the ruler beyond the last frame that a number may lie in. */
const EDGE = 20;

const STEPS = [1, 2, 4, 8, 12, 24, 48, 96, 240, 480];

/** Frames, what of them is baked, the range that plays, and the playhead. */
export function Ruler({ scale, frames, shown }: { scale: Scale; frames: Frames; shown: readonly [number, number] }) {
    const { x, frameAt } = scale;
    const { first, last } = frames;
    const set = useUi((s) => s.set);
    const frame = useUi((s) => s.frame);
    const range = useUi((s) => s.range);
    const bake = useBake((s) => s.bake);
    const loaded = useBake((s) => s.loaded);
    const stale = staleFrom(bake);
    const clock = useUi((s) => s.clock);
    const step = STEPS.find((s) => x(first + s) - x(first) > (clock === 'timecode' ? 76 : clock === 'seconds' ? 48 : 34)) ?? 960;
    const [left, right] = shown;
    const ticks = useMemo(() => {
        const start = first + Math.ceil((left - first) / step) * step;
        return Array.from({ length: Math.max(0, Math.floor((Math.min(last, right) - start) / step) + 1) }, (_, i) => start + i * step);
    }, [first, last, left, right, step]);
    const scrub = (e: React.PointerEvent) => {
        const { left } = e.currentTarget.getBoundingClientRect();
        const to = (x: number) => set({ frame: frameAt(x - left), playing: false });
        to(e.clientX);
        followPointer((m) => to(m.clientX));
    };
    const [from, to] = range ?? [first, last];
    return (
        <svg
            className="block h-[32px] w-full cursor-ew-resize touch-none"
            role="slider"
            aria-label="Playhead"
            aria-valuemin={first}
            aria-valuemax={last}
            aria-valuenow={frame}
            tabIndex={0}
            onPointerDown={scrub}
        >
            {range && (
                <>
                    <rect x={0} y={0} width={x(from)} height={32} fill="var(--wash)" />
                    <rect x={x(to)} y={0} width={Math.max(0, x(last) + 30 - x(to))} height={32} fill="var(--wash)" />
                </>
            )}
            {bake !== null && loaded > 0 && <rect x={x(bake.first)} y={29} width={Math.max(0, x(bake.first + loaded - 1) - x(bake.first))} height={3} fill={stale === null ? '#1f7a5c' : '#e39a00'} />}
            {bake !== null && stale !== null && stale > bake.first && <rect x={x(bake.first)} y={29} width={x(stale - 1) - x(bake.first)} height={3} fill="#1f7a5c" />}
            {ticks.map((t) => (
                <g key={t}>
                    <line x1={x(t)} x2={x(t)} y1={17} y2={28} stroke="var(--soft)" />
                    {/* The flag says its own frame: what it would cover is left out. */}
                    {Math.abs(x(t) + 3 + 3.4 * String(t).length - x(frame)) > flagWidth(frame) / 2 + 3.4 * String(t).length + 2 && <text x={Math.min(x(t) + 3, x(last) + EDGE - 6.7 * timeShown(t, clock, frames.rate).length)} y={14} fontSize={11} fill="var(--ink)" className="figure">{timeShown(t, clock, frames.rate)}</text>}
                </g>
            ))}
            <RangeEnd end={0} at={from} scale={scale} frames={frames} />
            <RangeEnd end={1} at={to} scale={scale} frames={frames} />
            <Playhead at={x(frame)} height={32} frame={frame} />
        </svg>
    );
}

/** A bracket at one end of the range that plays; dragged, or reset by a double click. */
function RangeEnd({ end, at, scale, frames }: { end: 0 | 1; at: number; scale: Scale; frames: Frames }) {
    const set = useUi((s) => s.set);
    const out = end === 0 ? -1 : 1;
    const move = (frame: number) => set({ range: withEnd(frames, useUi.getState().range, end, frame) });
    return (
        <g
            role="button"
            aria-label={end === 0 ? `Play from frame ${at}` : `Play to frame ${at}`}
            onPointerDown={(e) => {
                e.stopPropagation();
                const { left } = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
                followPointer((m) => move(scale.frameAt(m.clientX - left)));
            }}
            onDoubleClick={() => set({ range: null })}
        >
            <title>Drag to play only part of the shot; double-click for all of it</title>
            <rect x={scale.x(at) - (end === 0 ? 11 : 0)} y={16} width={11} height={16} fill="transparent" />
            <path d={`M${scale.x(at) + out * 6} 18.5H${scale.x(at) + out}V30.5H${scale.x(at) + out * 6}`} fill="none" stroke="var(--ink)" strokeWidth={2} />
        </g>
    );
}
