import { useMemo, useState } from 'react';
import { useBake } from '../data/bake';
import type { Prop } from '../data/document';
import { editProp } from '../data/shot';
import type { Moments } from '../data/track';
import { followPointer } from '../parts/drag';
import { ROW, type Scale } from './scale';

/** The share of a prop's pieces let go, frame by frame, and the mark of the release that is dragged. */
export function Released({ prop, moments, scale }: { prop: Prop; moments: Moments; scale: Scale }) {
    const { x, frameAt } = scale;
    const release = prop.motion.release ?? { on: 'frame' as const, frame: 0 };
    const figures = useBake((s) => s.figures);
    const bake = useBake((s) => s.bake);
    const curve = useMemo(() => {
        const pieces = bake?.counts[bake.props.indexOf(prop.id)] ?? 0;
        return pieces === 0 ? [] : figures.map((f) => ({ frame: f.frame, share: (f.released[prop.id] ?? 0) / pieces }));
    }, [figures, bake, prop.id]);
    const [drag, setDrag] = useState<number | null>(null);
    const anchor = release.on === 'cue' ? (moments.frames[release.cue] ?? null) : null;
    const set = release.on === 'frame' ? release.frame : release.on === 'cue' && anchor !== null ? anchor + release.offset : null;
    const at = drag ?? set;
    const low = ROW - 3;
    const move = (to: number) =>
        void editProp(prop.id, `Release at frame ${to}`, { '/motion/release': release.on === 'cue' && anchor !== null ? { ...release, offset: to - anchor } : { on: 'frame', frame: to } });
    return (
        <>
            {curve.length > 0 && <polygon points={`${x(curve[0]!.frame)},${low} ${curve.map((c) => `${x(c.frame)},${low - c.share * (ROW - 7)}`).join(' ')} ${x(curve[curve.length - 1]!.frame)},${low}`} fill="#1f7a5c" opacity={0.5} stroke="#1f7a5c" />}
            {at !== null && (
                <path
                    d={`M${x(at)} 3v19M${x(at)} 3h9l-3 4 3 4h-9`}
                    fill={release.on === 'cue' ? 'var(--paper)' : 'var(--ink)'}
                    stroke={release.on === 'cue' ? 'var(--wrong)' : 'var(--ink)'}
                    strokeWidth={1.5}
                    className="cursor-ew-resize"
                    role="button"
                    aria-label={`${prop.name} is released at frame ${at}`}
                    onPointerDown={(e) => {
                        e.stopPropagation();
                        const { left } = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
                        let to = at;
                        followPointer(
                            (m) => setDrag((to = frameAt(m.clientX - left))),
                            () => {
                                if (to !== set) move(to);
                                setDrag(null);
                            },
                        );
                    }}
                />
            )}
            {at === null && curve.every((c) => c.share === 0) && <text x={x(bake?.first ?? 0) + 4} y={17} fontSize={11.500} fill="var(--soft)" stroke="var(--paper)" strokeWidth={5} paintOrder="stroke">{release.on === 'cue' ? 'at a cue that is not anchored yet' : 'on touch; the frame is found by the bake'}</text>}
        </>
    );
}
