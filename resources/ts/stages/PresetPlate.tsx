import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Bookmark, X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { api, type PresetBench } from '../data/api';
import type { Prop } from '../data/document';
import { layPreset } from '../data/presets';
import { said } from '../data/said';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button } from '../parts/controls';

/** Kept values of a bench: laid on the chosen props, dragged onto one, or kept anew. */
export function PresetPlate({ bench, prop }: { bench: PresetBench; prop: Prop }) {
    const [open, setOpen] = useState(false);
    return (
        <Popover.Root open={open} onOpenChange={setOpen}>
            <Popover.Trigger className="quick flex h-[26px] shrink-0 items-center gap-1 border border-line bg-raised px-2 hover:border-ink" title="Kept values of this bench, to lay on other props"><Bookmark size={12} aria-hidden /> Presets</Popover.Trigger>
            <Popover.Portal>
                <Popover.Content sideOffset={4} align="end" aria-label="Presets" className="z-50 w-[300px] border border-line bg-paper p-2 text-ink">
                    {open && <List bench={bench} prop={prop} onDone={() => setOpen(false)} />}
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}

function List({ bench, prop, onDone }: { bench: PresetBench; prop: Prop; onDone: () => void }) {
    const queries = useQueryClient();
    const { data } = useQuery({ queryKey: ['presets'], queryFn: api.presets });
    const [name, setName] = useState('');
    const shot = useShot((s) => s.shot!.id);
    const also = useUi((s) => s.also);
    const fresh = (list: Awaited<ReturnType<typeof api.presets>>) => queries.setQueryData(['presets'], list);
    const keep = async () => {
        try {
            fresh(await api.keepPreset(shot, prop.id, bench, name));
            setName('');
        } catch (e) {
            said(e);
        }
    };
    const own = data?.filter((p) => p.bench === bench) ?? [];
    return (
        <>
            <ul aria-label={`Presets of this bench`} className="max-h-[260px] overflow-y-auto">
                {own.map((p) => (
                    <li key={p.id} className="flex items-center border-b border-dotted border-line last:border-b-0">
                        <button
                            type="button"
                            draggable
                            onDragStart={(e) => e.dataTransfer.setData('application/x-yard-preset', p.id)}
                            onClick={() => { void layPreset(p.id, [prop.id, ...also]); onDone(); }}
                            title={`Lay it on ${also.length === 0 ? prop.name : `${also.length + 1} props`}, or drag it onto one`}
                            className="min-w-0 flex-1 truncate px-1.5 py-1 text-left hover:bg-[var(--wash)]"
                        >
                            {p.name}
                        </button>
                        {!p.given && <button type="button" aria-label={`Remove the preset ${p.name}`} onClick={async () => { await api.removePreset(p.id); fresh((data ?? []).filter((o) => o.id !== p.id)); }} className="p-1 text-soft hover:text-wrong"><X size={12} /></button>}
                    </li>
                ))}
                {own.length === 0 && <li className="px-1.5 py-1 text-soft">None yet.</li>}
            </ul>
            <form className="mt-2 flex gap-1.5" onSubmit={(e) => { e.preventDefault(); void keep(); }}>
                <input aria-label="Keep as" placeholder={`keep that of ${prop.name} as…`} value={name} maxLength={60} onChange={(e) => setName(e.target.value)} onKeyDown={(e) => e.stopPropagation()} className="h-[28px] min-w-0 flex-1 border border-line bg-raised px-2" />
                <Button type="submit" disabled={name.trim() === ''}>Keep</Button>
            </form>
        </>
    );
}
