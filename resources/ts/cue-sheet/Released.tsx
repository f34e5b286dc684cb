import { useMemo, useState } from 'react';
import { framesFit, STRIDE, useBake } from '../data/bake';
import type { Prop } from '../data/document';
import { usePieces } from '../data/pieces';
import { editProp, useDocument, visibleProps } from '../data/shot';
import { followPointer } from '../parts/drag';
import { ROW, type Scale } from './scale';

/** For each free prop the share of its pieces let go, frame by frame, read off the baked frames. */
export function useReleasedShare(): Record<string, number[]> {
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

export function Released({ prop, curve, scale }: { prop: Prop; curve: number[] | null; scale: Scale }) {
    const { x, frameAt } = scale;
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
                    onPointerDown={(e) => {
                        const { left } = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
                        let to = at;
                        followPointer(
                            (m) => setDrag((to = frameAt(m.clientX - left))),
                            () => {
                                if (to !== release.frame) void editProp(prop.id, `Release at frame ${to}`, { '/motion/release/frame': to });
                                setDrag(null);
                            },
                        );
                    }}
                />
            )}
            {release?.on === 'touch' && !line && <text x={x(first) + 4} y={17} fontSize={11.500} fill="var(--soft)">on touch; the frame is found by the bake</text>}
        </>
    );
}
