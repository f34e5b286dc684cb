import { useState } from 'react';
import type { Prop } from '../data/document';
import { fallSize, fallWay, freeMotion, letFall, type FallWay } from '../data/fall';
import { editProp } from '../data/shot';
import { Button } from '../parts/controls';
import { FALL_DRAWINGS } from './drawings';

const WAYS: { way: FallWay; label: string; hint: string }[] = [
    { way: 'clumps', label: 'In clumps', hint: 'It comes apart into clumps, which crumble where they are hit hard' },
    { way: 'near', label: 'Near the touch', hint: 'Only what is near the touch breaks off; the rest goes on as one' },
    { way: 'all', label: 'All at once', hint: 'Every piece by itself from the first touch on' },
];

/** How what is broken comes apart where it lands, in little pictures. */
function FallWays({ value, onChange }: { value: FallWay | null; onChange: (way: FallWay) => void }) {
    return (
        <div role="radiogroup" aria-label="Comes apart" className="mb-2 grid grid-cols-3 gap-1.5">
            {WAYS.map(({ way, label, hint }) => (
                <button key={way} type="button" role="radio" aria-checked={value === way} title={hint} onClick={() => onChange(way)} className={`quick flex h-[66px] flex-col items-center justify-center gap-1 border ${value === way ? 'border-chosen bg-chosen text-on-chosen' : 'border-line bg-raised hover:border-ink'}`}>
                    <span className={value === way ? 'text-chosen-mark' : ''}>{FALL_DRAWINGS[way]}</span>
                    <span className="font-narrow text-[12px]">{label}</span>
                </button>
            ))}
        </div>
    );
}

/** Lets a prop fall, in a way that is chosen first. */
export function LetFall({ prop }: { prop: Prop }) {
    const [way, choose] = useState<FallWay>('clumps');
    return (
        <>
            <FallWays value={way} onChange={choose} />
            <Button tone="loud" onClick={() => void letFall(prop, way)}>Let it fall</Button>
        </>
    );
}

/** The way a prop that falls as one comes apart now; another replaces what its release says. */
export function ComesApart({ prop }: { prop: Prop }) {
    const way = fallWay(prop.motion);
    if (way === null) return null;
    return (
        <FallWays
            value={way}
            onChange={(next) => {
                const { values, release } = freeMotion(prop, next, fallSize(prop));
                void editProp(prop.id, `${prop.name} comes apart ${WAYS.find((w) => w.way === next)!.label.toLowerCase()}`, {
                    '/motion/release': { ...(prop.motion.release?.on === 'touch' && prop.motion.release.by !== undefined ? { by: prop.motion.release.by } : {}), ...release },
                    '/motion/values/clump': values?.clump ?? 1,
                });
            }}
        />
    );
}
