import { useState } from 'react';
import type { Prop } from '../data/document';
import { currentMoments } from '../data/moments';
import { inScene, poseAt, type Pose } from '../data/pose';
import type { Triple } from '../data/pieces';
import { editProp, useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { followPointer } from '../parts/drag';
import { axes, pointsOf, within } from './grips';
import { snapped, useLens } from './lens';

/** Pixels an arrow key moves a point, and with Shift. */
const NUDGE = { near: 4, far: 40 } as const;

const ARROWS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

interface Held {
    index: number;
    /** In the prop's own coordinates. */
    at: Triple;
}

/** The points of a break in the picture, dragged over the prop or moved by arrow keys. */
export default function PointMarks() {
    useLens((s) => s.seen);
    const { chosen, stage, frame, drawing } = useUi();
    const prop = useDocument()?.props.find((p) => p.id === chosen);
    const [held, setHeld] = useState<Held | null>(null);
    if (!prop || prop.hidden || stage !== 'break' || drawing !== null) return null;
    const pose = poseAt(prop, frame, currentMoments());
    const { project } = useLens.getState();
    return pointsOf(prop).map(({ path, at, name }, i) => {
        const here = held?.index === i ? held.at : (at as Triple);
        const [x, y] = project(inScene(pose, here));
        const set = (to: Triple) => void editProp(prop.id, `Move ${name} of ${prop.name}`, { [path]: to }, 'replace');
        return (
            <div key={path} className="absolute" style={{ left: x, top: y }}>
                <button
                    type="button"
                    aria-label={`Move ${name}`}
                    title={`Drag ${name} over ${prop.name}, or move it by the arrow keys`}
                    className="absolute grid size-[22px] -translate-1/2 touch-none cursor-move place-items-center rounded-full border-2 border-ink bg-paper/70 hover:bg-paper"
                    onPointerDown={(e) => {
                        e.preventDefault();
                        e.currentTarget.focus();
                        const [dx, dy] = [x - e.clientX, y - e.clientY];
                        let to: Triple | null = null;
                        followPointer(
                            (m) => setHeld({ index: i, at: (to = moved(prop, pose, at, m.clientX + dx, m.clientY + dy)) }),
                            () => {
                                if (to !== null) set(to);
                                setHeld(null);
                            },
                        );
                    }}
                    onKeyDown={(e) => {
                        const way = ARROWS[e.key];
                        if (way === undefined || e.altKey || e.ctrlKey || e.metaKey) return;
                        e.preventDefault();
                        e.stopPropagation();
                        const by = e.shiftKey ? NUDGE.far : NUDGE.near;
                        set(moved(prop, pose, at, x + by * way[0], y + by * way[1]));
                    }}
                >
                    <span className="size-[6px] rounded-full bg-ink" />
                </button>
                {held?.index === i && <output className="figure pointer-events-none absolute top-4 left-4 border border-ink bg-paper px-2 py-0.5 text-[12px] whitespace-pre">{name.replace('the ', '')} {axes(held.at, 'm')}</output>}
            </div>
        );
    });
}

/** Where a point goes for a pixel of the picture: onto the prop, or as far away as it was where the prop is missed. */
function moved(prop: Prop, pose: Pose, at: readonly number[], x: number, y: number): Triple {
    const { surface, cast, metre } = useLens.getState();
    let to = surface(prop.id, x, y);
    if (to === null) {
        const { from, towards } = cast(x, y);
        const was = inScene(pose, at);
        const far = Math.hypot(was[0] - from[0], was[1] - from[1], was[2] - from[2]);
        to = [from[0] + far * towards[0], from[1] + far * towards[1], from[2] + far * towards[2]];
    }
    return within(pose, to).map((v) => snapped(v, metre)) as Triple;
}
