import { useState } from 'react';
import type { Prop, ShotDocument } from '../data/document';
import { placeOf, setMatches, type Match } from '../data/lineUp';
import { currentMoments } from '../data/moments';
import { usePieces, type Triple } from '../data/pieces';
import { inScene, poseAt } from '../data/pose';
import { useDocument, visibleProps } from '../data/shot';
import { useUi } from '../data/ui';
import { followPointer } from '../parts/drag';
import { within } from './grips';
import { useLens } from './lens';

/** Pixels within which a press means a corner. */
const CORNER = 14;

/** Places of props, and the rings that say where on the plate they are. */
export default function LineUpMarks() {
    useLens((s) => s.seen);
    const document = useDocument();
    const { lining, stage, frame } = useUi();
    const picture = useLens((s) => s.frame);
    if (lining === null || stage !== 'shot' || document?.camera === undefined || picture === null) return null;
    return <Marks document={document} frame={frame} picture={picture} adds={lining === 'look' ? null : lining} />;
}

function Marks({ document, frame, picture, adds }: { document: ShotDocument; frame: number; picture: readonly [number, number, number, number]; adds: 'point' | 'line' | null }) {
    const { shape, matches = [] } = document.camera!;
    const [first, setFirst] = useState<{ prop: string; at: Triple; on: [number, number] } | null>(null);
    const [dragged, setDragged] = useState<{ k: number; end: 'on' | 'onTo'; at: [number, number] } | null>(null);
    const [left, top, wide, high] = picture;
    const toScreen = ([u, v]: readonly number[]): [number, number] => [left + (u! / shape[0]) * wide, top + (v! / shape[1]) * high];
    const toPicture = (x: number, y: number): [number, number] => [Number((((x - left) / wide) * shape[0]).toFixed(2)), Number((((y - top) / high) * shape[1]).toFixed(2))];
    const { project } = useLens.getState();
    const add = (e: React.PointerEvent<HTMLElement>) => {
        const box = e.currentTarget.getBoundingClientRect();
        const found = cornerAt(document, frame, e.clientX - box.left, e.clientY - box.top);
        if (found === null) return;
        const on = toPicture(...project(found.place));
        const tidy = found.at.map((v) => Number(v.toPrecision(7))) as Triple;
        if (adds === 'point') void setMatches('Match a point', [...matches, { prop: found.prop, at: tidy, on }]);
        else if (first === null || first.prop !== found.prop) setFirst({ prop: found.prop, at: tidy, on });
        else {
            setFirst(null);
            void setMatches('Match a line', [...matches, { prop: first.prop, at: first.at, on: first.on, to: tidy, onTo: on }]);
        }
    };
    const drag = (k: number, end: 'on' | 'onTo') => (e: React.PointerEvent) => {
        e.preventDefault();
        e.stopPropagation();
        const box = (e.currentTarget.closest('[data-lining]') as HTMLElement).getBoundingClientRect();
        let at: [number, number] | null = null;
        followPointer(
            (m) => {
                at = toPicture(m.clientX - box.left, m.clientY - box.top);
                setDragged({ k, end, at });
            },
            () => {
                setDragged(null);
                if (at !== null) void setMatches(`Where match ${k + 1} is`, matches.map((m, j) => (j === k ? { ...m, [end]: at! } : m)));
            },
        );
    };
    const step = (k: number, end: 'on' | 'onTo', match: Match) => (e: React.KeyboardEvent) => {
        const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        e.stopPropagation();
        const far = e.shiftKey ? 10 : e.altKey ? 0.1 : 1;
        const was = match[end]!;
        void setMatches(`Where match ${k + 1} is`, matches.map((m, j) => (j === k ? { ...m, [end]: [was[0]! + far * by[0]!, was[1]! + far * by[1]!] as [number, number] } : m)));
    };
    return (
        <div data-lining="" className="pointer-events-none absolute inset-0">
            {adds !== null && <div className="pointer-events-auto absolute inset-0 cursor-crosshair" onPointerDown={add} />}
            {matches.map((m, k) => {
                const prop = document.props.find((p) => p.id === m.prop);
                if (prop === undefined) return null;
                const at = (end: 'on' | 'onTo') => toScreen(dragged?.k === k && dragged.end === end ? dragged.at : m[end]!);
                const ends = m.to && m.onTo ? (['on', 'onTo'] as const) : (['on'] as const);
                const places = [m.at, ...(m.to ? [m.to] : [])].map((p) => project(placeOf(prop, p, frame)));
                return (
                    <div key={k}>
                        <svg className="absolute inset-0 size-full overflow-visible" aria-hidden>
                            {places.map(([x, y], i) => <path key={i} d={`M${x - 5} ${y}h10M${x} ${y - 5}v10`} stroke="#b5422b" strokeWidth={1.6} />)}
                            {ends.map((end, i) => <path key={end} d={`M${places[i]!.join(' ')}L${at(end).join(' ')}`} stroke="#b5422b" strokeWidth={1} strokeDasharray="3 3" />)}
                            {ends.length === 2 && <path d={`M${at('on').join(' ')}L${at('onTo').join(' ')}`} stroke="#c8f031" strokeWidth={1.6} />}
                        </svg>
                        {ends.map((end) => {
                            const [x, y] = at(end);
                            return <button key={end} type="button" aria-label={`Match ${k + 1}${end === 'onTo' ? ', other end' : ''} on the plate: drag, or move by the arrow keys`} onPointerDown={drag(k, end)} onKeyDown={step(k, end, m)} className="pointer-events-auto absolute grid size-[18px] -translate-1/2 cursor-move place-items-center rounded-full border-2 border-[#c8f031] bg-[#1d2327]/35" style={{ left: x, top: y }}><span className="size-[3px] rounded-full bg-[#c8f031]" /></button>;
                        })}
                    </div>
                );
            })}
        </div>
    );
}

/** The corner of a prop nearest to a pixel, or the place of its surface there. */
function cornerAt(document: ShotDocument, frame: number, x: number, y: number): { prop: string; at: Triple; place: Triple } | null {
    const { surface, cast, project } = useLens.getState();
    const { from } = cast(x, y);
    const far = (p: Triple) => Math.hypot(p[0] - from[0], p[1] - from[1], p[2] - from[2]);
    let best: { prop: string; at: Triple; place: Triple } | null = null;
    for (const prop of visibleProps(document)) {
        const place = surface(prop.id, x, y);
        if (place !== null && (best === null || far(place) < far(best.place))) best = { prop: prop.id, at: within(poseOf(prop, document, frame), place) as Triple, place };
    }
    let nearest = CORNER;
    const hit: { prop: string; at: Triple; place: Triple } | null = best;
    for (const prop of visibleProps(document)) {
        const pose = poseOf(prop, document, frame);
        for (const at of corners(prop)) {
            const place = inScene(pose, at);
            const [u, v] = project(place);
            const off = Math.hypot(u - x, v - y);
            // What lies behind the surface that was pressed on is not meant.
            if (off < nearest && (hit === null || far(place) < 1.02 * far(hit.place))) {
                nearest = off;
                best = { prop: prop.id, at, place };
            }
        }
    }
    return best;
}

function poseOf(prop: Prop, document: ShotDocument, frame: number) {
    return poseAt(prop, frame, currentMoments(), document.frames.first);
}

/** The points of a prop's surface, in its own coordinates. */
function corners(prop: Prop): Triple[] {
    const own = usePieces.getState().byProp[prop.id];
    if (own === undefined) return [];
    const out = new Map<string, Triple>();
    own.pieceOf.forEach((piece, k) => {
        const c = own.pieces[piece]!.centre;
        const at: Triple = [own.positions[3 * k]! + c[0], own.positions[3 * k + 1]! + c[1], own.positions[3 * k + 2]! + c[2]];
        out.set(at.map((v) => v.toFixed(5)).join(), at);
    });
    return [...out.values()];
}
