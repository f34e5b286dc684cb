import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Entry } from '../data/api';
import { applies } from '../data/options';
import { OptionField } from '../parts/OptionField';

interface Item {
    name: string;
    entry: Entry | undefined;
    values: Record<string, unknown>;
    note?: string;
}

interface Props {
    items: Item[];
    onValue: (index: number, option: string, label: string, value: unknown) => void;
    onMove?: (from: number, to: number) => void;
    onRemove: (index: number) => void;
    start?: readonly number[];
    /** What else belongs to the drawing of an item: drawing it by hand. */
    draw?: (index: number) => ReactNode;
    empty: ReactNode;
}

/** Steps in their order, each with its settings. */
export function Stack({ items, onValue, onMove, onRemove, start, draw, empty }: Props) {
    if (items.length === 0) return <p className="mb-2 text-soft">{empty}</p>;
    return (
        <ol className="mb-2">
            {items.map((item, i) => {
                const label = item.entry?.label ?? item.name;
                return (
                    <li key={i} className="mb-1.5 border border-line bg-raised px-2.5 py-1.5">
                        <header className="flex items-center gap-2">
                            <span className="figure text-[11px] text-soft">{i + 1}</span>
                            <span className="font-medium">{label}</span>
                            {item.note && <span className="truncate text-soft">{item.note}</span>}
                            <span className="flex-1" />
                            {onMove && i > 0 && <IconButton label={`Move ${label} up`} onClick={() => onMove(i, i - 1)}><ArrowUp size={13} aria-hidden /></IconButton>}
                            {onMove && i < items.length - 1 && <IconButton label={`Move ${label} down`} onClick={() => onMove(i, i + 1)}><ArrowDown size={13} aria-hidden /></IconButton>}
                            <IconButton label={`Remove ${label}`} onClick={() => onRemove(i)}><Trash2 size={13} aria-hidden /></IconButton>
                        </header>
                        {item.entry?.options.filter((o) => applies(o, item.entry!.options, item.values)).map((o) => (
                            <OptionField key={o.name} option={o} value={item.values[o.name]} start={start} extra={o.type === 'lines' ? draw?.(i) : undefined} onChange={(v) => onValue(i, o.name, o.label, v)} />
                        ))}
                    </li>
                );
            })}
        </ol>
    );
}

function IconButton({ label, onClick, children }: { label: string; onClick: () => void; children: ReactNode }) {
    return <button type="button" aria-label={label} title={label} onClick={onClick} className="text-soft hover:text-ink">{children}</button>;
}
