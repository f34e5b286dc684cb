import { Popover } from 'radix-ui';
import { useState } from 'react';
import { setEase } from '../data/keys';
import { useCatalogue } from '../data/useCatalogue';
import { useUi } from '../data/ui';
import { plate } from './plate';

/** How the picked keys go on to the next, chosen by the shapes. */
export function EaseMenu() {
    const eases = useCatalogue()?.eases ?? [];
    const keys = useUi((s) => s.keys);
    const [open, setOpen] = useState(false);
    return (
        <Popover.Root open={open} onOpenChange={setOpen}>
            <Popover.Trigger className={plate} title="How the picked keys go on to the next">Ease</Popover.Trigger>
            <Popover.Portal>
                <Popover.Content side="top" align="start" sideOffset={6} aria-label="Eases" className="z-50 grid grid-cols-4 gap-1.5 border border-line bg-paper p-2.5">
                    {eases.map((e) => (
                        <button key={e.name} type="button" className="quick w-[78px] border border-line bg-raised p-1 text-[11px] hover:border-ink" onClick={() => { setEase(keys, e.name); setOpen(false); }}>
                            <Shape shape={e.shape} hold={e.name === 'hold'} />
                            {e.label}
                        </button>
                    ))}
                    <button type="button" className="quick w-[78px] border border-line bg-raised p-1 text-[11px] hover:border-ink" onClick={() => { setEase(keys, [0.5, 0, 0.5, 1]); useUi.getState().set({ drawer: true }); setOpen(false); }}>
                        <Shape shape={eases.find((e) => e.name === 'smooth')?.shape ?? []} hold={false} handles />
                        Own curve
                    </button>
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}

function Shape({ shape, hold, handles = false }: { shape: readonly number[]; hold: boolean; handles?: boolean }) {
    const x = (k: number) => 6 + (52 * k) / Math.max(1, shape.length - 1);
    const y = (v: number) => 38 - 26 * v;
    return (
        <svg viewBox="0 0 64 44" className="block h-[44px] w-full" aria-hidden>
            <path d={hold ? `M6 38H58V12` : `M${shape.map((v, k) => `${x(k)} ${y(v)}`).join('L')}`} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
            {handles && <path d="M6 38H32M58 12H32" stroke="var(--wrong)" />}
            {handles && [[32, 38], [32, 12]].map(([cx, cy]) => <circle key={cy} cx={cx} cy={cy} r={2.500} fill="var(--wrong)" />)}
            <path d="M6 34l4 4-4 4-4-4zM58 8l4 4-4 4-4-4z" fill="var(--ink)" />
        </svg>
    );
}
