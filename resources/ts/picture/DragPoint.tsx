import { useState } from 'react';
import { inScene, type Pose } from '../data/pose';
import type { Triple } from '../data/pieces';
import { followPointer } from '../parts/drag';
import { axes } from './grips';
import { onPlane, useLens } from './lens';

/** Pixels an arrow key moves a point, and with Shift. */
const NUDGE = { near: 4, far: 40 } as const;

const ARROWS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

interface Props {
    /** Where the coordinates it is given in stand. */
    pose: Pose;
    at: Triple;
    label: string;
    title?: string;
    onSet: (to: Triple) => void;
    /** Where it is while it is dragged; null when let go. */
    onHeld?: (at: Triple | null) => void;
    /** Where it goes for a pixel of the picture; in the plane through it that faces the eye if not said. */
    to?: (x: number, y: number) => Triple;
    /** What the figures beside it say while it is dragged; its place if not said. */
    words?: (at: Triple) => string;
    small?: boolean;
}

/** A point in the picture that is dragged, or moved by the arrow keys. */
export function DragPoint({ pose, at, label, title = 'Drag it, or move it by the arrow keys', onSet, onHeld, to, words, small = false }: Props) {
    const [held, setHeld] = useState<Triple | null>(null);
    const here = held ?? at;
    const [x, y] = useLens.getState().project(inScene(pose, here));
    const go = to ?? ((px: number, py: number) => onPlane(pose, at, px, py));
    const hold = (next: Triple | null) => {
        setHeld(next);
        onHeld?.(next);
    };
    const drag = (e: React.PointerEvent) => {
        e.preventDefault();
        (e.currentTarget as HTMLElement).focus();
        const [dx, dy] = [x - e.clientX, y - e.clientY];
        let next: Triple | null = null;
        followPointer((m) => hold((next = go(m.clientX + dx, m.clientY + dy))), () => {
            if (next !== null) onSet(next);
            hold(null);
        });
    };
    return (
        <div className="absolute" style={{ left: x, top: y }}>
            <button
                type="button"
                aria-label={label}
                title={title}
                className={`absolute grid -translate-1/2 touch-none cursor-move place-items-center rounded-full border-2 border-ink bg-paper/75 hover:bg-paper ${small ? 'size-[14px]' : 'size-[21px]'}`}
                onPointerDown={drag}
                onKeyDown={(e) => {
                    const way = ARROWS[e.key];
                    if (way === undefined || e.altKey || e.ctrlKey || e.metaKey) return;
                    e.preventDefault();
                    e.stopPropagation();
                    const by = e.shiftKey ? NUDGE.far : NUDGE.near;
                    onSet(go(x + by * way[0], y + by * way[1]));
                }}
            >
                <span className={`rounded-full bg-ink ${small ? 'size-[4px]' : 'size-[6px]'}`} />
            </button>
            {held !== null && <output className="figure pointer-events-none absolute top-4 left-4 border border-ink bg-paper px-2 py-0.5 text-[12px] whitespace-pre">{words?.(held) ?? axes(held, 'm')}</output>}
        </div>
    );
}
