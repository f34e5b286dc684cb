import type { Prop } from '../data/document';
import { useUi } from '../data/ui';
import { followPointer } from '../parts/drag';
import { keyName, shiftKeys } from '../data/keys';
import { ROW, type Scale } from './scale';

/** Keys as diamonds: click picks, Shift adds, dragging moves all that are picked, with Alt it copies them. */
export function KeyLane({ prop, scale }: { prop: Prop; scale: Scale }) {
    const { keys: picked, keyShift, set } = useUi();
    const keys = (prop.motion.keys ?? []).map((k) => {
        const on = picked.includes(keyName(prop.id, k.frame));
        return { frame: k.frame, on, shown: on ? k.frame + keyShift : k.frame };
    });
    const shown = keys.map((k) => k.shown);
    const down = (e: React.PointerEvent, frame: number, on: boolean) => {
        const name = keyName(prop.id, frame);
        if (e.shiftKey) {
            set({ keys: on ? picked.filter((k) => k !== name) : [...picked, name] });
            return;
        }
        set({ chosen: prop.id, frame, playing: false, keys: on ? picked : [name], keyShift: 0 });
        followPointer(
            (m) => set({ keyShift: Math.max(-earliest(useUi.getState().keys), scale.framesIn(m.clientX - e.clientX)) }),
            (m) => {
                const { keys: now, keyShift: by } = useUi.getState();
                set({ keyShift: 0 });
                if (by !== 0 && shiftKeys(now, by, m.altKey)) set({ keys: now.map((k) => moved(k, by)) });
            },
        );
    };
    return (
        <>
            <line x1={scale.x(Math.min(...shown))} x2={scale.x(Math.max(...shown))} y1={ROW / 2} y2={ROW / 2} stroke="var(--ink)" />
            {keys.map((k) => (
                <path
                    key={k.frame}
                    d={`M${scale.x(k.shown)} ${ROW / 2 - 5.500}l5.500 5.500-5.500 5.500-5.500-5.500z`}
                    fill={k.on ? 'var(--paper)' : 'var(--ink)'}
                    stroke="var(--ink)"
                    strokeWidth={k.on ? 2 : 0}
                    className="cursor-ew-resize"
                    role="button"
                    aria-label={`Key of ${prop.name} at frame ${k.frame}`}
                    aria-pressed={k.on}
                    onPointerDown={(e) => down(e, k.frame, k.on)}
                />
            ))}
        </>
    );
}

function earliest(picked: readonly string[]): number {
    return Math.min(...picked.map((k) => Number(k.slice(k.lastIndexOf(' ') + 1))));
}

function moved(key: string, by: number): string {
    const at = key.lastIndexOf(' ');
    return keyName(key.slice(0, at), Number(key.slice(at + 1)) + by);
}
