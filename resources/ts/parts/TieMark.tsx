import { useQuery } from '@tanstack/react-query';
import { Link2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { api } from '../data/api';
import { showNumber } from '../data/quantity';
import { useShot } from '../data/shot';
import { alike, called, placeOf, tie, tiedTo, untie } from '../data/ties';
import type { ShotValue } from '../data/trials';
import { Button } from './controls';

interface Props {
    /** Which value it is, as `prop:place/size`; its axis where it has three. */
    lane: string;
    axis?: number;
    label: string;
    open: boolean;
    onOpen: (open: boolean) => void;
}

/** In the box of a number: what it is the same as, and a list to choose that from. */
export function TieMark({ lane, axis, label, open, onOpen }: Props) {
    const document = useShot((s) => s.shot?.document ?? null);
    const place = document === null ? null : placeOf(document, lane, axis);
    if (document === null || place === null) return null;
    const others = tiedTo(document, place);
    return (
        <Popover.Root open={open} onOpenChange={onOpen}>
            <Popover.Trigger
                tabIndex={others.length > 0 ? 0 : -1}
                aria-label={others.length > 0 ? `${label} is the same as another` : `${label} the same as another`}
                title={others.length > 0 ? 'The same as another: click to see which' : 'The same as another (or type =)'}
                className={`shrink-0 ${others.length > 0 ? '' : 'text-soft opacity-0 focus-visible:opacity-100 group-hover:opacity-100'}`}
            >
                <Link2 size={12} aria-hidden />
            </Popover.Trigger>
            <Popover.Portal>
                <Popover.Content sideOffset={4} align="end" aria-label={`${label} the same as`} className="z-50 w-[340px] border border-line bg-paper p-2 text-ink">
                    {open && <Choices place={place} label={label} others={others} onDone={() => onOpen(false)} />}
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}

function Choices({ place, label, others, onDone }: { place: string; label: string; others: readonly string[]; onDone: () => void }) {
    const shot = useShot((s) => s.shot!);
    const { data: all } = useQuery({ queryKey: ['values', shot.id, shot.revision], queryFn: () => api.values(shot.id), placeholderData: (before) => before });
    const [search, setSearch] = useState('');
    if (all === undefined) return <p className="p-1 text-soft">…</p>;
    const words = search.trim().toLowerCase().split(/\s+/);
    const found = alike(all, place).filter((v) => !others.includes(v.place!) && words.every((w) => `${v.label} ${v.of} ${v.part}`.toLowerCase().includes(w)));
    const pick = (to: ShotValue) => {
        tie(place, label, to);
        onDone();
    };
    return (
        <>
            {others.length > 0 && (
                <div className="mb-2 border-b border-line pb-2">
                    <p><b className="font-semibold">{label}</b> is the same as:</p>
                    <ul aria-label="The same as">
                        {others.map((p) => <li key={p} className="py-0.5">{nameOf(all, p)}</li>)}
                    </ul>
                    <p className="mb-1.5 text-soft">Where one is changed, so are the others.</p>
                    <Button onClick={() => { untie(place, label); onDone(); }}>By itself again</Button>
                </div>
            )}
            <input
                autoFocus
                aria-label="Find what it is the same as"
                placeholder={`${label.toLowerCase()} the same as…`}
                value={search}
                onChange={(e) => setSearch(e.target.value)}
                onKeyDown={(e) => {
                    if (e.key !== 'Escape') e.stopPropagation();
                    if (e.key === 'Enter' && found[0] !== undefined) pick(found[0]);
                }}
                className="h-[28px] w-full border border-line bg-raised px-2"
            />
            <ul aria-label="Numbers it can be the same as" className="mt-1 max-h-[200px] overflow-y-auto">
                {found.map((v) => (
                    <li key={v.path}>
                        <button type="button" onClick={() => pick(v)} className="flex w-full items-baseline gap-2 px-1.5 py-1 text-left hover:bg-[var(--wash)]">
                            <span className="min-w-0 flex-1 truncate">{v.label}{v.of !== '' && <span className="text-soft"> of {v.of}</span>}</span>
                            <span className="shrink-0 text-[12px] text-soft">{v.part}</span>
                            <span className="figure w-[56px] shrink-0 text-right text-[11px] text-soft">{v.keyed ? 'keyed' : v.now === null ? '' : `${showNumber(Number(v.now) / v.times)}${v.unit === '' ? '' : ` ${v.unit}`}`}</span>
                        </button>
                    </li>
                ))}
                {found.length === 0 && <li className="px-1.5 py-1 text-soft">The shot has no other number of this kind{search.trim() === '' ? '' : ' of that name'}.</li>}
            </ul>
        </>
    );
}

function nameOf(all: readonly ShotValue[], place: string): string {
    const value = all.find((v) => v.place === place);
    if (value === undefined) return 'one that is of no use as the shot is now';
    const words = called(value);
    return words.charAt(0).toUpperCase() + words.slice(1);
}
