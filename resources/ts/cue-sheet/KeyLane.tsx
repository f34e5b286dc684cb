import { memo, useMemo } from 'react';
import type { Value } from '../data/document';
import { keyName, moved, shiftKeys } from '../data/keys';
import { framesOf, type Lane } from '../data/lanes';
import { currentMoments } from '../data/moments';
import type { Moments } from '../data/track';
import { useUi } from '../data/ui';
import { followPointer } from '../parts/drag';
import { ROW, type Scale } from './scale';

/** Pixels from a cue within which a dragged key goes onto it. */
const SNAP = 5;

interface Shown {
    frame: number;
    tied: string | null;
}

/** Keys as diamonds, hollow where they hang on a cue: click picks, Shift adds, dragging moves all that are picked, with Alt it copies them. */
export function KeyLane({ lane, of, axes, moments, scale }: { lane: Lane; of: string; axes: readonly Value[]; moments: Moments; scale: Scale }) {
    const picked = useUi((s) => s.keys);
    const keyShift = useUi((s) => s.keyShift);
    const keys = useMemo(() => framesOf(axes, moments), [axes, moments]);
    const on = useMemo(() => new Set(picked), [picked]);
    const [still, held] = useMemo(() => [keys.filter((k) => !on.has(keyName(lane.id, k.frame))), keys.filter((k) => on.has(keyName(lane.id, k.frame)))], [keys, on, lane.id]);
    if (keys.length === 0) return null;
    const ends = [...still.map((k) => k.frame), ...held.map((k) => k.frame + keyShift)];
    return (
        <>
            <line x1={scale.x(Math.min(...ends))} x2={scale.x(Math.max(...ends))} y1={ROW / 2} y2={ROW / 2} stroke="var(--ink)" />
            <Marks lane={lane} of={of} keys={still} picked={false} scale={scale} />
            {/* Only this moves while keys are dragged, however many they are. */}
            <g transform={`translate(${scale.x(keyShift) - scale.x(0)} 0)`}>
                <Marks lane={lane} of={of} keys={held} picked scale={scale} />
            </g>
        </>
    );
}

const Marks = memo(function Marks({ lane, of, keys, picked, scale }: { lane: Lane; of: string; keys: readonly Shown[]; picked: boolean; scale: Scale }) {
    return (
        <>
            {keys.map((k) => (
                <path
                    key={k.frame}
                    d={`M${scale.x(k.frame)} ${ROW / 2 - 5.500}l5.500 5.500-5.500 5.500-5.500-5.500z`}
                    fill={picked ? '#c8f031' : k.tied === null ? 'var(--ink)' : 'var(--paper)'}
                    stroke={k.tied === null ? 'var(--ink)' : 'var(--wrong)'}
                    strokeWidth={picked || k.tied !== null ? 1.5 : 0}
                    className="cursor-ew-resize"
                    role="button"
                    tabIndex={-1}
                    aria-label={`${lane.label} of ${of}, key at frame ${k.frame}`}
                    aria-pressed={picked}
                    onPointerDown={(e) => down(e, lane, k.frame, picked, scale)}
                />
            ))}
        </>
    );
});

/** Frames a key is dragged by: whole ones, or onto a cue that is near. */
function snapped(frame: number, pixels: number, scale: Scale): number {
    const at = scale.x(frame) + pixels;
    const cue = Object.values(currentMoments().frames).find((c) => c !== null && Math.abs(scale.x(c) - at) < SNAP);
    return cue === undefined || cue === null ? scale.framesIn(pixels) : cue - frame;
}

function down(e: React.PointerEvent, lane: Lane, frame: number, on: boolean, scale: Scale): void {
    e.stopPropagation();
    const { keys: picked, set } = useUi.getState();
    const name = keyName(lane.id, frame);
    if (e.shiftKey) {
        set({ keys: on ? picked.filter((k) => k !== name) : [...picked, name] });
        return;
    }
    set({ ...(lane.prop === null ? {} : { chosen: lane.prop }), frame: Math.round(frame), playing: false, lane: lane.id, keys: on ? picked : [name], keyShift: 0 });
    followPointer(
        (m) => set({ keyShift: snapped(frame, m.clientX - e.clientX, scale) }),
        (m) => {
            const { keys, keyShift: by } = useUi.getState();
            set({ keyShift: 0 });
            if (by !== 0 && shiftKeys(keys, by, m.altKey)) set({ keys: keys.map((k) => moved(k, by)) });
        },
    );
}
