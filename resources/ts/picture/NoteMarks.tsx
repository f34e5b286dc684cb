import { useState } from 'react';
import type { ShotDocument } from '../data/document';
import { look } from '../data/camera';
import { MOST_LINES, MOST_POINTS, useNotes, type Line } from '../data/notes';
import { useDocument, visibleProps } from '../data/shot';
import { useUi } from '../data/ui';
import { followPointer } from '../parts/drag';
import { along, useLens } from './lens';

/** Pixels between two points of a line. */
const STEP = 5;

/** The mark of the note that is looked at, and the one that is being drawn: it stays where it was drawn, however one looks. */
export default function NoteMarks() {
    useLens((s) => s.seen);
    const document = useDocument();
    const { drawing, lines, shown } = useNotes();
    const frame = useUi((s) => s.frame);
    const [now, setNow] = useState<Line | null>(null);
    if (document === null) return null;
    const note = shown === null ? undefined : document.notes?.[shown];
    const seen = [...(note !== undefined && note.frame === frame ? (note.mark ?? []) : []), ...lines, ...(now === null ? [] : [now])] as Line[];
    const { project } = useLens.getState();
    const draw = (e: React.PointerEvent<HTMLElement>) => {
        if (e.button !== 0 || lines.length >= MOST_LINES) return;
        const box = e.currentTarget.getBoundingClientRect();
        let last: [number, number] = [e.clientX - box.left, e.clientY - box.top];
        let line: Line = [placeAt(document, ...last, null)];
        setNow(line);
        followPointer(
            (m) => {
                const at: [number, number] = [m.clientX - box.left, m.clientY - box.top];
                if (Math.hypot(at[0] - last[0], at[1] - last[1]) < STEP || line.length >= MOST_POINTS) return;
                last = at;
                line = [...line, placeAt(document, ...at, line.at(-1)!)];
                setNow(line);
            },
            () => {
                setNow(null);
                if (line.length > 1) useNotes.setState({ lines: [...useNotes.getState().lines, line] });
            },
        );
    };
    return (
        <>
            {seen.length > 0 && (
                <svg aria-hidden data-note-mark={seen.length} className="pointer-events-none absolute inset-0 size-full overflow-visible">
                    {seen.map((line, k) => <path key={k} d={`M${line.map((p) => project(p).map((v) => v.toFixed(1)).join(' ')).join('L')}`} fill="none" stroke="#b5422b" strokeWidth={3} strokeLinecap="round" strokeLinejoin="round" />)}
                </svg>
            )}
            {drawing && <div data-note-board="" className="absolute inset-0 cursor-crosshair touch-none" onPointerDown={draw} />}
        </>
    );
}

/** What a pixel means in the scene: the surface that is seen there, or as far away as the point before. */
function placeAt(document: ShotDocument, x: number, y: number, before: readonly [number, number, number] | null): [number, number, number] {
    const { surface, cast } = useLens.getState();
    const { from, towards } = cast(x, y);
    const far = (p: readonly number[]) => Math.hypot(p[0]! - from[0], p[1]! - from[1], p[2]! - from[2]);
    let best: [number, number, number] | null = null;
    for (const prop of visibleProps(document)) {
        const at = surface(prop.id, x, y);
        if (at !== null && (best === null || far(at) < far(best))) best = at;
    }
    return (best ?? along(from, towards, far(before ?? look.now().target.toArray()))).map((v) => Number(v.toPrecision(6))) as [number, number, number];
}
