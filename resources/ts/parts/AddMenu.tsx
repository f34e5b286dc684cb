import { Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { Entry } from '../data/api';

/** Adds one of several things, each with what it does. */
export function AddMenu({ label, title = `Add a ${label}`, entries, onAdd }: { label: string; title?: string; entries: Record<string, Entry>; onAdd: (name: string) => void }) {
    return (
        <DropdownMenu.Root>
            <DropdownMenu.Trigger className="flex items-center gap-1 font-sans text-[13px] text-ink underline-offset-2 hover:underline" aria-label={title}>
                <Plus size={13} aria-hidden /> {label}
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
                <DropdownMenu.Content align="end" className="z-50 max-h-[70vh] overflow-y-auto border border-line bg-paper py-1">
                    {Object.entries(entries).map(([name, entry]) => (
                        <DropdownMenu.Item key={name} className="flex cursor-default items-baseline gap-3 px-3 py-1 outline-none data-[highlighted]:bg-[var(--wash)]" onSelect={() => onAdd(name)}>
                            <span className="w-[86px] font-medium">{entry.label}</span>
                            <span className="text-soft">{entry.meaning}</span>
                        </DropdownMenu.Item>
                    ))}
                </DropdownMenu.Content>
            </DropdownMenu.Portal>
        </DropdownMenu.Root>
    );
}
