import { Pause, Play, Repeat } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { framesFit, STRIDE, useBake } from '../data/bake';
import type { Prop } from '../data/document';
import { usePieces } from '../data/pieces';
import { editProp, useDocument, visibleProps } from '../data/shot';
import { useUi } from '../data/ui';
import { showNumber } from '../parts/number';
import { moveKey } from '../stages/keys';

const NAMES = 190;
const ROW = 25;

/** What happens when: the ruler, and for each prop its keys, releases and contacts. */
export function CueSheet() {
    const document = useDocument();
    const [width, setWidth] = useState(800);
    const [open, setOpen] = useState(true);
    const track = useRef<HTMLDivElement>(null);
    useEffect(() => {
        const watch = new ResizeObserver(([e]) => setWidth(e!.contentRect.width));
        if (track.current) watch.observe(track.current);
        return () => watch.disconnect();
    }, [document === null]);
    if (!document) return null;
    const { first, last } = document.frames;
    const pad = 14;
    const x = (frame: number) => pad + ((frame - first) / (last - first)) * (width - 2 * pad - 8);
    const frameAt = (px: number) => Math.min(last, Math.max(first, Math.round(first + ((px - pad) / (width - 2 * pad - 8)) * (last - first))));
    return (
        <section aria-label="Cue sheet" className="grid border-t border-line bg-paper" style={{ gridTemplateColumns: `${NAMES}px 1fr` }}>
            <div className="flex h-[33px] items-center gap-1 border-r border-b border-line pr-2 pl-3">
                <button type="button" className="font-semibold" aria-expanded={open} onClick={() => setOpen(!open)} title={open ? 'Fold to the ruler' : 'Unfold'}>{open ? 'Cues' : 'Cues ▸'}</button>
                <span className="ml-1 flex-1 font-narrow text-[12px] text-soft">{document.frames.rate} fps</span>
                <Transport />
            </div>
            <div ref={track} className="relative border-b border-line">
                <Ruler x={x} first={first} last={last} frameAt={frameAt} />
            </div>
            {open && <Lanes x={x} frameAt={frameAt} width={width} />}
        </section>
    );
}

function Transport() {
    const { playing, loop, frame, set } = useUi();
    return (
        <>
            <button type="button" aria-label={playing ? 'Stop' : 'Play'} title="Space" onClick={() => set({ playing: !playing })} className="grid size-[24px] place-items-center border border-line bg-raised hover:border-ink">{playing ? <Pause size={12} fill="currentColor" /> : <Play size={12} fill="currentColor" />}</button>
            <button type="button" aria-label="Loop" aria-pressed={loop} title="Loop" onClick={() => set({ loop: !loop })} className={`grid size-[24px] place-items-center border ${loop ? 'border-ink' : 'border-line text-soft'} bg-raised`}><Repeat size={12} /></button>
            <span className="figure w-[34px] text-right text-[13px]" aria-label="Frame" data-frame={frame}>{frame}</span>
        </>
    );
}

interface Scale {
    x: (frame: number) => number;
    frameAt: (px: number) => number;
}

function Ruler({ x, first, last, frameAt }: Scale & { first: number; last: number }) {
    const set = useUi((s) => s.set);
    const frame = useUi((s) => s.frame);
    const bake = useBake((s) => s.bake);
    const loaded = useBake((s) => s.loaded);
    const step = [1, 2, 4, 8, 12, 24, 48, 96, 240, 480].find((s) => x(first + s) - x(first) > 34) ?? 960;
    const ticks = useMemo(() => Array.from({ length: Math.floor((last - first) / step) + 1 }, (_, i) => first + i * step), [first, last, step]);
    const scrub = (e: React.PointerEvent) => set({ frame: frameAt(e.clientX - e.currentTarget.getBoundingClientRect().left), playing: false });
    return (
        <svg
            className="block h-[32px] w-full cursor-ew-resize touch-none"
            role="slider"
            aria-label="Playhead"
            aria-valuemin={first}
            aria-valuemax={last}
            aria-valuenow={frame}
            tabIndex={0}
            onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                scrub(e);
            }}
            onPointerMove={(e) => e.buttons === 1 && scrub(e)}
        >
            {bake !== null && loaded > 0 && <rect x={x(bake.first)} y={29} width={Math.max(0, x(bake.first + loaded - 1) - x(bake.first))} height={3} fill={bake.outOfDate.length > 0 ? '#e39a00' : '#1f7a5c'} />}
            {ticks.map((t) => (
                <g key={t}>
                    <line x1={x(t)} x2={x(t)} y1={17} y2={28} stroke="var(--soft)" />
                    <text x={x(t) + 3} y={14} fontSize={11} fill="var(--ink)" className="figure">{t}</text>
                </g>
            ))}
            <Playhead at={x(frame)} height={32} head />
        </svg>
    );
}

function Playhead({ at, height, head }: { at: number; height: number; head?: boolean }) {
    return (
        <g pointerEvents="none">
            <line x1={at} x2={at} y1={head ? 16 : 0} y2={height} stroke="var(--ink)" strokeWidth={1.5} />
            {head && <path d={`M${at - 6.500} 2h13v9l-6.500 7-6.500-7z`} fill="#c8f031" stroke="#1d2327" />}
        </g>
    );
}

interface Lane {
    name: string;
    prop?: Prop;
    kind: 'prop' | 'released' | 'keys';
}

function Lanes({ x, frameAt, width }: Scale & { width: number }) {
    const document = useDocument()!;
    const frame = useUi((s) => s.frame);
    const chosen = useUi((s) => s.chosen);
    const props = visibleProps(document);
    const lanes: Lane[] = props.flatMap((prop): Lane[] => [
        { name: prop.name, prop, kind: 'prop' },
        ...(prop.motion.kind === 'free' ? [{ name: 'released', prop, kind: 'released' } as const] : []),
        ...((prop.motion.keys?.length ?? 0) > 0 && prop.motion.kind !== 'fixed' ? [{ name: 'keys', prop, kind: 'keys' } as const] : []),
    ]);
    const height = Math.min(lanes.length * ROW, 155);
    const share = useReleasedShare();
    return (
        <div className="col-span-2 overflow-y-auto" style={{ height: Math.max(height, 2 * ROW), display: 'grid', gridTemplateColumns: `${NAMES}px 1fr` }}>
            <div className="border-r border-line">
                {lanes.map((l, i) => (
                    <div key={i} className={`truncate border-b border-line/60 pl-3 leading-[24px] ${l.kind === 'prop' ? 'bg-[var(--wash)] font-semibold' : 'pl-5'} ${l.prop?.id === chosen && l.kind === 'prop' ? 'border-l-[3px] border-l-ink pl-[9px]' : ''}`}>{l.name}</div>
                ))}
                {lanes.length === 0 && <p className="p-3 text-soft">Props appear here.</p>}
            </div>
            <svg className="block touch-none" width={width} height={Math.max(lanes.length * ROW, 2 * ROW)} aria-label="Lanes">
                {lanes.map((l, i) => (
                    <g key={i} transform={`translate(0 ${i * ROW})`}>
                        <rect width={width} height={ROW} fill={l.kind === 'prop' ? 'var(--wash)' : 'transparent'} />
                        <line x2={width} y1={ROW - 0.5} y2={ROW - 0.5} stroke="var(--line)" opacity={0.6} />
                        {l.kind === 'released' && <Released prop={l.prop!} curve={share[l.prop!.id] ?? null} x={x} frameAt={frameAt} />}
                        {l.kind === 'keys' && <KeyLane prop={l.prop!} x={x} frameAt={frameAt} />}
                        {l.kind === 'prop' && <Contacts prop={l.prop!} x={x} />}
                    </g>
                ))}
                <Playhead at={x(frame)} height={lanes.length * ROW} />
            </svg>
        </div>
    );
}

/** For each free prop the share of its pieces let go, frame by frame, read off the baked frames. */
function useReleasedShare(): Record<string, number[]> {
    const document = useDocument();
    const byProp = usePieces((s) => s.byProp);
    const { bake, frames, loaded } = useBake();
    return useMemo(() => {
        const out: Record<string, number[]> = {};
        const props = document ? visibleProps(document) : [];
        const total = props.reduce((n, p) => n + (byProp[p.id]?.pieces.length ?? 0), 0);
        if (!framesFit(bake, total)) return out;
        let base = 0;
        for (const p of props) {
            const n = byProp[p.id]!.pieces.length;
            if (p.motion.kind === 'free') {
                out[p.id] = Array.from({ length: loaded }, (_, f) => {
                    let free = 0;
                    for (let i = 0; i < n; i++) if (frames[(f * total + base + i) * STRIDE + 3]! > 0) free++;
                    return free / n;
                });
            }
            base += n;
        }
        return out;
    }, [document, byProp, bake, frames, loaded]);
}

function Released({ prop, curve, x, frameAt }: Scale & { prop: Prop; curve: number[] | null }) {
    const release = prop.motion.release;
    const first = useBake((s) => s.bake?.first ?? 0);
    const [drag, setDrag] = useState<number | null>(null);
    const line = curve?.map((v, i) => `${x(first + i)},${ROW - 3 - v * (ROW - 7)}`).join(' ');
    const at = drag ?? release?.frame ?? 0;
    return (
        <>
            {line && <polygon points={`${x(first)},${ROW - 3} ${line} ${x(first + curve!.length - 1)},${ROW - 3}`} fill="#1f7a5c" opacity={0.5} stroke="#1f7a5c" />}
            {release?.on === 'frame' && (
                <path
                    d={`M${x(at)} 3v19M${x(at)} 3h9l-3 4 3 4h-9`}
                    fill="var(--ink)"
                    stroke="var(--ink)"
                    strokeWidth={1.5}
                    className="cursor-ew-resize"
                    role="button"
                    aria-label={`${prop.name} is released at frame ${at}`}
                    onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
                    onPointerMove={(e) => e.buttons === 1 && setDrag(frameAt(e.clientX - e.currentTarget.ownerSVGElement!.getBoundingClientRect().left))}
                    onPointerUp={() => {
                        if (drag !== null && drag !== release.frame) void editProp(prop.id, `Release at frame ${drag}`, { '/motion/release/frame': drag });
                        setDrag(null);
                    }}
                />
            )}
            {release?.on === 'touch' && !line && <text x={x(first) + 4} y={17} fontSize={11.500} fill="var(--soft)">on touch; the frame is found by the bake</text>}
        </>
    );
}

function KeyLane({ prop, x, frameAt }: Scale & { prop: Prop }) {
    const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
    const set = useUi((s) => s.set);
    const keys = (prop.motion.keys ?? []).map((k) => ({ ...k, shown: drag?.from === k.frame ? drag.to : k.frame }));
    const shown = keys.map((k) => k.shown);
    return (
        <>
            <line x1={x(Math.min(...shown))} x2={x(Math.max(...shown))} y1={ROW / 2} y2={ROW / 2} stroke="var(--ink)" />
            {keys.map((k) => (
                <path
                    key={k.frame}
                    d={`M${x(k.shown)} ${ROW / 2 - 5.500}l5.500 5.500-5.500 5.500-5.500-5.500z`}
                    fill="var(--ink)"
                    className="cursor-ew-resize"
                    role="button"
                    aria-label={`Key of ${prop.name} at frame ${k.frame}`}
                    onPointerDown={(e) => {
                        e.currentTarget.setPointerCapture(e.pointerId);
                        set({ chosen: prop.id, frame: k.frame, playing: false });
                        setDrag({ from: k.frame, to: k.frame });
                    }}
                    onPointerMove={(e) => drag && setDrag({ ...drag, to: frameAt(e.clientX - e.currentTarget.ownerSVGElement!.getBoundingClientRect().left) })}
                    onPointerUp={() => {
                        if (drag) moveKey(prop.id, drag.from, drag.to);
                        setDrag(null);
                    }}
                />
            ))}
        </>
    );
}

function Contacts({ prop, x }: { prop: Prop; x: (frame: number) => number }) {
    const figures = useBake((s) => s.figures);
    const document = useDocument()!;
    const marks = figures.flatMap((f) => f.marks).filter((m) => m.prop === prop.id);
    const name = (id: string) => (id === 'ground' ? 'the ground' : (document.props.find((p) => p.id === id)?.name ?? id));
    return (
        <>
            {marks.map((m, i) => (
                <text key={i} x={x(m.frame) + 4} y={17} fontSize={11.500} fontWeight={600} fill="var(--wrong)">✕ touches {name(m.other)}, {showNumber(m.speed, 2)} m/s</text>
            ))}
        </>
    );
}
